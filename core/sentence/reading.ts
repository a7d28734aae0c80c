import { EOF, type IRecognitionException, type TokenType } from 'chevrotain';
import type { Language } from '../locales/index.ts';
import type { Rule } from '../rules/index.ts';
import { Cutter, type Stretch } from './cut.ts';
import { calledSo, type Known, sourceChoices } from './known.ts';
import { type EntryRule, type Mark, ReadingState, type Understood } from './reading-state.ts';
import { SentenceGrammar } from './sentence-grammar.ts';
import { AnyName, keywordOf, Unknown, WORD } from './tokens.ts';
import { FIELD_LEADS, isOneOf, OCCASION_STARTS, SOURCE_LEADS } from './token-families.ts';

/** In which language and with whose figures a sentence is written, and what it may name. */
export interface Spoken {
  /** BCP 47; figures and days are read as they are written there. */
  locale: string;
  language: Language;
  known: Known;
  /** What stays as it is, since a sentence does not say it: the rule's id, name and owner; and the sources and the zone where it says none. */
  base: Rule;
  /** No source is meant until the sentence names one, whatever the base has. */
  isSourceOpen?: boolean;
}

/** What a sentence comes to. */
export interface Reading {
  /** The rule, as far as the sentence is understood; whole where there are no marks. */
  rule: Rule;
  /** What is not understood, in order; empty where all of it is. */
  marks: Mark[];
  names: Understood[];
}

let grammar: SentenceGrammar | null = null;
/** The grammar is made once: it is the same for every language. */
export function theGrammar(): SentenceGrammar {
  grammar ??= new SentenceGrammar();
  return grammar;
}

/** Nothing is nested deeper than so: a rule's document is not, either. */
const DEEPEST = 40;

/** The token with which a sentence is nested too deep; as many as there are where it is not. */
function tooDeepAt(tokens: readonly Stretch[]): number {
  let [open, row] = [0, 0];
  const at = tokens.findIndex(({ tokenType }) => {
    row = tokenType === WORD.managerOf ? row + 1 : 0;
    if (tokenType === WORD.open) open += 1;
    if (tokenType === WORD.close) open -= 1;
    return open + row > DEEPEST;
  });
  return at < 0 ? tokens.length : at;
}

/** No sentence goes on after so many stretches that are not understood. */
const MOST_MARKS = 20;

/** Reads a sentence into a rule. Nothing is guessed: what is not understood is marked, and the rest still counts. */
export function readSentence(text: string, spoken: Spoken): Reading {
  const tokens = new Cutter(spoken.language, spoken.locale, spoken.known).cut(text);
  const state = stateFor(tokens, spoken);
  readTokens(tokens, state, text.length);
  const marks = [...state.marks].sort((a, b) => a.from - b.from);
  return { rule: state.rule, marks, names: state.names };
}

/** What a sentence is read into, its sources looked for ahead: fields are named before them. */
export function stateFor(
  tokens: readonly Stretch[],
  { known, base, language, isSourceOpen = false }: Spoken,
): ReadingState {
  const state = new ReadingState(known, base, language, isSourceOpen);
  const sources = sourcesAhead(tokens, known);
  if (sources.length > 0) state.rule = { ...state.rule, scope: { ...state.rule.scope, sources } };
  return state;
}

/** The sources that a sentence names, wherever in it. */
export function sourcesAhead(tokens: readonly Stretch[], known: Known): string[] {
  const choices = sourceChoices(known);
  const meant = ({ payload: { text = '', id = null } }: Stretch) =>
    choices.flatMap((choice) => calledSo(choice, text, id));
  const isArticle = (at: number) => isOneOf(tokens[at], [WORD.a, WORD.the]);
  const found: string[] = [];
  for (let at = 1; at < tokens.length; at += 1) {
    if (!isOneOf(tokens[at], [AnyName]) || meant(tokens[at] as Stretch).length !== 1) continue;
    const before = isArticle(at - 1) ? at - 2 : at - 1;
    if (isOneOf(tokens[before], found.length === 0 ? leadsAt(tokens, before) : [WORD.or, WORD.and])) {
      found.push(meant(tokens[at] as Stretch)[0]?.id ?? '');
    } else if (found.length > 0) break;
  }
  return [...new Set(found)];
}

/** What may lead to a source there: *of* does behind a field of its items, and not behind whom a link names. */
function leadsAt(tokens: readonly Stretch[], at: number): readonly TokenType[] {
  const lead = isOneOf(tokens[at - 2], [WORD.the]) && isOneOf(tokens[at - 3], [WORD.when]) ? at - 3 : at - 2;
  return isOneOf(tokens[lead], FIELD_LEADS) ? [WORD.of] : SOURCE_LEADS;
}

/** From which token, and by which rule of the grammar, a sentence is read. */
export interface Entry {
  at: number;
  entry: EntryRule;
}

/** Reads as far as it goes, marks what does not fit, and goes on behind it; gives where it was taken up last. */
export function readTokens(all: readonly Stretch[], state: ReadingState, end: number): Entry {
  const deep = all[tooDeepAt(all)];
  const tokens = deep ? all.slice(0, all.indexOf(deep)) : all;
  if (deep) state.mark(deep, 'tooDeep', []);
  const reader = theGrammar();
  let from = 0;
  let entry: Entry['entry'] = 'sentence';
  for (let times = 0; times < MOST_MARKS; times += 1) {
    reader.state = state;
    reader.input = tokens.slice(from);
    reader[entry]();
    const [error] = reader.errors as IRecognitionException[];
    if (!error) return { at: from, entry };
    const at = positionOf(error, tokens);
    const next = resumeAt(tokens, Math.max(at, from), at > from, state);
    markBetween(tokens, at, next.at, state, end);
    if (next.at >= tokens.length) return { at: from, entry };
    ({ at: from, entry } = next);
  }
  return { at: from, entry };
}

function positionOf({ token }: IRecognitionException, tokens: readonly Stretch[]): number {
  const at = tokens.indexOf(token as Stretch);
  return token.tokenType === EOF || at < 0 ? tokens.length : at;
}

function markBetween(tokens: readonly Stretch[], at: number, to: number, state: ReadingState, end: number): void {
  const [first, last] = [tokens[at], tokens[Math.max(at, to - 1)]];
  if (!first) state.mark({ startOffset: end, endOffset: end - 1 }, 'unfinished');
  else state.mark({ startOffset: first.startOffset, endOffset: last?.endOffset ?? first.endOffset ?? 0 }, 'notHere');
}

/** Where a sentence may be taken up again: at what brings it about, where that is not said yet, else at the next comma. */
function resumeAt(tokens: readonly Stretch[], at: number, isFarther: boolean, { rule }: ReadingState): Entry {
  const isOpen =
    rule.when !== null && 'all' in rule.when.if && rule.when.if.all.length === 0 && rule.when.kinds.length === 0;
  for (let next = at; next < tokens.length; next += 1) {
    if (isOpen && isOneOf(tokens[next], OCCASION_STARTS)) return { at: next, entry: 'fromOccasion' };
    const follows = tokens[next + 1];
    if ((next > at || isFarther) && isOneOf(tokens[next], [WORD.comma]) && follows && follows.tokenType !== Unknown) {
      // A comma may part what is in a row, too: only a clause takes it up.
      if (keywordOf(follows.tokenType) !== null || isOneOf(follows, OCCASION_STARTS))
        return { at: next, entry: 'clauses' };
    }
  }
  return { at: tokens.length, entry: 'clauses' };
}
