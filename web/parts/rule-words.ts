import type { DirectoryPage } from '../../contract/wire/index.ts';
import { CHANNEL_WORDS } from '../../contract/words.ts';
import {
  conditionWords,
  durationWords,
  occasionWords,
  paceWords,
  plainWords,
  type Words,
} from '../../core/messages/index.ts';
import { type Channel, type Reason, type Selector, visitSelector } from '../../core/people/index.ts';
import { membersOfGroup } from '../../core/people/index.ts';
import { type Rule, isOpen } from '../../core/rules/index.ts';
import type { ChangeKind, Source } from '../../core/values/index.ts';
import type { Viewer } from './viewer.tsx';

export const joined = (parts: string[], word = 'and'): string =>
  parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} ${word} ${parts.at(-1)}`;

export const channelsWords = (channels: Channel[] | null): string =>
  channels === null ? 'as each one’s delivery plan says' : joined(channels.map((one) => CHANNEL_WORDS[one]));

const KIND_NAMES: Record<string, string> = {
  created: 'added',
  changed: 'edited',
  deleted: 'deleted',
  restored: 'restored',
  renamed: 'renamed',
  moved: 'moved',
  contentAdded: 'given a new version',
  checkedOut: 'checked out',
  checkedIn: 'checked in',
  submitted: 'submitted',
  approved: 'approved',
  rejected: 'rejected',
  commented: 'commented on',
  shared: 'shared',
  unshared: 'unshared',
};
export const kindName = (kind: ChangeKind): string => KIND_NAMES[kind] ?? kind;

/** Whom a selector names: *the loan’s Registrar*, *Insurers 4*. */
export function selectorWords(selector: Selector, viewer: Viewer, source: Source | undefined): Words {
  const named = (id: string) => source?.fields.find((field) => field.id === id)?.name ?? id;
  const strong = (words: string): Words => [{ strong: words }];
  return visitSelector<Words>(selector, {
    person: ({ person }) => strong(`${viewer.person(person)}${person === viewer.me.id ? ', yourself' : ''}`),
    group: ({ group }) => {
      const groups = new Map(viewer.directory.groups.map((one) => [one.id, one]));
      return [{ strong: viewer.group(group)?.name ?? group }, ` ${membersOfGroup(group, { groups }).size}`];
    },
    field: ({ field }) => ['the item’s ', { strong: named(field) }],
    linked: ({ linked, field }) => [`the ${field} of the item’s `, { strong: named(linked) }],
    creator: () => strong('whoever made it'),
    lastEditor: () => strong('whoever edited it last'),
    followers: () => strong('whoever keeps an eye on it'),
    mentioned: () => strong('whoever is mentioned'),
    managerOf: ({ managerOf }) => ['the manager of ', ...selectorWords(managerOf, viewer, source)],
    contact: ({ contact }) => [{ strong: viewer.person(contact) }, ', outside'],
    webhook: ({ webhook }) => ['the webhook ', { strong: webhook }],
    told: () => strong('those told'),
    system: ({ system }) => strong(system),
    anybody: () => ['anyone'],
  });
}

/** Why a rule reaches somebody, after their name: *is its Registrar*. */
export function reasonPhrase(reason: Reason, viewer: Viewer, source: Source): string {
  const named = (id: string) => source.fields.find((field) => field.id === id)?.name ?? id;
  switch (reason.kind) {
    case 'person':
      return 'is named';
    case 'group':
      return `is in ${viewer.group(reason.group)?.name ?? reason.group}`;
    case 'field':
      return `is its ${named(reason.field)}`;
    case 'linked': {
      const other = viewer.source(source.fields.find((field) => field.id === reason.linked)?.to ?? '');
      return `is the ${other?.fields.find((field) => field.id === reason.field)?.name ?? reason.field} of its ${named(reason.linked)}`;
    }
    case 'creator':
      return 'made it';
    case 'lastEditor':
      return 'edited it last';
    case 'follower':
      return 'keeps an eye on it';
    case 'mentioned':
      return 'is mentioned';
    case 'managerOf':
      return `is the manager of ${viewer.person(reason.person)}`;
    case 'address':
      return 'has the address';
    case 'told':
      return 'was told';
    default:
      return reason satisfies never;
  }
}

export const whoWords = (rule: Rule, viewer: Viewer): string => {
  const source = viewer.source(rule.scope.sources[0] ?? '');
  return joined(
    rule.to.map((selector) => plainWords(selectorWords(selector, viewer, source)).replace('the item’s ', '')),
  );
};

/** What a rule waits for, in words: *Status becomes On view*. */
export function whatWords(rule: Rule, viewer: Viewer): Words {
  const source = viewer.source(rule.scope.sources[0] ?? '');
  if (!source) return [];
  if (!rule.when) return [{ strong: occasionWords(rule, source) ?? '' }];
  const condition = conditionWords(rule.when.if, { source, reader: viewer.me, names: viewer.names() });
  const kinds = rule.when.kinds.map(kindName);
  // Edits are what conditions are mostly about: only other kinds are worth a word.
  const special = rule.when.kinds.filter((kind) => kind !== 'created' && kind !== 'changed').map(kindName);
  if (condition.length > 0) return special.length > 0 ? [`is ${joined(special, 'or')}, and `, ...condition] : condition;
  const where =
    rule.scope.under.length > 0
      ? ` below ${joined(
          rule.scope.under
            .map((id) => viewer.folder(id)?.name ?? id)
            .filter((name, at, all) => all.indexOf(name) === at),
          'or',
        )}`
      : '';
  return [kinds.length > 0 ? `is ${joined(kinds, 'or')}${where}` : `anything that happens${where}`];
}

/** A name for a rule that has none yet. */
export const nameFor = (rule: Rule, viewer: Viewer): string => {
  const words = plainWords(whatWords(rule, viewer));
  const name = viewer.source(rule.scope.sources[0] ?? '')?.name ?? '';
  // What a condition says stands for itself; of what is open the source says where.
  const isSaid = rule.when === null || !isOpen(rule.when.if);
  return (isSaid ? words.replace(/^./, (first) => first.toUpperCase()) : `${name}: ${words}`).slice(0, 110);
};

/** The parts of a rule that can be edited, for telling which of them differ from what is live. */
export const PARTS = [
  'name',
  'urgency',
  'scope',
  'when',
  'due',
  'idle',
  'by',
  'during',
  'about',
  'to',
  'except',
  'channels',
  'pace',
  'limit',
  'together',
  'message',
  'ack',
  'ownChanges',
] as const satisfies readonly (keyof Rule)[];
export const editedParts = (draft: Rule, live: Rule): string[] =>
  PARTS.filter((part) => JSON.stringify(draft[part]) !== JSON.stringify(live[part]));

export const PART_NAMES: Record<string, string> = {
  name: 'name',
  urgency: 'urgency',
  scope: 'what it looks at',
  when: 'what happens',
  due: 'what happens',
  idle: 'what happens',
  by: 'caused by',
  during: 'only while',
  about: 'of what they hear',
  to: 'who hears',
  except: 'who does not',
  channels: 'by what',
  pace: 'how soon',
  limit: 'how often at most',
  together: 'bulk changes',
  message: 'what it says',
  ack: 'answered',
  ownChanges: 'own changes',
};

/** One part of a rule in a line, for comparing it with another version's. */
export function partWords(rule: Rule, part: string, viewer: Viewer): string {
  const source = viewer.source(rule.scope.sources[0] ?? '');
  const who = (selectors: Selector[]) =>
    joined(selectors.map((one) => plainWords(selectorWords(one, viewer, source)))) || 'nobody';
  const phrasing = source && { source, reader: viewer.me, names: viewer.names() };
  switch (part) {
    case 'scope': {
      const { sources, under, items, linked, where } = rule.scope;
      const narrowed = phrasing ? plainWords(conditionWords(where, phrasing)) : '';
      return [
        joined(sources.map((id) => viewer.source(id)?.name ?? id)),
        under.length > 0 &&
          `below ${joined(
            under.map((id) => viewer.folder(id)?.name ?? id),
            'or',
          )}`,
        items.length > 0 &&
          `${items.length} item${items.length === 1 ? '' : 's'}${linked ? ' and what is linked' : ''}`,
        narrowed && `where ${narrowed}`,
      ]
        .filter(Boolean)
        .join(', ');
    }
    case 'when':
    case 'due':
    case 'idle': {
      if (rule[part] === null) return 'nothing';
      const burst = rule.when?.burst;
      const state = rule.due?.if ?? rule.idle?.if;
      const held = state && phrasing ? plainWords(conditionWords(state, phrasing)) : '';
      return [
        plainWords(whatWords(rule, viewer)),
        burst && `${burst.count} times within ${durationWords(burst.within)}`,
        held && `while ${held}`,
      ]
        .filter(Boolean)
        .join(', ');
    }
    case 'by':
      return [
        rule.by.only.length > 0 ? who(rule.by.only) : 'anyone',
        rule.by.except.length > 0 && `but not ${who(rule.by.except)}`,
      ]
        .filter(Boolean)
        .join(' ');
    case 'to':
    case 'except':
      return who(rule[part]);
    case 'pace':
      return paceWords(rule.pace);
    case 'channels':
      return channelsWords(rule.channels);
    case 'limit':
      return rule.limit ? `one in ${durationWords(rule.limit.within)}` : 'as often as it happens';
    case 'name':
    case 'urgency':
    case 'about':
      return rule[part];
    case 'together':
    case 'ownChanges':
      return rule[part] ? 'yes' : 'no';
    case 'during': {
      const { from, until, near } = rule.during;
      return (
        [
          from && `from ${from}`,
          until && `until ${until}`,
          near &&
            `${durationWords(near.ahead)} before ${source?.fields.find((field) => field.id === near.field)?.name ?? near.field}`,
        ]
          .filter(Boolean)
          .join(', ') || 'always'
      );
    }
    case 'ack':
      return rule.ack ? `${rule.ack.by === 'anyone' ? 'one of them' : 'each of them'} acknowledges` : 'nobody has to';
    case 'message': {
      const { wording, subject, body, show, doNow } = rule.message;
      return [
        subject ??
          (body !== null
            ? 'words of its own'
            : wording !== null
              ? viewer.directory.wordings.find((one) => one.id === wording)?.name
              : 'what changed'),
        show.length > 0 &&
          `with ${joined(show.map((id) => source?.fields.find((field) => field.id === id)?.name ?? id))}`,
        doNow && `do now: ${doNow}`,
      ]
        .filter(Boolean)
        .join(', ');
    }
    default:
      return '';
  }
}

/** The world that `checkRule` asks for, from the directory that the page has. */
export const worldFrom = (directory: DirectoryPage) => ({
  people: new Map(
    directory.people.map((one) => [
      one.id,
      {
        id: one.id,
        name: one.name,
        email: null,
        phone: null,
        zone: 'UTC',
        locale: 'en-GB',
        manager: null,
        active: one.isActive,
        plan: null,
      },
    ]),
  ),
  groups: new Map(directory.groups.map((one) => [one.id, one])),
  sources: new Map(directory.sources.map((one) => [one.id, one as Source])),
  folders: new Map(directory.folders.map((one) => [one.id, one])),
  access: [],
  item: () => undefined,
});
