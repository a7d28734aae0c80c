import type { Channel } from './plan.ts';

/** What a case asks of an item: a state test, which whoever reaches people is handed a judge of (section 9). */
export type CaseTest = object;
/** Whom a case stands for where its state holds of the item as it stands. */
export interface Case {
  if: CaseTest;
  to: Selector[];
}

/**
 * The kinds of selectors, sections 4 and 3.2: somebody by id, all of a group, whoever a field of the item (or of an item
 * linked there) names, who made it, edited it last, keeps an eye on it or is mentioned, the managers of others, an
 * outside address, a webhook; those of the first case that holds; those of another, by channels of their own. `told` stands for those told of an alert; `system` and `*` name actors.
 */
export interface Selectors {
  person: { person: string };
  group: { group: string };
  field: { field: string };
  linked: { linked: string; field: string };
  creator: { creator: true };
  lastEditor: { lastEditor: true };
  followers: { followers: true };
  mentioned: { mentioned: true };
  managerOf: { managerOf: Selector };
  contact: { contact: string };
  webhook: { webhook: string };
  told: { told: true };
  cases: { cases: Case[]; else?: Selector[] };
  tell: { tell: Selector; channels: Channel[] };
  system: { system: string };
  anybody: '*';
}

/** What kinds of selector there are. */
export type SelectorKind = keyof Selectors;
/** Names whom a rule tells, leaves out, or whose changes count (the engine's specification, section 4). */
export type Selector = Selectors[SelectorKind];

/** Every kind; one that is known by a key which another has too comes before it. */
const KINDS = Object.keys({
  linked: true,
  person: true,
  group: true,
  field: true,
  creator: true,
  lastEditor: true,
  followers: true,
  mentioned: true,
  managerOf: true,
  contact: true,
  webhook: true,
  told: true,
  cases: true,
  tell: true,
  system: true,
  anybody: true,
} satisfies Record<SelectorKind, true>) as SelectorKind[];

/** Which kind of selector it is. */
export function kindOfSelector(selector: Selector): SelectorKind {
  if (selector === '*') return 'anybody';
  for (const kind of KINDS) if (kind in selector) return kind;
  throw new RangeError(`no selector: ${Object.keys(selector).join(', ')}`);
}

/** What is done with a selector of each kind; a new kind has to have its answer in every one. */
export type SelectorVisitor<R, C = void> = { [K in SelectorKind]: (selector: Selectors[K], context: C) => R };

/**
 * Does to a selector what its kind is done to; a kind without an answer does not compile. A visitor that is asked often
 * stands beside its function, and is handed what it needs as the context.
 */
export function visitSelector<R>(selector: Selector, visitor: SelectorVisitor<R>): R;
export function visitSelector<R, C>(selector: Selector, visitor: SelectorVisitor<R, C>, context: C): R;
export function visitSelector<R, C>(selector: Selector, visitor: SelectorVisitor<R, C>, context?: C): R {
  const visit = visitor[kindOfSelector(selector)] as (selector: Selector, context?: C) => R;
  return visit(selector, context);
}

/** A selector of one kind; `null` of any other. */
export function asKind<K extends SelectorKind>(selector: Selector, kind: K): Selectors[K] | null {
  return kindOfSelector(selector) === kind ? (selector as Selectors[K]) : null;
}

/** Selectors with those that stand in cases, or behind channels of their own, in their place. */
export const laidOpen = (selectors: readonly Selector[]): Selector[] =>
  selectors.flatMap((selector) => {
    const tell = asKind(selector, 'tell');
    if (tell) return laidOpen([tell.tell]);
    const cases = asKind(selector, 'cases');
    return cases ? laidOpen([...cases.cases.flatMap(({ to }) => to), ...(cases.else ?? [])]) : [selector];
  });

/** The ids that selectors name outright, of people or of groups; in cases too. */
export const namedIn = (selectors: readonly Selector[], kind: 'person' | 'group'): string[] =>
  laidOpen(selectors).flatMap((selector) => {
    if (kind === 'person') return asKind(selector, 'person')?.person ?? [];
    return asKind(selector, 'group')?.group ?? [];
  });
