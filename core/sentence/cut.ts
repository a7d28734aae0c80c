import { createTokenInstance, type IToken, type TokenType } from 'chevrotain';
import type { Language } from '../locales/index.ts';
import { operatorWords, phrasesFor } from '../messages/index.ts';
import { OPERATORS } from '../rules/index.ts';
import { isCivilTime, isZone, parseInstant, WEEKDAYS } from '../time/index.ts';
import { optionName, readAmount, readDay, readNumber } from '../values/index.ts';
import { allNames, type Known, sourceChoices } from './known.ts';
import {
  Clock,
  Day,
  Figure,
  Instant,
  KINDS,
  keywordOf,
  Name,
  Op,
  type Payload,
  Quoted,
  shortKind,
  Sum,
  TENSES,
  Unknown,
  Weekdays,
  WORD,
  Zone,
} from './tokens.ts';
import { valueTests } from './value-words.ts';
import { type Keyword, KEYWORDS, PHRASES } from './words/index.ts';

/** One stretch of a sentence, from and to a place in its text, with what it says. */
export type Stretch = IToken & { payload: Payload };

interface Entry {
  /** In small letters, as many signs as are written. */
  phrase: string;
  type: TokenType;
  payload: Payload;
}

/** Small letters, sign by sign, so that places stay what they are. */
export const small = (text: string): string =>
  [...text.replace(/[‘’]/g, "'")]
    .map((sign) => {
      const lower = sign.toLowerCase();
      return lower.length === sign.length ? lower : sign;
    })
    .join('');

const NUMBER_WORDS: Record<Language, string[]> = {
  en: ['two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'],
  es: ['dos', 'tres', 'cuatro', 'cinco', 'seis', 'siete', 'ocho', 'nueve', 'diez'],
};

/** What a language says itself: keywords, tests, days of the week, small numbers. */
function ownEntries(language: Language): Entry[] {
  const terms = phrasesFor(language);
  return [
    // Those that say a test are read as tests.
    ...KEYWORDS.filter((key) => !OF_TESTS.has(key)).flatMap((key) =>
      PHRASES[language][key].map((phrase) => ({ phrase: small(phrase), type: WORD[key], payload: {} })),
    ),
    ...OPERATORS.flatMap((op) =>
      TENSES.map((tense) => ({
        phrase: small(operatorWords(op, tense, terms)),
        type: Op,
        payload: { op: { op, tense } },
      })),
    ),
    ...valueTests(language).map(({ phrase, op, tense }) => ({ phrase, type: Op, payload: { op: { op, tense } } })),
    ...WEEKDAYS.map((weekday) => ({
      phrase: small(terms.say(`day.${weekday}`)),
      type: Weekdays,
      payload: { weekday },
    })),
    ...NUMBER_WORDS[language].map((word, at) => ({ phrase: word, type: Figure, payload: { number: String(at + 2) } })),
  ];
}

const OF_TESTS: ReadonlySet<Keyword> = new Set([
  'noValue',
  'hadNoValue',
  'losesValue',
  'hasValue',
  'hadValue',
  'getsValue',
]);

const KIND_KEYS: ReadonlySet<Keyword> = new Set(KINDS);
/** Kinds of changes that are said shorter behind others: *is added or changed*. */
const shortKinds = (language: Language): ReadonlySet<string> =>
  new Set(
    KINDS.flatMap((key) => {
      const short = shortKind(key, language);
      return short === PHRASES[language][key][0] ? [] : [short];
    }),
  );
const SHORT_KINDS: Record<Language, ReadonlySet<string>> = { en: shortKinds('en'), es: shortKinds('es') };

/** Whatever stands between two words counts as one space. */
const withOneSpace = (text: string): string => text.replace(/\s+/gu, ' ');

/** What is known by its words; and by the sign that phrases begin with how long there are any, the longest first. */
interface Dictionary {
  of: ReadonlyMap<string, readonly Entry[]>;
  lengths: ReadonlyMap<string, readonly number[]>;
}

/** Of entries with the same words those that the language says itself come first, as they are given. */
function dictionaryOf(entries: readonly Entry[]): Dictionary {
  const of = new Map<string, Entry[]>();
  const lengths = new Map<string, Set<number>>();
  for (const entry of entries) {
    const words = withOneSpace(entry.phrase);
    const known = of.get(words);
    if (known) known.push(entry);
    else of.set(words, [entry]);
    const first = words[0] ?? '';
    lengths.set(first, (lengths.get(first) ?? new Set<number>()).add(words.length));
  }
  const longestFirst = [...lengths].map(([first, all]): [string, number[]] => [first, [...all].sort((a, b) => b - a)]);
  return { of, lengths: new Map(longestFirst) };
}

/** A text in small letters, and the same with one space between words: where each place of the one is in the other. */
interface Flat {
  low: string;
  words: string;
  /** By place in the text: the place among the words. */
  at: readonly number[];
  /** By place among the words: where in the text that sign ends. */
  ends: readonly number[];
}

function flatOf(text: string): Flat {
  const low = small(text);
  const at: number[] = [];
  const ends: number[] = [];
  let isSpace = false;
  for (let from = 0; from < low.length; from++) {
    const goesOn = isSpace && /\s/u.test(low[from] as string);
    isSpace = /\s/u.test(low[from] as string);
    if (goesOn) ends[ends.length - 1] = from + 1;
    else ends.push(from + 1);
    at.push(ends.length - 1);
  }
  return { low, words: withOneSpace(low), at, ends };
}

const own = new Map<Language, Entry[]>();
function ownOf(language: Language): Entry[] {
  const known = own.get(language) ?? ownEntries(language);
  own.set(language, known);
  return known;
}

/** Cuts sentences of one language into tokens, by what the language says, what is known by name, and how people write figures and days. */
export class Cutter {
  private readonly dictionary: Dictionary;
  /** Quotes that nothing closes from some place on: nor does it from any place behind it. */
  private readonly unclosed = new Set<string>();
  /** Names that are those of fields, and of nothing else. */
  private readonly fieldNames: ReadonlySet<string>;

  constructor(
    readonly language: Language,
    readonly locale: string,
    known: Known,
  ) {
    const names = allNames(known).map((name) => ({ phrase: small(name), type: Name, payload: { text: name } }));
    this.dictionary = dictionaryOf([...ownOf(language), ...names]);
    const fields = [...known.sources.values()].flatMap((source) => source.fields);
    const others = new Set(allNames({ ...known, sources: new Map() }).map(small));
    const options = fields.flatMap((field) => (field.options ?? []).map((option) => optionName(field, option)));
    for (const name of [...options, ...sourceChoices(known).flatMap(({ among }) => among.map(({ name }) => name))])
      others.add(small(name));
    this.fieldNames = new Set(fields.map(({ name }) => small(name)).filter((name) => !others.has(name)));
  }

  /** The whole text as tokens, in order; what nothing is known of stands as unknown, word by word. */
  cut(text: string): Stretch[] {
    const found: Stretch[] = [];
    const flat = flatOf(text);
    this.unclosed.clear();
    let at = 0;
    while (at < text.length) {
      if (/\s/u.test(text[at] as string)) at += 1;
      else {
        const stretch = this.next(text, flat, at, found);
        found.push(stretch);
        at = (stretch.endOffset as number) + 1;
      }
    }
    return found;
  }

  private next(text: string, flat: Flat, at: number, before: readonly Stretch[]): Stretch {
    const close = CLOSING[text[at] ?? ''];
    if (close !== undefined && !this.unclosed.has(close)) {
      const quoted = quotedAt(text, at, close);
      if (quoted) return withId(quoted, text);
      this.unclosed.add(close);
    }
    const written = this.writtenAt(text, at);
    const entry = this.entryAt(flat, at, before);
    if (written && written.length >= (entry?.length ?? 0))
      return stretchOf(written.type, text, at, written.length, written.payload);
    if (entry) {
      const { type, payload } = entry.of;
      const stretch = stretchOf(type, text, at, entry.length, payload);
      return type === Name ? withId(stretch, text) : stretch;
    }
    if (text[at] === '[') return withId(stretchOf(Name, text, at, 0, { text: '' }), text);
    const word = /^[\p{L}\p{N}'’@._-]+|^[\s\S]/u.exec(text.slice(at))?.[0] ?? text[at] ?? '';
    return stretchOf(Unknown, text, at, word.length, { text: word });
  }

  private entryAt(flat: Flat, at: number, before: readonly Stretch[]): { of: Entry; length: number } | undefined {
    const from = flat.at[at] ?? 0;
    for (const signs of this.dictionary.lengths.get(flat.low[at] ?? '') ?? []) {
      const end = flat.ends[from + signs - 1];
      if (end === undefined || !isEdge(flat.low, end)) continue;
      const found = this.dictionary.of.get(flat.words.slice(from, from + signs));
      const of = found?.find((entry) => this.fits(entry, before));
      if (of) return { of, length: end - at };
    }
    return undefined;
  }

  /** An option may be called as a kind of change is: behind a field *is approved* tests it, and *approved* alone goes on with kinds only. */
  private fits({ type, phrase }: Entry, before: readonly Stretch[]): boolean {
    const key = keywordOf(type);
    if (key === null || !KIND_KEYS.has(key)) return true;
    const last = before.at(-1);
    if (SHORT_KINDS[this.language].has(phrase)) {
      const isInRow = last?.tokenType === WORD.or || last?.tokenType === WORD.comma;
      return isInRow && KIND_KEYS.has(keywordOf(before.at(-2)?.tokenType ?? type) ?? 'tell');
    }
    if (last?.tokenType !== Name || !this.fieldNames.has(small(last.payload.text ?? ''))) return true;
    // The field that another one is compared with is tested no further.
    const compared = before.at(-2)?.tokenType === WORD.the ? before.at(-3) : before.at(-2);
    return compared?.tokenType === Op;
  }

  /** Figures, sums, days, times, instants and zones, as people write them. */
  private writtenAt(text: string, at: number): { type: TokenType; length: number; payload: Payload } | null {
    const rest = text.slice(at, at + 80);
    const { locale } = this;
    const tries: [TokenType, RegExp, (found: string) => Payload | null][] = [
      [
        Instant,
        /^\d{4}-\d{2}-\d{2}T[\d:.]+(?:Z|[+-]\d{2}:\d{2})/,
        (value) => (parseInstant(value) === null ? null : { value }),
      ],
      [Day, DAYS, (found) => asDay(found, locale)],
      [Zone, /^(?:UTC\b|[A-Z][A-Za-z]+(?:\/[A-Za-z_+\-0-9]+)+)/, (value) => (isZone(value) ? { value } : null)],
      [Clock, /^\d{1,2}:\d{2}\b/, asClock],
      [
        Sum,
        /^[-+−]?(?:[€£$¥]\s?\d+(?:[.,]\d+)*|\d+(?:[.,]\d+)*\s?(?:[A-Z]{3}\b|[€£$¥]))/,
        (found) => asSum(found, locale),
      ],
      [Figure, /^[-+−]?\d+(?:[.,]\d+)*(?:st|nd|rd|th)?/, (found) => asFigure(found.replace(/[a-z]+$/, ''), locale)],
    ];
    for (const [type, pattern, read] of tries) {
      const found = pattern.exec(rest)?.[0];
      const payload = found === undefined || !isEdge(text, at + found.length) ? null : read(found);
      if (found !== undefined && payload) return { type, length: found.length, payload };
    }
    return null;
  }
}

const DAYS =
  /^(?:\d{4}-\d{2}-\d{2}|\d{1,2}[./]\d{1,2}[./]\d{4}|\d{1,2}(?:st|nd|rd|th)?\s+(?:de\s+)?\p{L}{3,}\.?\s+(?:del?\s+)?\d{4})/u;

function asDay(found: string, locale: string): Payload | null {
  const value = readDay(found.replace(/^(\d+)(?:st|nd|rd|th)/, '$1').replace(/\bdel?\b/g, ' '), locale);
  return value === null ? null : { value };
}

function asClock(found: string): Payload | null {
  const value = found.padStart(5, '0');
  return isCivilTime(value) ? { value } : null;
}

function asSum(found: string, locale: string): Payload | null {
  const read = readAmount(found, locale);
  return read?.currency ? { money: { amount: read.amount, currency: read.currency } } : null;
}

function asFigure(found: string, locale: string): Payload | null {
  const number = readNumber(found, locale);
  return number === null ? null : { number };
}

/** Whether a word that ends before this place ends there. */
const isEdge = (text: string, at: number): boolean =>
  at >= text.length || !/[\p{L}\p{N}]/u.test(text[at] as string) || !/[\p{L}\p{N}]/u.test(text[at - 1] as string);

const CLOSING: Record<string, string> = { '“': '”', '"': '"', '«': '»' };

/** What is quoted, its quotes and backslashes behind backslashes, its line ends as `\n`; open to the end where nothing closes it. */
function quotedAt(text: string, at: number, close: string): Stretch | null {
  let said = '';
  for (let to = at + 1; to < text.length; to += 1) {
    const sign = text[to] as string;
    if (sign === '\\') {
      to += 1;
      said += text[to] === 'n' ? '\n' : (text[to] ?? '');
    } else if (sign === close) return stretchOf(Quoted, text, at, to + 1 - at, { text: said });
    else said += sign;
  }
  return null;
}

/** A name with the id behind it, where one stands there. */
function withId(stretch: Stretch, text: string): Stretch {
  const at = (stretch.endOffset as number) + 1;
  const found = /^\s?\[((?:[^\]\\]|\\[\s\S])+)\]/u.exec(text.slice(at, at + 300));
  if (!found) {
    if (stretch.image === '') return stretchOf(Unknown, text, stretch.startOffset, 1, {});
    return stretch;
  }
  const length = at + found[0].length - stretch.startOffset;
  const id = (found[1] ?? '').replace(/\\([\s\S])/g, '$1');
  return stretchOf(stretch.tokenType, text, stretch.startOffset, length, { ...stretch.payload, id });
}

/** A token over so many signs of the text. */
function stretchOf(type: TokenType, text: string, at: number, length: number, payload: Payload): Stretch {
  const end = at + length - 1;
  const none = Number.NaN;
  const made = createTokenInstance(type, text.slice(at, at + length), at, end, none, none, none, none);
  return Object.assign(made, { payload });
}
