import { describe, expect, it } from 'vitest';
import { instantOf } from '../time/index.ts';
import type { ItemState, Source } from '../values/index.ts';
import {
  type Contact,
  contactAt,
  hasLeft,
  hearsOwn,
  isFaultySelector,
  isMuted,
  type Mute,
  namesPerson,
  type Person,
  type Plan,
  reach,
  recipientKey,
  recipientOf,
  type Selector,
  type SelectorPlace,
  stepsFor,
  strangerAt,
  type Subject,
  urgentSteps,
  type World,
} from './index.ts';

const LENDERS: Source = {
  id: 'lenders',
  kind: 'records',
  name: 'Lenders',
  titleField: 'name',
  fields: [
    { id: 'name', name: 'Name', type: 'text' },
    { id: 'keeper', name: 'Keeper', type: 'person' },
    { id: 'email', name: 'Email', type: 'email' },
  ],
};
const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loans',
  titleField: 'ref',
  fields: [
    { id: 'ref', name: 'Reference', type: 'text' },
    { id: 'registrar', name: 'Registrar', type: 'person' },
    { id: 'team', name: 'Team', type: 'people' },
    { id: 'lender', name: 'Lender', type: 'link', to: 'lenders' },
    { id: 'others', name: 'Others', type: 'links', to: 'lenders' },
  ],
};
const person = (id: string, more: Partial<Person> = {}): Person => ({
  id,
  name: id,
  email: `${id}@marisma.example`,
  phone: null,
  zone: 'Europe/Madrid',
  locale: 'en-GB',
  manager: null,
  active: true,
  plan: null,
  ...more,
});
const lender = (id: string, keeper: string, email = ''): ItemState => ({
  id,
  source: 'lenders',
  folder: null,
  fields: { name: id, keeper, email },
  createdBy: null,
  lastBy: null,
  lastAt: null,
});
const contact = (id: string, more: Partial<Contact> = {}): Contact => ({
  id,
  name: id,
  email: `${id}@out.example`,
  confirmed: true,
  unsubscribed: [],
  ...more,
});

const ITEMS = new Map([
  ['l1', lender('l1', 'mei', 'Desk@Out.example')],
  ['l2', lender('l2', 'bo')],
]);
const GONE = new Map([['l3', lender('l3', 'wren')]]);
const WORLD: World = {
  people: new Map(
    [
      person('ines', { manager: 'hugo' }),
      person('mei', { manager: 'hugo' }),
      person('bo', { manager: 'nobody' }),
      person('wren'),
      person('hugo'),
    ].map((one) => [one.id, one]),
  ),
  groups: new Map([['desk', { id: 'desk', name: 'Desk', members: ['ines', 'mei', 'gone'], groups: [] }]]),
  contacts: new Map(
    [
      ['desk', contact('desk')],
      ['nomail', contact('nomail', { email: null })],
    ].map(([id, one]) => [id as string, one as Contact]),
  ),
  sources: new Map([
    ['loans', LOANS],
    ['lenders', LENDERS],
  ]),
  folders: new Map(),
  access: [],
  item: (id) => ITEMS.get(id),
  lastState: (id) => GONE.get(id),
  followersOf: (item) => (item === 'L-1' ? ['wren', 'stranger'] : []),
};
const subject = (more: Partial<Subject> = {}): Subject => ({
  id: 'L-1',
  source: 'loans',
  folder: null,
  fields: {},
  createdBy: 'ines',
  lastBy: 'mei',
  mentions: [],
  ...more,
});
const reached = (selectors: Selector[], of = subject(), told: string[] = []) =>
  [...reach(selectors, of, WORLD, { told })].map(
    ([key, { reasons }]) => `${key}: ${reasons.map((reason) => reason.kind).join(' ')}`,
  );

describe('selectors', () => {
  it.each<[string, Selector[], Subject, string[]]>([
    [
      'whoever a field of a linked item names',
      [{ linked: 'lender', field: 'keeper' }],
      subject({ fields: { lender: 'l1' } }),
      ['mei: linked'],
    ],
    [
      'of several linked items',
      [{ linked: 'others', field: 'keeper' }],
      subject({ fields: { others: ['l1', 'l2'] } }),
      ['mei: linked', 'bo: linked'],
    ],
    [
      'of a deleted one by its last state',
      [{ linked: 'lender', field: 'keeper' }],
      subject({ fields: { lender: 'l3' } }),
      ['wren: linked'],
    ],
    [
      'of none where there is no such item, or no link',
      [
        { linked: 'lender', field: 'keeper' },
        { linked: 'ref', field: 'keeper' },
      ],
      subject({ fields: { lender: 'l9' } }),
      [],
    ],
    [
      'an address means the contact who has it',
      [{ linked: 'lender', field: 'email' }],
      subject({ fields: { lender: 'l1' } }),
      ['contact:desk: linked'],
    ],
    [
      'who made it, who edited it last',
      [{ creator: true }, { lastEditor: true }],
      subject(),
      ['ines: creator', 'mei: lastEditor'],
    ],
    [
      'and nobody where that is not known',
      [{ creator: true }, { lastEditor: true }],
      subject({ createdBy: null, lastBy: 'system:import' }),
      [],
    ],
    ['who keeps an eye on it', [{ followers: true }], subject(), ['wren: follower']],
    ['on this item alone', [{ followers: true }], subject({ id: 'L-2' }), []],
    [
      'who is mentioned, once',
      [{ mentioned: true }],
      subject({ mentions: ['bo', 'bo', 'stranger'] }),
      ['bo: mentioned'],
    ],
    [
      'managers, once for all whose they are',
      [{ managerOf: { group: 'desk' } }],
      subject(),
      ['hugo: managerOf managerOf'],
    ],
    [
      'of whomever a field names',
      [{ managerOf: { field: 'registrar' } }],
      subject({ fields: { registrar: 'ines' } }),
      ['hugo: managerOf'],
    ],
    ['not one who is not there', [{ managerOf: { person: 'bo' } }, { managerOf: { person: 'wren' } }], subject(), []],
    [
      'a contact, a webhook',
      [{ contact: 'desk' }, { webhook: 'w1' }, { contact: 'unknown' }],
      subject(),
      ['contact:desk: address', 'webhook:w1: address'],
    ],
    [
      'one reached twice, with both reasons',
      [{ creator: true }, { group: 'desk' }],
      subject(),
      ['ines: creator group', 'mei: group'],
    ],
    ['systems are nobody who hears', ['*', { system: 'import' }], subject(), []],
  ])('%s', (_name, selectors, of, wanted) => expect(reached(selectors, of)).toEqual(wanted));

  it('name those told, and their managers', () =>
    expect(reached([{ told: true }, { managerOf: { told: true } }], subject(), ['ines', 'stranger'])).toEqual([
      'ines: told',
      'hugo: managerOf',
    ]));

  it('are refused where they cannot be', () => {
    const codes = (selector: Selector, place: SelectorPlace = []) =>
      isFaultySelector(selector, LOANS, WORLD.sources, place)?.code ?? 'fine';
    expect([
      codes({ linked: 'lender', field: 'keeper' }),
      codes({ linked: 'lender', field: 'name' }),
      codes({ linked: 'ref', field: 'keeper' }),
      codes({ managerOf: { field: 'ref' } }),
      codes({ told: true }),
      codes({ told: true }, ['told']),
      codes({ managerOf: { told: true } }, ['told']),
      codes({ contact: 'x' }),
      codes({ system: 'x' }),
    ]).toEqual([
      'fine',
      'notAPersonField',
      'notALinkField',
      'notAPersonField',
      'notARecipient',
      'fine',
      'fine',
      'fine',
      'notARecipient',
    ]);
    expect(isFaultySelector({ linked: 'ref', field: 'keeper' }, LOANS, WORLD.sources)?.params).toMatchObject({
      allowed: ['lender', 'others'],
    });
    expect(isFaultySelector({ linked: 'lender', field: 'name' }, LOANS, WORLD.sources)?.params).toMatchObject({
      source: 'Lenders',
      allowed: ['keeper', 'email'],
    });
  });

  it('people go by their ids, others by what they are too', () => {
    for (const recipient of [
      { kind: 'person', id: 'ines' },
      { kind: 'contact', id: 'a:b' },
      { kind: 'webhook', id: 'w' },
    ] as const)
      expect(recipientOf(recipientKey(recipient))).toEqual(recipient);
  });
});

describe('contacts', () => {
  it('are found by id or address, whatever its case', () => {
    expect(contactAt('desk', WORLD)?.id).toBe('desk');
    expect(contactAt(' DESK@out.example', WORLD)?.id).toBe('desk');
    expect(contactAt('other@out.example', WORLD)).toBeUndefined();
    expect(contactAt('desk', { people: new Map() })).toBeUndefined();
  });

  it('have left one rule, or all', () => {
    expect([
      hasLeft(contact('c'), 'r'),
      hasLeft(contact('c', { unsubscribed: ['r'] }), 'r'),
      hasLeft(contact('c', { unsubscribed: ['r'] }), 's'),
      hasLeft(contact('c', { unsubscribed: true }), 's'),
    ]).toEqual([false, true, false, true]);
    expect(strangerAt(' a@b.example ')).toEqual({
      id: 'a@b.example',
      name: 'a@b.example',
      email: 'a@b.example',
      confirmed: false,
      unsubscribed: [],
    });
  });
});

describe('mutes', () => {
  const muted = (mutes: Mute[], at = '2026-03-04T12:00:00Z', rule = 'r', item = 'a') =>
    isMuted(person('ines', { mutes }), rule, item, instantOf(at));
  it.each<[string, boolean, boolean]>([
    ['everything, for good', muted([{}]), true],
    ['the rule', muted([{ rule: 'r' }]), true],
    ['another rule', muted([{ rule: 's' }]), false],
    ['the item', muted([{ item: 'a' }]), true],
    ['rule and item, where both fit', muted([{ rule: 'r', item: 'a' }]), true],
    ['and not where one does', muted([{ rule: 'r', item: 'b' }]), false],
    ['to the end of a day where they are', muted([{ until: '2026-03-04' }], '2026-03-04T22:59:59Z'), true],
    ['and no longer', muted([{ until: '2026-03-04' }], '2026-03-04T23:00:00Z'), false],
    ['until an instant', muted([{ until: '2026-03-04T12:00:01Z' }]), true],
    ['at which it ends', muted([{ until: '2026-03-04T12:00:00Z' }]), false],
    ['one of several', muted([{ rule: 's' }, { item: 'a' }]), true],
    ['none', isMuted(person('ines'), 'r', 'a', 0), false],
  ])('%s', (_name, found, wanted) => expect(found).toBe(wanted));
});

describe('steps', () => {
  const steps = (
    plan: Plan | null,
    more: Partial<{
      urgency: 'routine' | 'critical';
      channels: ('inApp' | 'email' | 'text')[] | null;
      id: string;
    }> = {},
  ) =>
    stepsFor(person('ines', { phone: '+34', plan }), {
      id: 'r',
      urgency: 'routine',
      channels: null,
      pace: { kind: 'now' },
      ...more,
    }).map((step) => step.channel);
  const own: Plan = { own: { r: [{ channel: 'text' }, { channel: 'email' }] } };

  it('of one’s own for a rule go before its channels and the plan; of a critical one they only add', () => {
    expect(steps(own)).toEqual(['text', 'email']);
    expect(steps(own, { id: 's' })).toEqual(['inApp', 'email']);
    expect(steps(own, { channels: ['inApp'] })).toEqual(['text', 'email']);
    expect(steps(own, { channels: ['inApp', 'email'], urgency: 'critical' })).toEqual(['inApp', 'email', 'text']);
    expect(steps(own, { urgency: 'critical' })).toEqual(['text', 'email']);
    expect(steps({ own: { r: [] } })).toEqual([]);
  });

  it('that remind are the critical ones, without their paces', () => {
    const plan: Plan = {
      reach: {
        critical: [
          { channel: 'email', pace: { kind: 'digest', every: 'day', at: '09:00' }, after: 'PT5M' },
          { channel: 'text' },
        ],
      },
      off: ['text'],
    };
    expect(urgentSteps(person('ines', { phone: '+34', plan }))).toEqual([{ channel: 'email', after: 'PT5M' }]);
    expect(urgentSteps(person('ines', { email: null })).map((step) => step.channel)).toEqual(['inApp']);
  });

  it('and a plan’s word on one’s own changes goes before the rule’s', () => {
    expect([
      hearsOwn(person('ines'), true),
      hearsOwn(person('ines'), false),
      hearsOwn(person('ines', { plan: { ownChanges: true } }), false),
      hearsOwn(person('ines', { plan: { ownChanges: false } }), true),
      hearsOwn(person('ines', { plan: { ownChanges: null } }), true),
    ]).toEqual([true, false, true, false, true]);
  });

  it('an item names whom its person and people fields hold', () => {
    expect([
      namesPerson(LOANS, { registrar: 'ines' }, 'ines'),
      namesPerson(LOANS, { team: ['bo', 'ines'] }, 'ines'),
      namesPerson(LOANS, { ref: 'ines', lender: 'ines' }, 'ines'),
      namesPerson(LOANS, {}, 'ines'),
    ]).toEqual([true, true, false, false]);
  });
});
