/** A decimal as a number, where a number says it to the last digit; else as it is written. */
export function plainNumber(written: string | number): number | string {
  const text = String(written);
  const number = Number(text);
  return Number.isFinite(number) && String(number) === text ? number : text;
}

/** Text in quotes, as it is read back. */
export const quoted = (text: string): string =>
  `“${text.replace(/[\\”"»]/g, (sign) => `\\${sign}`).replace(/\n/g, '\\n')}”`;
