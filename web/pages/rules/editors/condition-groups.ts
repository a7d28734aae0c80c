import { type Condition, fromTo, kindOf, type NodeKind, partsOf, stateOf } from '../../../../core/rules/index.ts';
import { t } from '../../../words/editors.ts';

export type GroupKind = 'all' | 'any' | 'none';
export const groupWords = (): Record<GroupKind, string> => ({ all: t('allOf'), any: t('anyOf'), none: t('noneOf') });
export const joinerWords = (kind: GroupKind): string => t(`joiner.${kind}`);

export interface Group {
  kind: GroupKind;
  parts: Condition[];
}

/** The conditions that are groups of others; a new kind of node has to say here whether it is one. */
const GROUPED: { [K in NodeKind]: K extends GroupKind ? true : false } = {
  test: false,
  through: false,
  all: true,
  any: true,
  none: true,
  was: false,
  became: false,
  ceased: false,
  changed: false,
  rose: false,
  fell: false,
  gained: false,
  lost: false,
};

function plainGroup(node: Condition): Group | null {
  const kind = kindOf(node);
  return GROUPED[kind] && !fromTo(node) ? { kind: kind as GroupKind, parts: partsOf(node) } : null;
}

/** A group that stands within a condition: how its parts are joined, and the turn that is judged where it is one of a whole state; `null` for what is no group. */
export function groupOf(node: Condition): { turn: string | null; kind: GroupKind } | null {
  const plain = plainGroup(node);
  if (plain) return { turn: null, kind: plain.kind };
  const state = stateOf(node);
  const inner = state && plainGroup(state);
  return inner ? { turn: kindOf(node), kind: inner.kind } : null;
}

/** The parts of a group, whatever turn is judged of it. */
export const insideOf = (node: Condition): Condition[] =>
  plainGroup(node)?.parts ?? plainGroup(stateOf(node) ?? { all: [] })?.parts ?? [];

/** A group with other parts, its kind and turn kept. */
export function withInside(node: Condition, parts: Condition[]): Condition {
  const plain = plainGroup(node);
  if (plain) return { [plain.kind]: parts } as Condition;
  const state = stateOf(node);
  return state ? ({ [kindOf(node)]: withInside(state, parts) } as Condition) : node;
}

/** A condition as the outermost group: one test alone counts as the only one of several. */
export function asGroup(node: Condition, alone: 'all' | 'any' = 'any'): Group {
  const plain = plainGroup(node);
  return plain && plain.kind !== 'none' ? plain : { kind: alone, parts: [node] };
}

/** The condition of an outermost group: one part alone needs no group. */
export function fromGroup({ kind, parts }: Group): Condition {
  const [only] = parts;
  if (!only) return { all: [] };
  return parts.length === 1 ? only : ({ [kind]: parts } as Condition);
}

/** A part put into a group of its own, of the other kind than the one around it. */
export const wrapped = (part: Condition, around: GroupKind): Condition =>
  around === 'all' ? { any: [part] } : { all: [part] };

export const moved = <T>(list: readonly T[], from: number, to: number): T[] => {
  const rest = list.filter((_, at) => at !== from);
  return [...rest.slice(0, to), list[from] as T, ...rest.slice(to)];
};
