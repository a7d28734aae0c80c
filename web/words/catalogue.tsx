import { Fragment, type ReactNode } from 'react';
import { type Catalogues, phraseBook, type PutParts, type Words } from '../../core/locales/index.ts';
import { locale } from './locale.ts';

/** The end of what stands before a form of a plural or a choice: `one {`, `other {`. */
type Choice = 'zero ' | 'one ' | 'two ' | 'few ' | 'many ' | 'other ' | 'yes ' | 'no ' | '=0 ' | '=1 ';
type Bare<Name extends string> = Name extends `${string} ${string}` | `#${string}` | '' ? never : Name;
type Head<Text extends string> = Text extends `${infer Inside}}${string}`
  ? Inside extends `${infer Name},${string}`
    ? Bare<Name>
    : Bare<Inside>
  : never;
/** The names of what a text wants put in. */
export type Wanted<Text extends string> = Text extends `${infer Before}{${infer After}`
  ? (Before extends `${string}${Choice}` ? never : Head<After>) | Wanted<After>
  : never;

type Asked<Text extends string, Value> = [Wanted<Text>] extends [never]
  ? [put?: Record<string, never>]
  : [put: { [Name in Wanted<Text>]: Value }];

/** What is put among a page's words, or made of the words between two marks. */
type Rich = ReactNode | ((inside: ReactNode[]) => ReactNode);
type AskedRich<Text extends string> = [Wanted<Text>] extends [never]
  ? [put?: Record<string, Rich>]
  : [put: { [Name in Wanted<Text>]: Rich } & Record<string, Rich>];

/** The texts of one subject, in the language in which the pages speak when it is asked. */
export interface Texts<Texts extends Record<string, string>> {
  <Key extends keyof Texts & string>(key: Key, ...put: Asked<Texts[Key], string | number>): string;
  /** The same with what stands between `<b>` and `</b>` marked. */
  words<Key extends keyof Texts & string>(key: Key, ...put: Asked<Texts[Key], string | number>): Words;
  /** The same with elements put in, and with what stands between `<b>` and `</b>`, or other marks that are given, as elements. */
  rich<Key extends keyof Texts & string>(key: Key, ...put: AskedRich<Texts[Key]>): ReactNode;
}

const MARKS = { b: (inside: ReactNode[]) => <strong>{keyed(inside)}</strong> };

const keyed = (parts: ReactNode[]): ReactNode => parts.map((part, at) => <Fragment key={at}>{part}</Fragment>);

/** Texts of one subject from its catalogues, which have the same keys in every language. */
export function texts<const English extends Record<string, string>>(
  english: English,
  others: Omit<Catalogues<keyof English & string>, 'en'>,
): Texts<English> {
  type Key = keyof English & string;
  const book = phraseBook<Key>({ en: english, ...others });
  const say = (key: Key, put?: Record<string, string | number>) => book(locale()).say(key, put);
  const rich = (key: Key, put: Record<string, Rich> = {}) =>
    keyed(book(locale()).parts<ReactNode>(key, { ...MARKS, ...put } as PutParts<ReactNode>));
  const words = (key: Key, put?: Record<string, string | number>) => book(locale()).words(key, put);
  return Object.assign(say, { rich, words }) as Texts<English>;
}
