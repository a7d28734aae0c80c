import type { Directory } from '../../contract/api.ts';
import { CHANNEL_WORDS } from '../../contract/words.ts';
import { conditionWords, durationWords, occasionWords, plainWords, type Words } from '../../core/messages/index.ts';
import type { Channel, Pace, Selector } from '../../core/people/index.ts';
import { membersOfGroup } from '../../core/people/index.ts';
import { type Condition, openRule, type Rule } from '../../core/rules/index.ts';
import type { ChangeKind, Source } from '../../core/values/index.ts';
import type { Reading } from '../parts/index.ts';

export const joined = (parts: string[], word = 'and'): string => (parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} ${word} ${parts.at(-1)}`);

const DAYS: Record<string, string> = { MO: 'Monday', TU: 'Tuesday', WE: 'Wednesday', TH: 'Thursday', FR: 'Friday', SA: 'Saturday', SU: 'Sunday' };

/** How soon, in a few words: *at once*, *daily digest, 08:30*. */
export function paceWords(pace: Pace): string {
  if (pace.kind === 'now') return 'at once';
  if (pace.kind === 'settled') return `once settled for ${durationWords(pace.quiet)}`;
  switch (pace.every) {
    case 'hour':
      return `hourly digest, at minute ${pace.at.slice(3)}`;
    case 'day':
      return `daily digest, ${pace.at}`;
    case 'week':
      return `digest on ${joined((pace.on ?? ['MO']).map((day) => DAYS[day] ?? String(day)))}, ${pace.at}`;
    case 'month':
      return `monthly digest, day ${joined((pace.on ?? [1]).map(String))}, ${pace.at}`;
    default:
      return pace.every satisfies never;
  }
}

export const channelsWords = (channels: Channel[] | null): string => (channels === null ? 'as each one’s delivery plan says' : joined(channels.map((one) => CHANNEL_WORDS[one])));

const KIND_NAMES: Record<string, string> = {
  created: 'added', changed: 'edited', deleted: 'deleted', restored: 'restored', renamed: 'renamed', moved: 'moved', contentAdded: 'given a new version', checkedOut: 'checked out', checkedIn: 'checked in',
  submitted: 'submitted', approved: 'approved', rejected: 'rejected', commented: 'commented on', shared: 'shared', unshared: 'unshared',
};
export const kindName = (kind: ChangeKind): string => KIND_NAMES[kind] ?? kind;

/** Whom a selector names: *the loan’s Registrar*, *Insurers 4*. */
export function selectorWords(selector: Selector, reading: Reading, source: Source | undefined): Words {
  if (selector === '*') return ['anyone'];
  if ('person' in selector) return [{ strong: selector.person === reading.me.id ? `${reading.person(selector.person)}, yourself` : reading.person(selector.person) }];
  if ('system' in selector) return [{ strong: selector.system }];
  const named = (id: string) => source?.fields.find((field) => field.id === id)?.name ?? id;
  if ('linked' in selector) return [`the ${selector.field} of the item’s `, { strong: named(selector.linked) }];
  if ('field' in selector) return ['the item’s ', { strong: named(selector.field) }];
  if ('creator' in selector) return [{ strong: 'whoever made it' }];
  if ('lastEditor' in selector) return [{ strong: 'whoever edited it last' }];
  if ('followers' in selector) return [{ strong: 'whoever keeps an eye on it' }];
  if ('mentioned' in selector) return [{ strong: 'whoever is mentioned' }];
  if ('told' in selector) return [{ strong: 'those told' }];
  if ('managerOf' in selector) return ['the manager of ', ...selectorWords(selector.managerOf, reading, source)];
  if ('contact' in selector) return [{ strong: selector.contact }, ', outside'];
  if ('webhook' in selector) return ['the webhook ', { strong: selector.webhook }];
  const group = reading.group(selector.group);
  const groups = new Map(reading.directory.groups.map((one) => [one.id, one]));
  return [{ strong: group?.name ?? selector.group }, ` ${membersOfGroup(selector.group, { groups }).size}`];
}

export const whoWords = (rule: Rule, reading: Reading): string => {
  const source = reading.source(rule.scope.sources[0] ?? '');
  return joined(rule.to.map((selector) => plainWords(selectorWords(selector, reading, source)).replace('the item’s ', '')));
};

/** What a rule waits for, in words: *Status becomes On view*. */
export function whatWords(rule: Rule, reading: Reading): Words {
  const source = reading.source(rule.scope.sources[0] ?? '');
  if (!source) return [];
  if (!rule.when) return [{ strong: occasionWords(rule, source) ?? '' }];
  const condition = conditionWords(rule.when.if, { source, reader: reading.me, names: reading.names() });
  const kinds = rule.when.kinds.map(kindName);
  // Edits are what conditions are mostly about: only other kinds are worth a word.
  const special = rule.when.kinds.filter((kind) => kind !== 'created' && kind !== 'changed').map(kindName);
  if (condition.length > 0) return special.length > 0 ? [`is ${joined(special, 'or')}, and `, ...condition] : condition;
  const where = rule.scope.under.length > 0 ? ` below ${joined(rule.scope.under.map((id) => reading.folder(id)?.name ?? id).filter((name, at, all) => all.indexOf(name) === at), 'or')}` : '';
  return [kinds.length > 0 ? `is ${joined(kinds, 'or')}${where}` : `anything that happens${where}`];
}

/** A name for a rule that has none yet. */
export const nameFor = (rule: Rule, reading: Reading): string => {
  const words = plainWords(whatWords(rule, reading));
  const name = reading.source(rule.scope.sources[0] ?? '')?.name ?? '';
  return `${name}: ${words}`.slice(0, 110);
};

export const isOpen = (condition: Condition): boolean => 'all' in condition && condition.all.length === 0;

/** A rule's condition as a list of clauses under one joiner; `from … to …` is one clause. */
export function clausesOf(condition: Condition): { joiner: 'all' | 'any'; clauses: Condition[] } {
  if ('any' in condition) return { joiner: 'any', clauses: condition.any };
  if ('all' in condition && !isFromTo(condition)) return { joiner: 'all', clauses: condition.all };
  return { joiner: 'any', clauses: [condition] };
}

export function conditionOf({ joiner, clauses }: { joiner: 'all' | 'any'; clauses: Condition[] }): Condition {
  const [only] = clauses;
  if (!only) return { all: [] };
  if (clauses.length === 1) return only;
  return joiner === 'any' ? { any: clauses } : { all: clauses };
}

export const isFromTo = (condition: Condition): boolean =>
  'all' in condition && condition.all.length === 2 && 'was' in (condition.all[0] as object) && 'became' in (condition.all[1] as object);

/** The parts of a rule that can be edited, for telling which of them differ from what is live. */
export const PARTS = ['name', 'urgency', 'scope', 'when', 'due', 'idle', 'by', 'during', 'about', 'to', 'except', 'channels', 'pace', 'limit', 'together', 'message', 'ack', 'ownChanges'] as const satisfies readonly (keyof Rule)[];
export const editedParts = (draft: Rule, live: Rule): string[] => PARTS.filter((part) => JSON.stringify(draft[part]) !== JSON.stringify(live[part]));

/** The world that `checkRule` asks for, from the directory that the page has. */
export const worldFrom = (directory: Directory) => ({
  people: new Map(directory.people.map((one) => [one.id, { id: one.id, name: one.name, email: null, phone: null, zone: 'UTC', locale: 'en-GB', manager: null, active: one.isActive, plan: null }])),
  groups: new Map(directory.groups.map((one) => [one.id, one])),
  sources: new Map(directory.sources.map((one) => [one.id, one as Source])),
  folders: new Map(directory.folders.map((one) => [one.id, one])),
  access: [], item: () => undefined,
});

export const newRule = (reading: Reading, source: string): Rule => ({
  ...openRule('new', '', reading.me.id, [source]), urgency: 'important', zone: reading.me.zone, to: reading.me.role === 'member' ? [{ person: reading.me.id }] : [],
});
