import { EOF, type TokenType } from 'chevrotain';
import { operatorWords, phrasesFor } from '../messages/index.ts';
import { COMPARES_FIELDS, type Operator, operatorsOf } from '../rules/index.ts';
import { operandOf } from './condition-grammar.ts';
import { WEEKDAYS } from '../time/index.ts';
import { type Field, formatDay, isTemporalType, isTextType } from '../values/index.ts';
import { Cutter, small, type Stretch } from './cut.ts';
import type { NameKind } from './known.ts';
import { readTokens, sourcesAhead, type Spoken, stateFor, theGrammar } from './reading.ts';
import type { ReadingState } from './reading-state.ts';
import { quoted } from './plain.ts';
import {
  AnyName,
  Channel,
  CHANNELS,
  Clock,
  Day,
  Figure,
  Instant,
  Kind,
  keywordOf,
  KINDS,
  Name,
  Op,
  Quoted,
  Sum,
  type Tense,
  Unit,
  UNITS,
  Weekdays,
  Zone,
} from './tokens.ts';
import { valueWords } from './value-words.ts';
import { type Keyword, PHRASES } from './words/index.ts';

/** What may stand at a place: what would be written, and what it is; a sample is shown, and nobody takes it as it is. */
export interface Expectation {
  text: string;
  kind: NameKind | 'word' | 'sample';
  /** What it belongs to, such as the field of an option. */
  of: string | null;
}

/** So many completions are offered at once; so many of them may make a longer name of what stands there. */
const MOST = 8;
const FEW = 3;
/** No name that is begun is looked for over more words than this. */
const MOST_WORDS = 8;

/** Keywords in the order in which they are wanted; the others after them. */
const FIRST: Keyword[] = [
  'tell',
  'the',
  'managerOf',
  'creator',
  'when',
  'goesFrom',
  'to',
  'changesSo',
  'where',
  'of',
  'and',
  'or',
  'settled',
  'everyDay',
  'every',
  'notImports',
  'before',
  'after',
  'text',
  'email',
];
const rank = (key: Keyword): number => (FIRST.includes(key) ? FIRST.indexOf(key) : FIRST.length);
/** Signs that people write by themselves are not offered. */
const SIGNS: ReadonlySet<Keyword> = new Set(['comma', 'semicolon', 'colon', 'percent', 'possessive']);

/** What may be written at a place, and from where what it completes is begun. */
export interface Completion extends Expectation {
  from: number;
}

/** What could stand at a place, given what stands before it: what is begun there is completed, over several words where it is a name. */
export function completeAt(text: string, cursor: number, typed: Spoken): Completion[] {
  const before = text.slice(0, cursor);
  const cutter = new Cutter(typed.language, typed.locale, typed.known);
  // Of which source it is may be said behind the cursor.
  const sources = sourcesAhead(cutter.cut(text), typed.known);
  const { base } = typed;
  const spoken = sources.length > 0 ? { ...typed, base: { ...base, scope: { ...base.scope, sources } } } : typed;
  const found = beginnings(before).map((from) => {
    const begun = small(before.slice(from));
    const whole = expectedAfter(cutter.cut(before.slice(0, from)), before.slice(0, from), spoken);
    const isGoingOn = (one: Expectation) => one.kind !== 'sample' && beginsSo(small(one.text), begun);
    return (begun === '' ? whole : whole.filter(isGoingOn)).map((one) => ({ ...one, from }));
  });
  // What may come next is wanted before what would make a longer name of what stands there.
  const [next = []] = isAtStart(before) ? found.slice(-1) : [];
  const longer = (isAtStart(before) ? found.slice(0, -1) : found).flat();
  const most = Math.max(MOST - longer.length, MOST - FEW);
  const offered = [...next.slice(0, most), ...longer];
  return [...new Map(offered.map((one) => [`${one.text} ${one.of}`, one])).values()].slice(0, MOST);
}

/** Whether a text goes on from what is begun; its quote may be left out. */
const beginsSo = (text: string, begun: string): boolean =>
  text !== begun && (text.startsWith(begun) || text.replace(/^“/, '').startsWith(begun));

const isAtStart = (before: string): boolean => /(^|[\s(])$/.test(before);

/** What could stand where a stretch is not understood, as it would be written. */
export function couldStandAt(text: string, from: number, spoken: Spoken): string[] {
  const before = text.slice(0, from);
  const cutter = new Cutter(spoken.language, spoken.locale, spoken.known);
  return expectedAfter(cutter.cut(before), before, spoken)
    .slice(0, MOST)
    .map((one) => one.text);
}

/** Where what is begun may have begun: at each of the last words, the farthest first; at the end itself after a space. */
function beginnings(before: string): number[] {
  const starts = [...before.matchAll(/(?<=^|[\s(,;:])[^\s(,;:]/gu)].map(({ index }) => index).slice(-MOST_WORDS);
  return isAtStart(before) ? [...starts, before.length] : starts;
}

/** What may come after some tokens, in the order in which it is likely wanted. */
export function expectedAfter(tokens: readonly Stretch[], text: string, spoken: Spoken): Expectation[] {
  const state = stateFor(tokens, spoken);
  const { at, entry } = readTokens(tokens, state, text.length);
  const paths = theGrammar().computeContentAssist(entry, [...tokens.slice(at)]);
  const isWanted = new Expected(state, spoken, tokens.at(-1), text);
  const types = new Map<TokenType, readonly string[]>();
  for (const { nextTokenType, ruleStack } of paths)
    if (nextTokenType !== EOF && isWanted.fits(nextTokenType, ruleStack) && !types.has(nextTokenType))
      types.set(nextTokenType, ruleStack);
  const found = [...types.keys()].flatMap((type) => isWanted.written(type));
  const ranked = found
    .map((one, order) => ({ one, order }))
    .sort((a, b) => a.one.rank - b.one.rank || a.order - b.order);
  const distinct = new Map(ranked.map(({ one: { rank: _, ...one } }) => [`${one.text} ${one.of}`, one]));
  return [...distinct.values()];
}

type Ranked = Expectation & { rank: number };

/** What a place wants, as people write it. */
class Expected {
  constructor(
    private readonly state: ReadingState,
    private readonly spoken: Spoken,
    private readonly last: Stretch | undefined,
    private readonly before: string,
  ) {}

  /** Whether a token may really come: the grammar's paths know nothing of the types of fields. */
  fits(type: TokenType, rules: readonly string[]): boolean {
    const { field, op } = this.state.expects;
    const takes = op === null ? null : operandOf(op, field);
    const isInOperand = rules.includes('operand');
    if (this.last?.tokenType === Op && takes !== 'none' && !isInOperand) return false;
    if (takes !== null && takes !== 'list' && isInOperand && rules.includes('values')) return false;
    if (keywordOf(type) === 'the' && isInOperand && (op === null || !COMPARES_FIELDS.has(op))) return false;
    if (type === AnyName && this.state.wanted.length === 0) return false;
    const isSpan = op === 'withinNext' || op === 'withinLast';
    if (rules.at(-1) === 'span' && isInOperand) return isSpan;
    if (rules.at(-1) !== 'value' || field === null) return true;
    return !isSpan && this.fitsType(type, field.type);
  }

  /** Whether a value that is written so may stand in a field of a type. */
  private fitsType(written: TokenType, type: Field['type']): boolean {
    if (written === Quoted) return isTextType(type);
    if (written === Figure) return type === 'number';
    if (written === Sum) return type === 'money';
    if (written === Day) return isTemporalType(type);
    if (written === Instant) return type === 'dateTime';
    const key = keywordOf(written);
    return key !== 'yes' && key !== 'no' ? true : type === 'boolean';
  }

  written(type: TokenType): Ranked[] {
    const { language, locale } = this.spoken;
    const word = (text: string, at: number): Ranked => ({ text, kind: 'word', of: null, rank: at });
    const sample = (text: string): Ranked => ({ text, kind: 'sample', of: null, rank: 5 });
    const keywords = (keys: readonly Keyword[], at: number) =>
      keys.map((key) => word(PHRASES[language][key][0] ?? key, at));
    if (type === AnyName || type === Name) return this.names();
    if (type === Op) return this.operators();
    if (type === Kind) return keywords(KINDS, 8);
    if (type === Channel) return keywords(CHANNELS, rank('text'));
    if (type === Unit) return keywords(UNITS, 0);
    if (type === Weekdays) return WEEKDAYS.map((day) => word(phrasesFor(language).say(`day.${day}`), 0));
    // A number by itself begins few clauses: it is offered where one is asked for.
    if (type === Figure) return [{ ...sample('10'), rank: this.state.expects.field ? 5 : 50 }];
    if (type === Sum) return [sample('2000 EUR')];
    if (type === Day) return [sample(formatDay('2026-12-03', locale))];
    if (type === Instant) return [sample('2026-12-03T09:00:00Z')];
    if (type === Clock) return [sample('08:30')];
    if (type === Zone) return [sample('Europe/Madrid')];
    if (type === Quoted) return [sample(quoted('…'))];
    const key = keywordOf(type);
    return key === null || SIGNS.has(key) ? [] : keywords([key], rank(key));
  }

  private names(): Ranked[] {
    const cutter = new Cutter(this.spoken.language, this.spoken.locale, this.spoken.known);
    return this.state.wanted.flatMap(({ kind, of, among }, at) =>
      among.map(({ id, name }) => {
        const alike = this.state.wanted
          .flatMap((choice) => choice.among)
          .filter((one) => small(one.name) === small(name));
        // What stands before it may make something else of it: *is Empty* says that nothing is there.
        const cut = cutter.cut(`${this.before.slice(this.last?.startOffset ?? 0).trimEnd()} ${name}`).at(-1);
        const isSafe = cut?.tokenType === Name && cut.image.length === name.length;
        const text = isSafe ? name : quoted(name);
        return { text: alike.length > 1 ? `${text} [${id}]` : text, kind, of, rank: at === 0 ? -1 : 0 };
      }),
    );
  }

  /** Tests that the field can be asked, as what it becomes before what it is. */
  private operators(): Ranked[] {
    const { field } = this.state.expects;
    const { language } = this.spoken;
    const terms = phrasesFor(language);
    const tenses: Tense[] = ['becomes', 'is', 'was'];
    const ops: Operator[] = field ? operatorsOf(field.type) : ['is'];
    return tenses.flatMap((tense, at) =>
      ops.map((op) => ({
        text: op === 'empty' || op === 'filled' ? valueWords(op, tense, language) : operatorWords(op, tense, terms),
        kind: 'word' as const,
        of: null,
        rank: field ? at : 3 + at,
      })),
    );
  }
}
