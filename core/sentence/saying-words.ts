import type { Language } from '../locales/index.ts';
import { operatorWords, phrasesFor } from '../messages/index.ts';
import type { FieldTest } from '../rules/index.ts';
import { partsOfDuration, type Weekday } from '../time/index.ts';
import { formatDay, type Money, numberText } from '../values/index.ts';
import { type Choices, calledSo, type Known, withId } from './known.ts';
import { quoted } from './plain.ts';
import type { Tense } from './tokens.ts';
import { valueWords } from './value-words.ts';
import { type Keyword, PHRASES } from './words/index.ts';

/** A piece of a sentence: its text, and whether it is a name, which is quoted where it would be read as something else. */
export interface Piece {
  text: string;
  isName: boolean;
  /** Whether the piece stands close to the one before it, as a comma does. */
  isClose: boolean;
}

const ORDINALS = new Intl.PluralRules('en', { type: 'ordinal' });
const ORDINAL: Partial<Record<Intl.LDMLPluralRule, string>> = { one: 'st', two: 'nd', few: 'rd' };

/** What says the parts of a rule in one language: pieces that are joined to a sentence. */
export class Saying {
  constructor(
    readonly language: Language,
    readonly locale: string,
    readonly known: Known,
  ) {}

  word(key: Keyword): Piece[] {
    const text = PHRASES[this.language][key][0] ?? key;
    return [
      { text, isName: false, isClose: key === 'comma' || key === 'semicolon' || key === 'colon' || key === 'close' },
    ];
  }

  words(...keys: Keyword[]): Piece[] {
    return keys.flatMap((key) => this.word(key));
  }

  text(text: string): Piece[] {
    return [{ text: quoted(text), isName: false, isClose: false }];
  }

  plain(text: string): Piece[] {
    return [{ text, isName: false, isClose: false }];
  }

  op(op: FieldTest['op'], tense: Tense): Piece[] {
    // An option may be called *Empty*: having no value is said so that it is nothing else.
    if (op === 'empty' || op === 'filled') return this.plain(valueWords(op, tense, this.language));
    return this.plain(operatorWords(op, tense, phrasesFor(this.language)));
  }

  /** A day of a week, or of a month: *Monday*, *1st*. */
  dayOf(day: Weekday | number): Piece[] {
    if (typeof day !== 'number') return this.plain(phrasesFor(this.language).say(`day.${day}`));
    return this.plain(this.language === 'en' ? `${day}${ORDINAL[ORDINALS.select(day)] ?? 'th'}` : String(day));
  }

  /** What leads to the days on which something is due; the days of a month are led to by the second phrase. */
  onDays(ofMonth: boolean): Piece[] {
    const [ofWeek = '', dates] = PHRASES[this.language].onDays;
    return this.plain(ofMonth && dates ? dates : ofWeek);
  }

  /** One of what is called so: *a loan*, *an object*. */
  oneOf(named: readonly Piece[]): Piece[] {
    const [before = '', beforeVowel] = PHRASES[this.language].a;
    const isVowel = this.language === 'en' && /^[“]?[aeio]/i.test(named[0]?.text ?? '');
    return [...this.plain(isVowel && beforeVowel ? beforeVowel : before), ...named];
  }

  times(count: number): Piece[] {
    const [many = '', once] = PHRASES[this.language].times;
    return this.plain(`${count} ${count === 1 && once ? once : many}`);
  }

  number(value: string | number): Piece[] {
    return this.plain(String(value).replace('.', numberText('0.5', this.locale).charAt(1)));
  }

  money({ amount, currency }: Money): Piece[] {
    const [figure] = this.number(amount);
    return this.plain(`${figure?.text ?? amount} ${currency}`);
  }

  day(day: string): Piece[] {
    return this.plain(formatDay(day, this.locale));
  }

  /** A span of time in its own units: `P14D` is *14 days*. */
  span(duration: string): Piece[] {
    const isBack = duration.startsWith('-');
    const parts = partsOfDuration(duration);
    const said = parts.length > 0 ? parts : [{ count: 0, unit: 'second' as const }];
    return said.flatMap(({ count, unit }, at) => {
      const phrases = PHRASES[this.language][unit];
      const name = count === 1 ? (phrases[1] ?? phrases[0]) : phrases[0];
      return this.plain(`${isBack && at === 0 ? '-' : ''}${count} ${name}`);
    });
  }

  /** A name by which something of these is known here; with its id behind it where the name alone would not tell it. */
  name(id: string, choices: readonly Choices[]): Piece[] {
    const mine = choices.flatMap((choice) => withId(choice, id) ?? [])[0];
    const bracketed = `[${id.replace(/[\\\]]/g, (sign) => `\\${sign}`)}]`;
    if (!mine || mine.name.trim() === '') return this.plain(bracketed);
    const called = choices.flatMap((choice) => calledSo(choice, mine.name, null));
    const isPlain = called.length === 1 && called[0]?.id === id;
    return [{ text: isPlain ? mine.name : `${quoted(mine.name)} ${bracketed}`, isName: isPlain, isClose: false }];
  }

  /** Parts in a row: *a, b or c*. */
  row(parts: readonly Piece[][], last: 'and' | 'or'): Piece[] {
    return parts.flatMap((part, at) => {
      if (at === 0) return part;
      return [...this.word(at === parts.length - 1 ? last : 'comma'), ...part];
    });
  }

  /** The same joined by one word throughout. */
  joined(parts: readonly Piece[][], by: Keyword): Piece[] {
    return parts.flatMap((part, at) => (at === 0 ? part : [...this.word(by), ...part]));
  }

  bracketed(inside: readonly Piece[]): Piece[] {
    const [first, ...others] = inside;
    if (!first) return this.words('open', 'close');
    return [...this.word('open'), { ...first, isClose: true }, ...others, ...this.word('close')];
  }
}
