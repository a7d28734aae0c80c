import type { Channel, Pace, Selector, Urgency } from '../people/index.ts';
import type { CivilDate, Duration } from '../time/index.ts';
import type { ChangeKind, Value } from '../values/index.ts';

export const OPERATORS = [
  'empty', 'filled', 'is', 'isNot', 'oneOf', 'noneOf', 'contains', 'lacks', 'startsWith', 'endsWith', 'above', 'atLeast',
  'below', 'atMost', 'between', 'before', 'after', 'withinNext', 'withinLast', 'includesAny', 'includesAll',
] as const;
export type Operator = (typeof OPERATORS)[number];

/** What a state test compares with: one value, a list, or the two ends of a range. */
export type Operand = Value | Value[];

export interface FieldTest {
  field: string;
  op: Operator;
  value?: Operand;
  matchCase?: boolean;
}

/** A test of one state of an item. */
export type StateTest = FieldTest | { all: StateTest[] } | { any: StateTest[] } | { none: StateTest[] };

export interface Movement {
  field: string;
  by?: number | string;
  percent?: number | string;
}

export interface Membership {
  field: string;
  any?: string[];
}

/** A rule's condition, section 2: state tests and tests of what the change did. */
export type Condition =
  | FieldTest
  | { all: Condition[] }
  | { any: Condition[] }
  | { none: Condition[] }
  | { was: StateTest }
  | { became: StateTest }
  | { ceased: StateTest }
  | { changed: string | string[] }
  | { rose: Movement }
  | { fell: Movement }
  | { gained: Membership }
  | { lost: Membership };

/** A rule with every part filled, section 3; `contract` reads it from JSON and fills what was left out. */
export interface Rule {
  id: string;
  name: string;
  owner: string;
  urgency: Urgency;
  zone: string;
  scope: { sources: string[]; under: string[]; items: string[]; where: StateTest };
  when: { kinds: ChangeKind[]; if: Condition };
  by: { only: Selector[]; except: Selector[] };
  during: { from: CivilDate | null; until: CivilDate | null; near: { field: string; ahead: Duration; behind: Duration } | null };
  ownChanges: boolean;
  to: Selector[];
  except: Selector[];
  channels: Channel[] | null;
  pace: Pace;
  message: { show: string[]; doNow: string | null };
}

/** A rule with each part as it is where a document leaves it out: it catches every change of its sources. */
export const openRule = (id: string, name: string, owner: string, sources: string[]): Rule => ({
  id, name, owner, urgency: 'routine', zone: 'UTC',
  scope: { sources, under: [], items: [], where: { all: [] } }, when: { kinds: [], if: { all: [] } }, by: { only: [], except: [] }, during: { from: null, until: null, near: null },
  ownChanges: false, to: [], except: [], channels: null, pace: { kind: 'now' }, message: { show: [], doNow: null },
});
