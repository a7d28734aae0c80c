/** What people answer who want no more, in the languages that Ojo speaks and as gateways know it. */
const STOPS = new Set(
  'stop stopp stops stopall unsubscribe cancel end quit revoke optout arret basta baja bajar alto para parar parad detener cancelar fin salir'.split(
    ' ',
  ),
);
const STARTS = new Set('start unstop resume optin alta empezar reanudar volver'.split(' '));
/** More words than these are a sentence that happens to begin so. */
const MOST_WORDS = 4;

/** A text as words are found in it: in any case, with any marks, with signs of any width, and none that cannot be seen. */
const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[\p{M}\p{Cf}\p{Cc}]/gu, (sign) => (/\s/.test(sign) ? ' ' : ''))
    .toLowerCase();

/** Whether somebody wants no more texts, or texts again: the one word, spelled as people spell it, perhaps with a please. */
export function wishIn(text: string): 'stop' | 'start' | null {
  const words = plain(text).match(/[\p{L}\p{N}]+/gu) ?? [];
  // “S.T.O.P.”, “s t o p”, “Stop all”, “opt-out”.
  const said = [words.join(''), words.length <= MOST_WORDS ? (words[0] ?? '') : '', words.slice(0, 2).join('')];
  if (said.some((word) => STOPS.has(word))) return 'stop';
  return said.some((word) => STARTS.has(word)) ? 'start' : null;
}

/** The one code that a text is taken to hold, in capitals: of its words of four signs the first with a figure in it, else the first; `null` where there is none. */
export function codeIn(text: string): string | null {
  const words =
    text
      .normalize('NFKC')
      .toUpperCase()
      .match(/[0-9A-Z]+/g) ?? [];
  const codes = words.filter((word) => word.length === 4);
  return codes.find((word) => /[0-9]/.test(word)) ?? codes[0] ?? null;
}
