import type { Setting } from '../decide/index.ts';
import type { Person } from '../people/index.ts';
import { openRule, type Rule } from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import type { Change, ItemState, Source } from '../values/index.ts';

/** Loan agreements in folders. */
export const LOANS: Source = {
  id: 'loans',
  kind: 'folders',
  name: 'Loans',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
    { id: 'due', name: 'Due back', type: 'date' },
    { id: 'opens', name: 'Opens', type: 'dateTime' },
    { id: 'registrar', name: 'Registrar', type: 'person' },
    { id: 'contact', name: 'Contact', type: 'email' },
    { id: 'part', name: 'Part of', type: 'link', to: 'loans' },
  ],
};
/** A loan goes on view. */
export const ON_VIEW = { became: { field: 'status', op: 'is', value: 'On view' } } as const;
/** The day on which it all happens, a Wednesday. */
export const DAY = '2026-03-04';
/** An instant of that day, or any in UTC. */
export const at = (time: string) => instantOf(time.includes('T') ? time : `${DAY}T${time}:00Z`);

/** Somebody who reads and is in Ojo. */
export const person = (id: string, more: Partial<Person> = {}): Person => ({
  id,
  name: id,
  email: `${id}@marisma.example`,
  phone: null,
  zone: 'UTC',
  locale: 'en-GB',
  manager: null,
  active: true,
  plan: null,
  ...more,
});
/** A rule that tells Inés in Ojo of what goes on view. */
export const rule = (more: Partial<Rule> = {}): Rule => ({
  ...openRule('r1', 'R', 'ines', ['loans']),
  when: { kinds: [], if: ON_VIEW, burst: null },
  to: [{ person: 'ines' }],
  channels: ['inApp'],
  ...more,
});
/** An item as it stands. */
export const item = (id: string, fields: ItemState['fields'] = {}, more: Partial<ItemState> = {}): ItemState => ({
  id,
  source: 'loans',
  folder: null,
  fields,
  createdBy: null,
  lastBy: null,
  lastAt: null,
  ...more,
});

let count = 0;
/** A change of an item by Mei, from these fields to those. */
export function change(
  id: string,
  time: string,
  before: ItemState['fields'] | null,
  after: ItemState['fields'] | null,
  more: Partial<Change> = {},
): Change {
  const ended = after === null ? 'deleted' : 'changed';
  return {
    id: `c${++count}`,
    at: at(time),
    source: 'loans',
    item: id,
    kind: before === null ? 'created' : ended,
    actor: 'mei',
    before,
    after,
    folder: null,
    folderBefore: null,
    batch: null,
    detail: {},
    ...more,
  };
}
/** An item goes on view. */
export const goesOnView = (id: string, time: string, more: Partial<Change> = {}) =>
  change(id, time, { status: 'Agreed' }, { status: 'On view' }, more);
/** An item is no more on view. */
export const goesBack = (id: string, time: string, more: Partial<Change> = {}) =>
  change(id, time, { status: 'On view' }, { status: 'Agreed' }, more);

/** A museum of three people and two loans that are agreed, from the day's first minute to its last. */
export const settingOf = (more: Partial<Setting> = {}): Setting => ({
  start: at('00:00'),
  end: at('23:59'),
  people: [person('ines'), person('mei'), person('bo')],
  groups: [],
  contacts: [],
  sources: [LOANS],
  folders: [],
  followers: [],
  wordings: [],
  access: [],
  items: ['a', 'b'].map((id) => item(id, { status: 'Agreed' })),
  rules: [],
  ...more,
});
