import { phraseBook } from '../../core/locales/index.ts';
import { ENGLISH } from './faults.en.ts';
import { SPANISH } from './faults.es.ts';
import { type Params, sayWith } from './put.ts';

type FaultWord = keyof typeof ENGLISH;

const book = phraseBook<FaultWord>({ en: ENGLISH, es: SPANISH });
const isKnown = (code: string): code is FaultWord => Object.hasOwn(ENGLISH, code);

/** What is wrong with a document, in a sentence of the locale's language; the code itself where it is not known here. */
export function faultWords({ code, params }: { code: string; params: Params }, locale?: string): string {
  if (!isKnown(code)) return code;
  const phrases = book(locale);
  return sayWith(phrases, code, { english: ENGLISH[code], params, none: phrases.say('none') });
}
