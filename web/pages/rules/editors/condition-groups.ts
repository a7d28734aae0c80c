import type { Condition, StateTest } from '../../../../core/rules/index.ts';

export type GroupKind = 'all' | 'any' | 'none';
export const GROUP_WORDS: Record<GroupKind, string> = { all: 'all of', any: 'any of', none: 'none of' };
export const JOINERS: Record<GroupKind, string> = { all: 'and', any: 'or', none: 'nor' };

export interface Group {
  kind: GroupKind;
  parts: Condition[];
}

/** *From any of … to …*: two tests of one field that read as one. */
export function isFromTo(node: Condition): boolean {
  if (!('all' in node) || node.all.length !== 2) return false;
  const [was, became] = node.all as [Condition, Condition];
  return (
    'was' in was &&
    'op' in was.was &&
    was.was.op === 'oneOf' &&
    'became' in became &&
    'op' in became.became &&
    became.became.op === 'is' &&
    was.was.field === became.became.field
  );
}

const plainGroup = (node: Condition): Group | null =>
  isFromTo(node)
    ? null
    : 'all' in node
      ? { kind: 'all', parts: node.all }
      : 'any' in node
        ? { kind: 'any', parts: node.any }
        : 'none' in node
          ? { kind: 'none', parts: node.none }
          : null;

const TURNS = ['became', 'ceased', 'was'] as const;

/** A group that stands within a condition: how its parts are joined, and the turn that is judged where it is one of a whole state; `null` for what is no group. */
export function groupOf(node: Condition): { turn: string | null; kind: GroupKind } | null {
  const plain = plainGroup(node);
  if (plain) return { turn: null, kind: plain.kind };
  for (const turn of TURNS) {
    const state = (node as Record<string, StateTest | undefined>)[turn];
    const inner = state && plainGroup(state);
    if (inner) return { turn, kind: inner.kind };
  }
  return null;
}

const stateIn = (node: Condition): { turn: string; state: StateTest } | null => {
  for (const turn of TURNS) {
    const state = (node as Record<string, StateTest | undefined>)[turn];
    if (state) return { turn, state };
  }
  return null;
};

/** The parts of a group, whatever turn is judged of it. */
export const insideOf = (node: Condition): Condition[] =>
  plainGroup(node)?.parts ?? plainGroup(stateIn(node)?.state ?? { all: [] })?.parts ?? [];

/** A group with other parts, its kind and turn kept. */
export function withInside(node: Condition, parts: Condition[]): Condition {
  const plain = plainGroup(node);
  if (plain) return { [plain.kind]: parts } as Condition;
  const inner = stateIn(node);
  return inner ? ({ [inner.turn]: withInside(inner.state, parts) } as Condition) : node;
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
