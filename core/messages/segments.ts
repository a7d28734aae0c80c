/** The basic set of GSM 03.38 (3GPP TS 23.038, section 6.2.1), one septet each. */
const BASIC = new Set(
  '@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !"#¤%&\'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà',
);
/** Its extension, two septets each. */
const EXTENDED = new Set('^{}\\[~]|€');

/** How a text message travels: its alphabet, its length in that alphabet's units, and in how many segments. */
export interface Segments {
  alphabet: 'GSM-7' | 'UCS-2';
  units: number;
  count: number;
}

/** Counts a text's segments: 160 or 153 septets, 70 or 67 code units where a sign needs UCS-2. */
export function segmentsOf(text: string): Segments {
  let septets = 0;
  for (const sign of text) {
    if (BASIC.has(sign)) septets += 1;
    else if (EXTENDED.has(sign)) septets += 2;
    else return counted('UCS-2', text.length, 70, 67);
  }
  return counted('GSM-7', septets, 160, 153);
}

const counted = (alphabet: Segments['alphabet'], units: number, whole: number, part: number): Segments => ({
  alphabet,
  units,
  count: units <= whole ? 1 : Math.ceil(units / part),
});

/** Replaces what would force a text into UCS-2 by its nearest sign of the basic set; letters lose accents it lacks. */
export function toBasicSet(text: string): string {
  return [...text]
    .map((sign) => {
      if (BASIC.has(sign) || EXTENDED.has(sign)) return sign;
      const plain = sign.normalize('NFD').replace(/\p{M}/gu, '');
      if (plain !== '' && [...plain].every((one) => BASIC.has(one))) return plain;
      return (
        {
          '→': '>',
          '–': '-',
          '—': '-',
          '’': "'",
          '‘': "'",
          '“': '"',
          '”': '"',
          '…': '...',
          '\u00a0': ' ',
          '\u202f': ' ',
        }[sign] ?? sign
      );
    })
    .join('');
}
