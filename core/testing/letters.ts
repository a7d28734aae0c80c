import type { World } from '../people/index.ts';
import { OPEN_MESSAGE, openRule, type Rule } from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import { asChange, type Change, type Source } from '../values/index.ts';
import { person } from './museum.ts';
import { type Content, type Form, makeContent, plainLinks, type Telling } from '../messages/index.ts';

/** Where what a message leads to is, as texts have it. */
export const LETTER = plainLinks({ base: 'https://ojo.example', name: 'Ojo' });
/** Whoever reads: in English, in Madrid. */
export const READER = { id: 'mei', name: 'Mei Tanaka', locale: 'en-GB', zone: 'Europe/Madrid' };
/** What is told of. */
export const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loan agreements',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Loan', type: 'text' },
    { id: 'place', name: 'Place', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
  ],
};
/** Who and what there is. */
export const WORLD: World = {
  people: new Map([
    ['wren', person('wren', { name: 'Wren Adeyemi' })],
    ['mei', person('mei', { name: READER.name })],
  ]),
  groups: new Map([['insurers', { id: 'insurers', name: 'Insurers', members: [], groups: [] }]]),
  sources: new Map([['loans', LOANS]]),
  folders: new Map(),
  access: [],
  item: () => undefined,
};
/** A rule that tells a group of what goes on view. */
export const RULE: Rule = {
  ...openRule('on-view', 'Loan goes on view', 'ines', ['loans']),
  urgency: 'important',
  when: { kinds: [], if: { became: { field: 'status', op: 'is', value: 'On view' } }, burst: null },
  to: [{ group: 'insurers' }],
  message: { ...OPEN_MESSAGE, show: ['place'], doNow: 'Check the cover.' },
};

/** A change of the loan L-12, of these fields. */
export const change = (
  id: string,
  at: string,
  before: Record<string, string>,
  after: Record<string, string>,
  actor = 'wren',
): Change => ({
  ...asChange(
    { id: 'L-12', source: 'loans', folder: null, fields: {}, createdBy: null, lastBy: null, lastAt: null },
    instantOf(at),
  ),
  id,
  actor,
  before: { title: 'Tidal Loom', ...before },
  after: { title: 'Tidal Loom', ...after },
});
/** What a rule tells of its changes, to somebody of the group. */
export const telling = (rule: Rule, ...changes: Change[]): Telling => ({
  alert: `${rule.id}/${changes[0]?.id}`,
  rule,
  source: 'loans',
  item: 'L-12',
  occasion: 'change',
  at: changes[0]?.at ?? 0,
  changes,
  reasons: [{ kind: 'group', group: 'insurers' }],
});
/** What a message says in a form; it tells something. */
export const content = (form: Form, at: number, ...items: Telling[][]): Content => {
  const made = makeContent(form, items, at, READER, WORLD);
  if (!made) throw new Error('nothing is told');
  return made;
};
/** What a message says of one change as it arose. */
export const single = (change: Change, rule = RULE) => content('single', change.at, [telling(rule, change)]);
/** A loan that went on view, in another place. */
export const ONE = change(
  'c1',
  '2026-03-04T10:15:00Z',
  { status: 'Agreed', place: 'Store 2' },
  { status: 'On view', place: 'Gallery 3' },
);
