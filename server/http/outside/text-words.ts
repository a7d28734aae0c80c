/** What people answer who want no more, in the languages that Ojo speaks and as gateways know it. */
const STOPS = new Set('stop stopp stops stopall unsubscribe optout arret basta baja'.split(' '));
/** The same, in words that other sentences begin with too: they mean it where they stand alone. */
const STOPS_ALONE = new Set('cancel end quit revoke bajar alto para parar parad detener cancelar fin salir'.split(' '));
const STARTS = new Set('start unstop optin alta'.split(' '));
const STARTS_ALONE = new Set('resume empezar reanudar volver'.split(' '));
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
  // “S.T.O.P.”, “s t o p”.
  const whole = words.join('');
  // “Stop please”, “opt-out, please”.
  const begun = words.length <= MOST_WORDS ? [words[0] ?? '', words.slice(0, 2).join('')] : [];
  const says = (known: ReadonlySet<string>, alone: ReadonlySet<string>) =>
    known.has(whole) || alone.has(whole) || begun.some((word) => known.has(word));
  if (says(STOPS, STOPS_ALONE)) return 'stop';
  return says(STARTS, STARTS_ALONE) ? 'start' : null;
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
