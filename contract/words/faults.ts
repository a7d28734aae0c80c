import { phraseBook } from '../../core/locales/index.ts';
import { ENGLISH } from './faults.en.ts';
import { SPANISH } from './faults.es.ts';
import { type Params, sayWith } from './put.ts';

type FaultWord = keyof typeof ENGLISH;

const book = phraseBook<FaultWord>({ en: ENGLISH, es: SPANISH });
const isKnown = (code: string): code is FaultWord => Object.hasOwn(ENGLISH, code);

/** What would be right, as documents write it. */
const IN_DOCUMENTS = { number: '57.5', amount: '120000.00 EUR', day: '2026-03-04', duration: 'P14D or PT2H' };

/** The same as people of a locale type it. */
function asTyped(locale: string): typeof IN_DOCUMENTS {
  const number = (value: number, digits: number) => value.toLocaleString(locale, { minimumFractionDigits: digits });
  const days = (many: number) =>
    many.toLocaleString(locale, { style: 'unit', unit: 'day', unitDisplay: 'long', maximumFractionDigits: 0 });
  return {
    number: number(57.5, 1),
    amount: `${number(120_000, 2)} EUR`,
    day: new Date(Date.UTC(2026, 2, 4)).toLocaleDateString(locale, { timeZone: 'UTC' }),
    duration: days(14),
  };
}

/**
 * What is wrong with a document, in a sentence; the code itself where it is not known here.
 * @param locale whose language it is said in, with what would be right as people type it there; left out, in English and as documents write it
 */
export function faultWords({ code, params }: { code: string; params: Params }, locale?: string): string {
  if (!isKnown(code)) return code;
  const phrases = book(locale);
  const examples = locale === undefined ? IN_DOCUMENTS : asTyped(locale);
  return sayWith(phrases, code, {
    english: ENGLISH[code],
    params: { ...examples, ...params },
    none: phrases.say('none'),
  });
}
