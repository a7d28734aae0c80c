import type { HouseVoice } from '../../messages/index.ts';
import type { AccessEntry, Channel, Contact, Folder, Follower, Group, Person } from '../../people/index.ts';
import type { Rule } from '../../rules/index.ts';
import type { Instant } from '../../time/index.ts';
import type { Change, ItemState, Source } from '../../values/index.ts';
import type { CatchUp, Wording } from '../step/state.ts';

/**
 * What somebody does, told by `do` in place of a change's kind. Where a log says of which alerts somebody read, or which
 * one they took on or asked for again, it names them as the engine does: an item may have several that are open.
 */
export type Act =
  | { do: 'read'; at: Instant; person: string; alerts?: string[] }
  | { do: 'acknowledge'; at: Instant; person: string; rule: string; item?: string; alert?: string }
  | { do: 'again'; at: Instant; person: string; rule: string; item?: string; alert?: string; when: Instant }
  | { do: 'pause'; at: Instant; rule: string }
  | { do: 'resume'; at: Instant; rule: string; catchUp: CatchUp }
  | { do: 'publish'; at: Instant; rule: Rule }
  | { do: 'mute'; at: Instant; person: string; rule?: string; item?: string; until?: string }
  | { do: 'confirm'; at: Instant; contact: string }
  | { do: 'unsubscribe'; at: Instant; contact: string; rule?: string }
  | { do: 'arrive' | 'leave'; at: Instant; person: string }
  | { do: 'access'; at: Instant; access: AccessEntry[] };
/** What comes in: a change, or somebody's act. */
export type ScenarioInput = Change | Act;

/** Who and what there is in a run, and when it begins and ends; what falls on `end` still happens. */
export interface Setting {
  start: Instant;
  end: Instant;
  people: Person[];
  groups: Group[];
  contacts: Contact[];
  sources: Source[];
  folders: Folder[];
  followers: Follower[];
  wordings: Wording[];
  /** What is usual in the house, and in whose names; left out where that is Ojo's alone. */
  voice?: HouseVoice;
  access: AccessEntry[];
  items: ItemState[];
  rules: { rule: Rule; from: Instant }[];
}

/** One whole run on virtual time; `inputs` stand in order of time. */
export interface Scenario extends Setting {
  inputs: Iterable<ScenarioInput>;
}

/** What came of a run, as section 7 lists it. */
export interface Results {
  alerts: { rule: string; at: string; items: string[]; changes: string[]; suppressed: number }[];
  messages: {
    to: string;
    channel: Channel;
    at: string;
    form: string;
    alerts: { rule: string; items: string[] }[];
    subject: string;
    text: string;
  }[];
  withheld: { at: string; rule: string; item: string; changes: string[]; person: string; reason: string }[];
  dropped: { at: string; rule: string; item: string; changes: string[]; reason: string }[];
}
