/** Gives a document to the browser as a file of JSON. */
export function download(name: string, document: unknown): void {
  const address = URL.createObjectURL(
    new Blob([`${JSON.stringify(document, null, 2)}\n`], { type: 'application/json' }),
  );
  const link = globalThis.document.createElement('a');
  link.href = address;
  link.download = name.replace(/[^\p{L}\p{N} ._-]/gu, '').slice(0, 80) || 'rule.json';
  link.click();
  URL.revokeObjectURL(address);
}
