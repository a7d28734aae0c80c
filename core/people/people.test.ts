import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Source } from '../values/index.ts';
import {
  type AccessEntry,
  isFaultySelector,
  isNamed,
  mayRead,
  mayReadSome,
  membersOfGroup,
  type Person,
  type Plan,
  reach,
  type Selector,
  stepsFor,
  type World,
} from './index.ts';

const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loans',
  titleField: 'ref',
  fields: [
    { id: 'ref', name: 'Reference', type: 'text' },
    { id: 'registrar', name: 'Registrar', type: 'person' },
    { id: 'team', name: 'Team', type: 'people' },
    { id: 'mail', name: 'Mail', type: 'email' },
  ],
};
const person = (id: string, more: Partial<Person> = {}): [string, Person] => [
  id,
  {
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
  },
];
const world = (access: AccessEntry[] = []): World => ({
  people: new Map([person('ines'), person('mei'), person('bo', { email: null })]),
  groups: new Map([
    ['inner', { id: 'inner', name: 'Inner', members: ['bo', 'gone'], groups: ['outer'] }],
    ['outer', { id: 'outer', name: 'Outer', members: ['mei'], groups: ['inner'] }],
  ]),
  sources: new Map([['loans', LOANS]]),
  folders: new Map([
    ['top', { id: 'top', source: 'loans', name: 'Top', parent: null }],
    ['leaf', { id: 'leaf', source: 'loans', name: 'Leaf', parent: 'top' }],
  ]),
  access,
  item: () => undefined,
});

describe('groups', () => {
  it('hold what the groups within them hold, and end where they hold themselves', () => {
    expect([...membersOfGroup('outer', world())].sort()).toEqual(['bo', 'gone', 'mei']);
    expect([...membersOfGroup('none', world())]).toEqual([]);
  });
});

describe('selectors', () => {
  const reached = (selectors: Selector[], fields = {}) =>
    Object.fromEntries(
      [...reach(selectors, { source: 'loans', folder: null, fields }, world())].map(([key, { reasons }]) => [
        key,
        reasons,
      ]),
    );

  it('reach each person once, with every reason, and nobody who is unknown', () => {
    expect(
      reached([{ group: 'outer' }, { person: 'mei' }, { field: 'registrar' }, { person: 'gone' }], {
        registrar: 'mei',
      }),
    ).toEqual({
      mei: [{ kind: 'group', group: 'outer' }, { kind: 'person' }, { kind: 'field', field: 'registrar' }],
      bo: [{ kind: 'group', group: 'outer' }],
    });
  });

  it('read people fields, and addresses whatever their case and the spaces round them', () => {
    expect(Object.keys(reached([{ field: 'team' }], { team: ['bo', 'ines'] }))).toEqual(['bo', 'ines']);
    expect(Object.keys(reached([{ field: 'mail' }], { mail: ' INES@Marisma.example ' }))).toEqual(['ines']);
    expect(reached([{ field: 'registrar' }, { field: 'team' }, { field: 'mail' }])).toEqual({});
  });

  it('name actors: people, groups, systems, anyone', () => {
    const named = (selector: Selector, actor: string) => isNamed(selector, actor, world());
    expect([
      named('*', 'system:feed'),
      named({ system: 'feed' }, 'system:feed'),
      named({ system: 'feed' }, 'feed'),
      named({ group: 'inner' }, 'mei'),
      named({ person: 'bo' }, 'mei'),
    ]).toEqual([true, true, false, true, false]);
  });

  it('are refused where they name no people, with what would', () => {
    expect(isFaultySelector({ field: 'ref' }, LOANS)).toMatchObject({
      code: 'notAPersonField',
      params: { allowed: ['registrar', 'team', 'mail'] },
    });
    expect(isFaultySelector('*', LOANS)?.code).toBe('notARecipient');
    expect(isFaultySelector({ field: 'mail' }, LOANS)).toBeNull();
  });
});

describe('access', () => {
  const may = (who: string, folder: string | null, access: AccessEntry[], fields = {}) =>
    mayRead(who, { source: 'loans', folder, fields }, world(access));

  it('is open to all people where nothing is said, and to nobody where the list is empty', () => {
    expect([
      may('ines', null, []),
      may('stranger', null, []),
      may('ines', null, [{ source: 'loans', readers: [] }]),
    ]).toEqual([true, false, false]);
  });

  it('is that of the nearest folder which has its own', () => {
    const access: AccessEntry[] = [
      { source: 'loans', readers: [{ person: 'ines' }] },
      { folder: 'top', readers: [{ person: 'mei' }] },
    ];
    expect([may('ines', null, access), may('ines', 'leaf', access), may('mei', 'leaf', access)]).toEqual([
      true,
      false,
      true,
    ]);
  });

  it('is of its own source and folder alone, and ends where folders go round', () => {
    const access: AccessEntry[] = [
      { source: 'other', readers: [{ person: 'mei' }] },
      { folder: 'leaf', readers: [{ person: 'ines' }] },
      { source: 'loans', readers: [{ person: 'bo' }] },
    ];
    expect([
      may('bo', null, access),
      may('mei', null, access),
      may('ines', null, access),
      may('ines', 'leaf', access),
      may('bo', 'top', access),
      may('bo', 'unknown', access),
    ]).toEqual([true, false, false, true, true, true]);
    const round = {
      ...world([{ source: 'loans', readers: [{ person: 'bo' }] }]),
      folders: new Map([
        ['a', { id: 'a', source: 'loans', name: 'A', parent: 'b' }],
        ['b', { id: 'b', source: 'loans', name: 'B', parent: 'a' }],
      ]),
    };
    expect(mayRead('bo', { source: 'loans', folder: 'a', fields: {} }, round)).toBe(true);
  });

  it('of some of a source is had by whoever may read any of its folders', () => {
    const some = (who: string, access: AccessEntry[]) => mayReadSome(who, 'loans', world(access));
    const closed: AccessEntry = { source: 'loans', readers: [{ person: 'bo' }] };
    expect([some('bo', [closed]), some('ines', [closed]), some('stranger', []), some('ines', [])]).toEqual([
      true,
      false,
      false,
      true,
    ]);
    expect([
      some('ines', [closed, { folder: 'leaf', readers: [{ person: 'ines' }] }]),
      some('mei', [closed, { folder: 'top', readers: [{ group: 'outer' }] }]),
      some('ines', [closed, { folder: 'elsewhere', readers: [{ person: 'ines' }] }]),
    ]).toEqual([true, true, false]);
    expect([
      some('ines', [{ source: 'loans', readers: ['*'] }]),
      some('mei', [{ source: 'loans', readers: [{ group: 'outer' }] }]),
      some('ines', [{ source: 'loans', readers: [{ group: 'outer' }] }]),
    ]).toEqual([false, true, false]);
  });

  it('may be judged on the item, and then some of it might be read', () => {
    const access: AccessEntry[] = [{ source: 'loans', readers: [{ field: 'registrar' }] }];
    expect([
      may('bo', null, access, { registrar: 'bo' }),
      may('mei', null, access, { registrar: 'bo' }),
      mayReadSome('mei', 'loans', world(access)),
    ]).toEqual([true, false, true]);
  });

  it('answers as gathering all readers would', () => {
    const selector = fc.constantFrom<Selector>(
      { person: 'ines' },
      { group: 'outer' },
      { group: 'inner' },
      { field: 'registrar' },
      { field: 'team' },
      { person: 'gone' },
      '*',
    );
    fc.assert(
      fc.property(
        fc.array(selector, { maxLength: 3 }),
        fc.constantFrom('ines', 'mei', 'bo', 'gone'),
        fc.constantFrom('ines', 'bo', null),
        (readers, who, registrar) => {
          const fields = { registrar, team: ['mei'] };
          expect(may(who, null, [{ source: 'loans', readers }], fields)).toBe(
            reach(readers, { source: 'loans', folder: null, fields }, world()).has(who),
          );
        },
      ),
      { seed: 8 },
    );
  });
});

describe('delivery plans', () => {
  const steps = (
    more: Partial<Person>,
    urgency: 'routine' | 'important' | 'critical' = 'important',
    channels: ('inApp' | 'email' | 'text')[] | null = null,
  ) => stepsFor(person('ines', more)[1], { urgency, channels, pace: { kind: 'now' } }).map((step) => step.channel);
  const plan = (more: Plan): Partial<Person> => ({ plan: more });

  it.each<[string, string[], string[]]>([
    ['the default without a telephone', steps({}, 'critical'), ['inApp', 'email']],
    ['the default with one', steps({ phone: '+34600555014' }, 'critical'), ['inApp', 'email', 'text']],
    [
      'the rule’s channels replace the plan’s',
      steps(plan({ reach: { important: [{ channel: 'inApp' }] } }), 'important', ['email']),
      ['email'],
    ],
    [
      'what is off is off for critical rules too',
      steps(plan({ off: ['email'] }), 'critical', ['inApp', 'email']),
      ['inApp'],
    ],
    ['in Ojo cannot be off', steps(plan({ off: ['inApp', 'email'] })), ['inApp']],
    [
      'what a plan leaves out is the default’s',
      steps(plan({ reach: { routine: [] } }), 'important'),
      ['inApp', 'email'],
    ],
    ['a plan may have no step', steps(plan({ reach: { routine: [] } }), 'routine'), []],
    ['a blank address is none', steps({ email: ' ' }, 'important', ['email']), []],
  ])('%s', (_name, found, wanted) => expect(found).toEqual(wanted));
});
