import type { WithheldReason } from '../../core/decide/index.ts';
import { phraseBook } from '../../core/locales/index.ts';
import type { Channel } from '../../core/people/index.ts';
import { type Params, sayWith } from './put.ts';
import { ENGLISH } from './refusals.en.ts';
import { SPANISH } from './refusals.es.ts';

type WordKey = keyof typeof ENGLISH;
type Below<Prefix extends string> = WordKey extends infer Key
  ? Key extends `${Prefix}.${infer Code}`
    ? Code
    : never
  : never;

/** Every code of a problem, whoever finds it. */
export type ProblemWord = Below<'problem'>;
/** Why a request was refused, more closely than its problem says. */
export type BecauseCode = Below<'because'>;

const book = phraseBook<WordKey>({ en: ENGLISH, es: SPANISH });
const isKey = (key: string): key is WordKey => Object.hasOwn(ENGLISH, key);

const say = (key: WordKey, params: Params, locale: string | undefined): string =>
  sayWith(book(locale), key, { english: ENGLISH[key], params, none: '' });

/** What a refusal is known by: its code, and why where that is known more closely; words of its own for whoever has no others. */
interface Refused {
  code: string;
  because?: { code: string; params: Params } | undefined;
  title: string;
  detail?: string | undefined;
}

/** What a refusal says, in the language of a locale. */
export function problemWords(
  { code, because, title, detail }: Refused,
  locale?: string,
): { title: string; detail: string | undefined } {
  const key = `problem.${code}`;
  const why = `because.${because?.code}`;
  return {
    title: isKey(key) ? say(key, {}, locale) : title,
    detail: because && isKey(why) ? say(why, because.params, locale) : detail,
  };
}

const FAULTY: ReadonlySet<WithheldReason> = new Set(['inactive', 'noAccess', 'unconfirmed', 'noChannel']);
/** Withheld for a reason that somebody ought to mend. */
export const isFault = (reason: WithheldReason): boolean => FAULTY.has(reason);

/** Why somebody did not hear, after their name. */
export const reasonWords = (reason: WithheldReason, locale?: string): string => say(`reason.${reason}`, {}, locale);

/** By what a message goes: *by email*. */
export const channelWords = (channel: Channel, locale?: string): string => say(`channel.${channel}`, {}, locale);
