import type { Language } from '../../locales/index.ts';
import { ENGLISH } from './en.ts';
import { SPANISH } from './es.ts';

/** What a word or phrase of a typed rule is, whatever the language. */
export type Keyword = keyof typeof ENGLISH;

/** All keywords. */
export const KEYWORDS = Object.keys(ENGLISH) as Keyword[];

/** Each keyword's phrases in every language, the one that is written first. */
export const PHRASES: Record<Language, Record<Keyword, readonly string[]>> = { en: ENGLISH, es: SPANISH };
