import type { Language } from '../locales/index.ts';
import type { Selector } from '../people/index.ts';
import { openRule, type Operator, type Rule } from '../rules/index.ts';
import type { Field, Source } from '../values/index.ts';
import { type Choices, calledSo, type Known, valueChoices } from './known.ts';
import type { Stretch } from './cut.ts';

/** By which rule of the grammar a sentence, or the rest of one, is read. */
export type EntryRule = 'sentence' | 'fromOccasion' | 'clauses';

/** Why a stretch of a sentence is not understood. */
export type MarkCode =
  | 'notHere'
  | 'unknownName'
  | 'severalMeanings'
  | 'saidTwice'
  | 'noState'
  | 'needsAck'
  | 'noSpan'
  | 'whichField'
  | 'needsCurrency'
  | 'outOfRange'
  | 'tooDeep'
  | 'unfinished';
/** A stretch of the text, from one sign to before another, that is not understood, and what could stand there. */
export interface Mark {
  from: number;
  to: number;
  code: MarkCode;
  could: string[];
}

/** A stretch that is understood as naming something. */
export interface Understood {
  from: number;
  to: number;
  kind: Choices['kind'];
}

/** What a sentence has said so far: the rule it comes to, what it named, and what was not understood. */
export class ReadingState {
  rule: Rule;
  readonly marks: Mark[] = [];
  readonly names: Understood[] = [];
  /** What could be named at the place that was looked at last. */
  wanted: Choices[] = [];
  /** Of which field, and behind which operator, a value was to come at the place that was looked at last. */
  expects: { field: Field | null; op: Operator | null } = { field: null, op: null };
  /** Whom `their manager` is the manager of. */
  lastRecipient: Selector | null = null;
  /** From which token, and by which rule of the grammar, what was read last can be read by itself. */
  began: { entry: EntryRule; token: Stretch } | null = null;
  /** What is read to its end and could stand as one word. */
  readonly ended: { as: 'anything' | 'anybody'; from: number; to: number }[] = [];
  private readonly said = new Set<string>();
  /** What the rule looks at before the sentence says so. */
  private readonly unnamed: readonly string[];

  constructor(
    readonly known: Known,
    readonly base: Rule,
    readonly language: Language,
    private readonly isSourceOpen = false,
  ) {
    const { id, name, owner, scope, zone } = base;
    this.rule = { ...openRule(id, name, owner, scope.sources), zone, urgency: 'important' };
    this.unnamed = this.rule.scope.sources;
  }

  /** The sources that the rule looks at, as far as they are known; none where the sentence has to name them first. */
  sources(): Source[] {
    if (this.isSourceOpen && this.rule.scope.sources === this.unnamed) return [];
    return this.rule.scope.sources.flatMap((id) => this.known.sources.get(id) ?? []);
  }

  mark(token: Pick<Stretch, 'startOffset' | 'endOffset'>, code: Mark['code'], could: string[] = []): void {
    this.marks.push({ from: token.startOffset, to: (token.endOffset ?? token.startOffset) + 1, code, could });
  }

  /** What a name means at this place; marked where it means nothing here, or several things. */
  resolve(token: Stretch, choices: readonly Choices[]): { kind: Choices['kind']; id: string } | null {
    const { text = '', id = null } = token.payload;
    const found = choices.flatMap((choice) => calledSo(choice, text, id).map((one) => ({ kind: choice.kind, one })));
    const [first, ...others] = found;
    const [only, ...more] = choices;
    // What is not known any more, or not to whoever types, keeps its id.
    if (!first && text === '' && id !== null && only && more.length === 0 && !OF_SOURCES.has(only.kind))
      return { kind: only.kind, id };
    if (!first || others.length > 0) {
      const could = first ? found.map(({ one }) => `${one.name} [${one.id}]`) : namesOf(choices);
      this.mark(token, first ? 'severalMeanings' : 'unknownName', could);
      return null;
    }
    this.names.push({ from: token.startOffset, to: (token.endOffset ?? token.startOffset) + 1, kind: first.kind });
    return { kind: first.kind, id: first.one.id };
  }

  /** Whether a name means exactly one thing at this place. */
  means(token: Stretch | undefined, choices: readonly Choices[]): boolean {
    if (token?.payload === undefined) return false;
    const { text = '', id = null } = token.payload;
    return choices.flatMap((choice) => calledSo(choice, text, id)).length === 1;
  }

  /** A whole number from a token, within bounds; marked where it is none, and then the least. */
  count(token: Stretch, least: number, most: number): number {
    const number = Number(token.payload?.number);
    if (Number.isInteger(number) && number >= least && number <= most) return number;
    this.mark(token, 'outOfRange', [String(least), String(most)]);
    return least;
  }

  begin(entry: EntryRule, token: Stretch): void {
    if (token.payload !== undefined) this.began = { entry, token };
  }

  end(as: 'anything' | 'anybody', first: Stretch, last: Stretch): void {
    this.ended.push({ as, from: first.startOffset, to: last.endOffset ?? last.startOffset });
  }

  /** Notes that a part is said, and marks it where it was before. */
  say(part: string, token: Stretch): void {
    if (this.said.has(part)) this.mark(token, 'saidTwice');
    this.said.add(part);
  }
}

/** What a source has to have, so that something can be said of it. */
const OF_SOURCES: ReadonlySet<Choices['kind']> = new Set(['source', 'sourceItem', 'field', 'option']);

/** So many names are offered for a place at most. */
const MOST_OFFERED = 6;
const namesOf = (choices: readonly Choices[]): string[] =>
  choices.flatMap(({ among, isOther }) => (isOther ? [] : among.map(({ name }) => name))).slice(0, MOST_OFFERED);

/** The fields of a source in which a value can stand that is called so. */
export const fieldsWith = (source: Source | undefined, text: string, id: string | null, known: Known): Field[] =>
  (source?.fields ?? []).filter((field) =>
    valueChoices(field, known).some((choice) => calledSo(choice, text, id).length > 0),
  );
