import type { Language } from '../locales/index.ts';
import type { Tense } from './tokens.ts';
import { type Keyword, PHRASES } from './words/index.ts';

const KEYS: Record<'empty' | 'filled', Record<Tense, Keyword>> = {
  empty: { is: 'noValue', was: 'hadNoValue', becomes: 'losesValue' },
  filled: { is: 'hasValue', was: 'hadValue', becomes: 'getsValue' },
};

/** Whether a field has a value, in words that no option can be called. */
export const valueWords = (op: 'empty' | 'filled', tense: Tense, language: Language): string =>
  PHRASES[language][KEYS[op][tense]][0] ?? op;

/** The words for having a value, as tests that may be read. */
export const valueTests = (language: Language) =>
  (['empty', 'filled'] as const).flatMap((op) =>
    (['is', 'was', 'becomes'] as const).map((tense) => ({ phrase: valueWords(op, tense, language), op, tense })),
  );
