import { createToken, Lexer, type TokenType } from 'chevrotain';
import type { Language } from '../locales/index.ts';
import type { Operator } from '../rules/index.ts';
import type { Weekday } from '../time/index.ts';
import { CHANGE_KINDS, type Money } from '../values/index.ts';
import { KEYWORDS, type Keyword, PHRASES } from './words/index.ts';

/** What comes with a token beside its text. */
export interface Payload {
  /** A name, or what stands in quotes. */
  text?: string;
  /** The id that stands behind a name, in square brackets. */
  id?: string | null;
  op?: { op: Operator; tense: Tense };
  weekday?: Weekday;
  number?: string;
  money?: Money;
  /** A day, a time of day, an instant, a time zone. */
  value?: string;
}

/** The sides of a change on which a test looks. */
export const TENSES = ['is', 'was', 'becomes'] as const;
/** On which side of a change a test looks. */
export type Tense = (typeof TENSES)[number];

// Texts are cut into tokens by `cut`, which knows the names; chevrotain is handed them ready.
const make = (name: string, categories: TokenType[] = []): TokenType =>
  createToken({ name, pattern: Lexer.NA, categories });

/** Whatever may stand for a name: one that is known, or what is quoted. */
export const AnyName = make('AnyName');
/** A name that is known. */
export const Name = make('Name', [AnyName]);
/** Text in quotes. */
export const Quoted = make('Quoted', [AnyName]);
/** A test of a field: *is above*, *becomes*. */
export const Op = make('Op');
/** A day, as people write one. */
export const Day = make('Day');
/** An instant (RFC 3339). */
export const Instant = make('Instant');
/** A time of day. */
export const Clock = make('Clock');
/** A number. */
export const Figure = make('Figure');
/** An amount with its currency. */
export const Sum = make('Sum');
/** A day of the week. */
export const Weekdays = make('Weekday');
/** A time zone, by its name in the IANA database. */
export const Zone = make('Zone');
/** A word that nothing is known of. */
export const Unknown = make('Unknown');
/** A word of a span of time: *days*, *hours*. */
export const Unit = make('Unit');
/** The keywords that are units of time, from the longest. */
export const UNITS = ['month', 'week', 'day', 'hour', 'minute', 'second'] as const;
/** What kind of change: *is added*. */
export const Kind = make('Kind');
/** The keywords that are kinds of changes. */
export const KINDS = CHANGE_KINDS satisfies readonly Keyword[];
/** A kind of change as it is said behind another: *is added or changed*. */
export function shortKind(key: (typeof KINDS)[number], language: Language): string {
  const phrases: readonly string[] = PHRASES[language][key];
  return phrases.find((phrase) => phrases.includes(`is ${phrase}`)) ?? phrases[0] ?? key;
}
/** By what a message goes. */
export const Channel = make('Channel');
/** The keywords that are channels. */
export const CHANNELS = ['inApp', 'email', 'text'] as const satisfies Keyword[];

const categoriesOf = (keyword: Keyword): TokenType[] => {
  if ((UNITS as readonly string[]).includes(keyword)) return [Unit];
  if ((KINDS as readonly string[]).includes(keyword)) return [Kind];
  return (CHANNELS as readonly string[]).includes(keyword) ? [Channel] : [];
};

/** The token of each keyword. */
export const WORD = Object.fromEntries(KEYWORDS.map((key) => [key, make(`word:${key}`, categoriesOf(key))])) as Record<
  Keyword,
  TokenType
>;

/** The keyword that a token is; `null` of one that is none. */
export const keywordOf = ({ name }: TokenType): Keyword | null =>
  name.startsWith('word:') ? (name.slice(5) as Keyword) : null;

/** Every token, those that stand for several first. */
export const TOKENS: TokenType[] = [
  AnyName,
  Unit,
  Kind,
  Channel,
  Name,
  Quoted,
  Op,
  Day,
  Instant,
  Clock,
  Figure,
  Sum,
  Weekdays,
  Zone,
  Unknown,
  ...Object.values(WORD),
];
