import { type Acknowledging, asKind, type Channel, type Pace, type Selector, type Urgency } from '../people/index.ts';
import type { CivilDate, CivilTime, Duration, Schedule } from '../time/index.ts';
import type { ChangeKind, Money } from '../values/index.ts';
import { type Condition, isKind, type StateTest } from './nodes.ts';

/** Alert only at the count-th match inside a sliding window; the counted changes are then used up. */
export interface Burst {
  count: number;
  within: Duration;
  per: 'item' | 'actor' | 'rule';
}

/** Told again so often, at this distance (an ISO 8601 duration), while it is still so. */
export interface Repeat {
  every: Duration;
  times: number;
}

/** An instant for each item: the date in a field plus an offset, at a local time of the rule's zone. */
export interface Due {
  field: string;
  /** How long before or after the date; several are schedules of their own. */
  offset: Duration | Duration[];
  /** `null`: 09:00 for a date; a dateTime is moved exactly. */
  at: CivilTime | null;
  if: StateTest;
  repeat: Repeat | null;
  late: 'now' | 'skip';
}

/** The lead times of a due rule, of which there is one at least. */
export const leadsOf = ({ offset }: Pick<Due, 'offset'>): Duration[] => [offset].flat();

/** When an item had no change for so long. */
export interface Idle {
  for: Duration;
  if: StateTest;
  repeat: Repeat | null;
}

/** By which a tally is compared with its mark. */
export const TALLY_OPS = ['above', 'atLeast', 'below', 'atMost'] as const;

/** Counts the items in scope, or adds up a figure of theirs, and tells when the mark is passed (section 9). */
export interface Tally {
  of: 'items' | { sum: string };
  /** The field by whose values it is parted; `null`: not at all. */
  per: string | null;
  becomes: { op: (typeof TALLY_OPS)[number]; value: number | string | Money };
  /** The kinds of changes that are told; all of them count. */
  kinds: ChangeKind[];
}

/** All items in scope that are so, at each instant of a schedule in the rule's zone. */
export interface Report extends Schedule {
  if: StateTest;
  /** Whether it goes out with nothing in it, too. */
  empty: boolean;
}

/** At most one alert within this time (an ISO 8601 duration), of the rule or of each item. */
export interface Limit {
  per: 'item' | 'rule';
  within: Duration;
}

/** What a rule says of its messages, section 6. */
export interface RuleMessage {
  wording: string | null;
  subject: string | null;
  body: string | null;
  show: string[];
  doNow: string | null;
  /** Ojo, whoever looks after the rule, or a name that the house has set up. */
  from: 'ojo' | 'owner' | { sender: string };
  replyTo: string | null;
  /** As what files a report goes along with its emails; left out where as none. */
  attach?: ('csv' | 'xlsx')[];
}

/** Whether recipients hear of any item, or only of those that are theirs, and by what they are. */
export const ABOUT = ['any', 'createdByRecipient', 'lastEditedByRecipient', 'namesRecipient'] as const;

/** A rule with every part filled, section 3; `contract` reads it from JSON and fills what was left out. Exactly one of `when`, `due`, `idle`, `tally` and `report` is its occasion. */
export interface Rule {
  id: string;
  name: string;
  owner: string;
  urgency: Urgency;
  zone: string;
  scope: { sources: string[]; under: string[]; items: string[]; linked: boolean; where: StateTest };
  when: { kinds: ChangeKind[]; if: Condition; burst: Burst | null } | null;
  due: Due | null;
  idle: Idle | null;
  tally: Tally | null;
  report: Report | null;
  by: { only: Selector[]; except: Selector[] };
  during: {
    from: CivilDate | null;
    until: CivilDate | null;
    near: { field: string; ahead: Duration; behind: Duration } | null;
  };
  about: (typeof ABOUT)[number];
  ownChanges: boolean;
  to: Selector[];
  except: Selector[];
  channels: Channel[] | null;
  pace: Pace;
  limit: Limit | null;
  together: boolean;
  message: RuleMessage;
  ack: Acknowledging | null;
}

/** The message of a rule that says nothing of its own: the default wording. */
export const OPEN_MESSAGE: RuleMessage = {
  wording: null,
  subject: null,
  body: null,
  show: [],
  doNow: null,
  from: 'ojo',
  replyTo: null,
};

/** A rule with each part as it is where a document leaves it out: it catches every change of its sources. */
export const openRule = (id: string, name: string, owner: string, sources: string[]): Rule => ({
  id,
  name,
  owner,
  urgency: 'routine',
  zone: 'UTC',
  scope: { sources, under: [], items: [], linked: false, where: { all: [] } },
  when: { kinds: [], if: { all: [] }, burst: null },
  due: null,
  idle: null,
  tally: null,
  report: null,
  by: { only: [], except: [] },
  during: { from: null, until: null, near: null },
  about: 'any',
  ownChanges: false,
  to: [],
  except: [],
  channels: null,
  pace: { kind: 'now' },
  limit: null,
  together: true,
  message: OPEN_MESSAGE,
  ack: null,
});

/** The condition of a rule's changes, or of the items that a date, a standstill or a report tells of; open to all of a tally. */
export const conditionOf = (rule: Pick<Rule, 'when' | 'due' | 'idle' | 'report'>): Condition =>
  rule.when?.if ?? rule.due?.if ?? rule.idle?.if ?? rule.report?.if ?? { all: [] };

/** The state of which the rule tells that it came about: the one `became` that is its condition, or stands alone among its parts. */
export function becameOf(rule: Pick<Rule, 'when'>): StateTest | null {
  const node = rule.when?.if;
  if (!node) return null;
  if (isKind(node, 'became')) return node.became;
  const [only, ...others] = isKind(node, 'all') ? node.all.filter((part) => isKind(part, 'became')) : [];
  return only && others.length === 0 ? only.became : null;
}

/** Whose eye a rule is: it tells its owner alone, of what happens to what it looks at; `null` for other rules. */
export function eyeOf({ owner, to, except }: Rule): string | null {
  const [only] = to;
  const isOwn = to.length === 1 && only !== undefined && asKind(only, 'person')?.person === owner;
  return isOwn && except.length === 0 ? owner : null;
}
