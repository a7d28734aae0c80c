import { createTokenInstance, EOF, type IToken, type TokenType } from 'chevrotain';
import { operatorWords, phrasesFor } from '../messages/index.ts';
import { COMPARES_FIELDS, type Operator, operatorsOf } from '../rules/index.ts';
import { operandOf } from './condition-grammar.ts';
import { WEEKDAYS, zoneNames } from '../time/index.ts';
import { type Field, formatDay, isTemporalType, isTextType } from '../values/index.ts';
import { Cutter, small, type Stretch } from './cut.ts';
import type { Choices, NameKind } from './known.ts';
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
  shortKind,
  Sum,
  type Tense,
  Unit,
  UNITS,
  Weekdays,
  WORD,
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
/** Behind so many words of one part of a sentence nothing is offered any more: that would take too long. */
const MOST_TOKENS = 160;
/** Nor anything in a sentence of more words than this; from a quarter of it on, names are looked for over one word. */
const LONG = 1200;
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
  'soThat',
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
  const tokens = cutter.cut(text);
  const count = tokens.findLastIndex(({ startOffset }) => startOffset < cursor) + 1;
  if (count > LONG) return [];
  const sources = sourcesAhead(tokens, typed.known);
  const { base } = typed;
  const spoken = sources.length > 0 ? { ...typed, base: { ...base, scope: { ...base.scope, sources } } } : typed;
  const found = beginnings(before, count > LONG / 4 ? 1 : MOST_WORDS).map((from) => {
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

/** What could stand in place of a stretch that is not understood, as it would be written: what begins most like it first. */
export function couldStandAt(text: string, { from, to }: { from: number; to: number }, spoken: Spoken): string[] {
  const before = text.slice(0, from);
  const stretch = small(text.slice(from, to)).replace(/^,\s*/, '');
  const cutter = new Cutter(spoken.language, spoken.locale, spoken.known);
  const all = expectedAfter(cutter.cut(before), before, spoken).map((one, order) => ({
    ...one,
    order,
    alike: sharedStart(small(one.text), stretch),
  }));
  const words = all.filter(({ kind }) => kind !== 'sample');
  return [...(words.length > 0 ? words : all)]
    .sort((a, b) => b.alike - a.alike || a.order - b.order)
    .slice(0, MOST)
    .map((one) => one.text);
}

/** How many signs two texts begin with alike. */
function sharedStart(a: string, b: string): number {
  let at = 0;
  while (at < a.length && a[at] === b[at]) at += 1;
  return at;
}

/** Where what is begun may have begun: at each of the last words, the farthest first; at the end itself after a space. */
function beginnings(before: string, most: number): number[] {
  const starts = [...before.matchAll(/(?<=^|[\s(,;:])[^\s(,;:]/gu)].map(({ index }) => index).slice(-most);
  return isAtStart(before) ? [...starts, before.length] : starts;
}

/** Tokens in which each condition, and each of those told, that others follow is one word: the paths through it are many, and lead to the same end. */
function inShort(tokens: readonly Stretch[], { ended }: ReadingState): IToken[] {
  // What one word follows may go on behind it: *in Ojo and*.
  const last = tokens.at(-2)?.startOffset ?? 0;
  const widest = new Map<number, ReadingState['ended'][number]>();
  for (const one of ended) if (one.to < last && one.to > (widest.get(one.from)?.to ?? -1)) widest.set(one.from, one);
  let behind = -1;
  return tokens.flatMap((token) => {
    if (token.startOffset <= behind) return [];
    const whole = widest.get(token.startOffset);
    if (!whole) return [token];
    behind = whole.to;
    return [createTokenInstance(WORD[whole.as], '', token.startOffset, whole.to, 0, 0, 0, 0)];
  });
}

/** What may come after some tokens, in the order in which it is likely wanted. */
export function expectedAfter(tokens: readonly Stretch[], text: string, spoken: Spoken): Expectation[] {
  const state = stateFor(tokens, spoken);
  const taken = readTokens(tokens, state, text.length);
  const begun = state.began ? { at: tokens.indexOf(state.began.token), entry: state.began.entry } : taken;
  const { at, entry } = begun.at >= taken.at ? begun : taken;
  const short = inShort(tokens.slice(at), state);
  if (short.length > MOST_TOKENS) return [];
  const paths = theGrammar().computeContentAssist(entry, short);
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
    if (keywordOf(type) === 'the' && isInOperand && (!field || op === null || !COMPARES_FIELDS.has(op))) return false;
    if (type === AnyName && this.state.wanted.length === 0) return false;
    // Spanish tells *to* somebody; in English it is read, and not offered.
    if (keywordOf(type) === 'to' && keywordOf(this.last?.tokenType ?? type) === 'tell')
      return this.spoken.language === 'es';
    const isSpan = op === 'withinNext' || op === 'withinLast';
    if (rules.at(-1) === 'span' && isInOperand) return isSpan;
    if (rules.at(-1) !== 'value') return true;
    // Where a value tells its field, it is one with a name.
    if (field === null) return type === AnyName;
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
    if (type === Kind) return this.kinds();
    if (type === Channel) return keywords(CHANNELS, rank('text'));
    if (type === Unit) return keywords(UNITS, 0);
    if (type === Weekdays) return WEEKDAYS.map((day) => word(phrasesFor(language).say(`day.${day}`), 0));
    // A number by itself begins few clauses: it is offered where one is asked for.
    if (type === Figure) return [{ ...sample('10'), rank: this.state.expects.field ? 5 : 50 }];
    if (type === Sum) return [sample('2000 EUR')];
    if (type === Day) return [sample(formatDay('2026-12-03', locale))];
    if (type === Instant) return [sample('2026-12-03T09:00:00Z')];
    if (type === Clock) return [sample('08:30')];
    if (type === Zone) return zoneNames().map((zone) => word(zone, zone === this.spoken.base.zone ? 0 : 1));
    if (type === Quoted) return [sample(quoted('…'))];
    const key = keywordOf(type);
    return key === null || SIGNS.has(key) ? [] : keywords([key], rank(key));
  }

  /** Kinds of changes; behind another one they are said shorter. */
  private kinds(): Ranked[] {
    const { language } = this.spoken;
    const isBehind = this.last?.tokenType === WORD.or;
    return KINDS.map((kind) => ({
      text: isBehind ? shortKind(kind, language) : (PHRASES[language][kind][0] ?? kind),
      kind: 'word',
      of: null,
      rank: 8,
    }));
  }

  private names(): Ranked[] {
    const cutter = new Cutter(this.spoken.language, this.spoken.locale, this.spoken.known);
    const isTest = this.state.expects.op !== null;
    const the = PHRASES[this.spoken.language].the[0] ?? '';
    return this.state.wanted.flatMap(({ kind, of, among, isOther }, at) =>
      (isOther ? [] : among).map(({ id, name }) => {
        const isAlike = (one: Choices) => one.among.some((other) => small(other.name) === small(name));
        // Behind a test a value comes before a field that is called alike.
        const rivals = this.state.wanted.filter((one) => !isTest || (one.kind === 'field') === (kind === 'field'));
        const alike = rivals.flatMap((one) => one.among).filter((one) => small(one.name) === small(name));
        const isSecond =
          isTest && kind === 'field' && this.state.wanted.some((one) => one.kind !== 'field' && isAlike(one));
        // What stands before it may make something else of it: *is Empty* says that nothing is there.
        const cut = cutter.cut(`${this.before.slice(this.last?.startOffset ?? 0).trimEnd()} ${name}`).at(-1);
        const isSafe = cut?.tokenType === Name && cut.image.length === name.length;
        const text = isSafe ? name : quoted(name);
        const called = alike.length > 1 ? `${text} [${id}]` : text;
        return { text: isSecond ? `${the} ${called}` : called, kind, of, rank: at === 0 ? -1 : 0 };
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
