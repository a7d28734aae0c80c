import { describe, expect, it } from 'vitest';
import type { Contact, Person, World } from '../../people/index.ts';
import type { Rule } from '../../rules/index.ts';
import { at, goesOnView, item, LOANS, person, rule } from '../../testing/museum.ts';
import type { Change } from '../../values/index.ts';
import { type Caught, judgeAgain, judgeEscalated, judgeRecipients, subjectOf } from './judge.ts';

const NOW = at('10:00');
const FERRO: Contact = {
  id: 'ferro',
  name: 'Ana Ferro',
  email: 'ana@ferro.example',
  confirmed: true,
  unsubscribed: [],
};

interface Setting {
  people?: Person[];
  contacts?: Contact[];
  /** Who may read loans; everybody where it is left out. */
  readers?: string[];
}

/** A world of a loan that stands on view, and how its rules judge it. */
function worldOf({ people = [], contacts = [FERRO], readers }: Setting = {}): World {
  const known = [person('ines'), person('mei'), person('bo'), ...people];
  const loan = item('a', { status: 'On view', registrar: 'ines' }, { createdBy: 'mei', lastBy: 'bo' });
  return {
    people: new Map(known.map((one) => [one.id, one])),
    groups: new Map([['all', { id: 'all', name: 'All', members: ['ines', 'mei', 'bo'], groups: [] }]]),
    contacts: new Map(contacts.map((one) => [one.id, one])),
    sources: new Map([['loans', LOANS]]),
    folders: new Map(),
    access: readers ? [{ source: 'loans', readers: readers.map((one) => ({ person: one })) }] : [],
    item: (id) => (id === 'a' ? loan : undefined),
  };
}
function caught(changes: Change[], world: World, more: Partial<Caught> = {}, id = 'a'): Caught {
  return { item: id, subject: subjectOf(id, 'loans', changes, world), changes, at: NOW, ...more };
}
const by = (actor: string) => goesOnView('a', '10:00', { actor });

/** What becomes of one person by a rule that names them, in a word. */
function reasonFor(
  one: Person,
  more: Partial<Rule>,
  changes: Change[] = [by('import')],
  setting: Setting = {},
  isCooled = false,
) {
  const world = worldOf({ ...setting, people: [one] });
  const asked = rule({ to: [{ person: one.id }], ...more });
  return judgeRecipients(asked, [caught(changes, world, { isCooled })], world).map(({ reason }) => reason ?? 'told');
}

describe('why somebody does not hear', () => {
  const muted = person('zoe', { mutes: [{ rule: 'r1' }] });
  const off = person('zoe', { plan: { off: ['inApp', 'email', 'text'] } });

  it('is the first reason that applies, in the order in which they are asked', () => {
    const everything: Partial<Person> = {
      active: false,
      mutes: [{ rule: 'r1' }],
      plan: { off: ['inApp', 'email', 'text'] },
    };
    const asked: Partial<Rule> = { except: [{ person: 'zoe' }], about: 'namesRecipient' };
    const own = [by('zoe')];
    const closed = { readers: ['ines'] };
    expect(reasonFor(person('zoe', everything), asked, own, closed, true)).toEqual(['excluded']);
    expect(reasonFor(person('zoe', everything), { ...asked, except: [] }, own, closed, true)).toEqual(['inactive']);
    const here = person('zoe', { ...everything, active: true });
    expect(reasonFor(here, { ...asked, except: [] }, own, closed, true)).toEqual(['noAccess']);
    expect(reasonFor(here, { ...asked, except: [] }, own, {}, true)).toEqual(['notTheirs']);
    expect(reasonFor(here, {}, own, {}, true)).toEqual(['ownChange']);
    expect(reasonFor(here, {}, [by('import')], {}, true)).toEqual(['muted']);
    expect(reasonFor(person('zoe', { plan: everything.plan }), {}, [by('import')], {}, true)).toEqual(['coolDown']);
    expect(reasonFor(off, { channels: ['email'] })).toEqual(['noChannel']);
    expect(reasonFor(person('zoe'), {})).toEqual(['told']);
  });

  it('is a mute of the rule, the item or everything, only while it lasts', () => {
    expect(reasonFor(muted, {})).toEqual(['muted']);
    expect(reasonFor(person('zoe', { mutes: [{ item: 'a' }] }), {})).toEqual(['muted']);
    expect(reasonFor(person('zoe', { mutes: [{ item: 'b' }] }), {})).toEqual(['told']);
    expect(reasonFor(person('zoe', { mutes: [{ until: '2026-03-04' }] }), {})).toEqual(['muted']);
    expect(reasonFor(person('zoe', { mutes: [{ until: '2026-03-03' }] }), {})).toEqual(['told']);
  });

  it('of an outsider is what the rule’s owner may not read, or an address that does not hold', () => {
    const outside = (contact: Partial<Contact>, setting: Setting = {}, more: Partial<Rule> = {}) => {
      const world = worldOf({ ...setting, contacts: [{ ...FERRO, ...contact }] });
      const asked = rule({ to: [{ contact: 'ferro' }], ...more });
      return judgeRecipients(asked, [caught([by('mei')], world)], world).map(({ reason }) => reason ?? 'told');
    };
    expect(outside({})).toEqual(['told']);
    expect(outside({}, { readers: ['mei'] })).toEqual(['noAccess']);
    expect(outside({}, {}, { about: 'createdByRecipient' })).toEqual(['notTheirs']);
    expect(outside({ confirmed: false })).toEqual(['unconfirmed']);
    expect(outside({ unsubscribed: ['r1'] })).toEqual(['unsubscribed']);
    expect(outside({ unsubscribed: ['another'] })).toEqual(['told']);
    expect(outside({ email: ' ' })).toEqual(['noChannel']);
  });
});

describe('one’s own changes', () => {
  const world = worldOf();
  const asked = rule({ to: [{ person: 'mei' }] });
  const verdicts = (alert: Caught[], one = asked) =>
    judgeRecipients(one, alert, world).map(({ item: id, told, reason }) => [
      id,
      told.map(({ actor }) => actor),
      reason,
    ]);

  it('are left out of what is told, and withheld only where there is nothing else in the whole alert', () => {
    expect(verdicts([caught([by('mei'), by('bo')], world)])).toEqual([['a', ['bo'], null]]);
    expect(verdicts([caught([by('mei')], world)])).toEqual([['a', [], 'ownChange']]);
    // Of two items one was somebody else's doing: of the other nothing is said at all.
    expect(verdicts([caught([by('mei')], world), caught([by('bo')], world, {}, 'b')])).toEqual([['b', ['bo'], null]]);
  });

  it('are told where the rule, or the person, says so', () => {
    expect(verdicts([caught([by('mei')], world)], rule({ to: [{ person: 'mei' }], ownChanges: true }))).toEqual([
      ['a', ['mei'], null],
    ]);
    expect(reasonFor(person('zoe', { plan: { ownChanges: true } }), {}, [by('zoe')])).toEqual(['told']);
    expect(reasonFor(person('zoe', { plan: { ownChanges: false } }), { ownChanges: true }, [by('zoe')])).toEqual([
      'ownChange',
    ]);
  });
});

describe('somebody reached twice', () => {
  it('hears once, with every reason why', () => {
    const world = worldOf();
    const asked = rule({ to: [{ field: 'registrar' }, { group: 'all' }, { person: 'ines' }] });
    const found = judgeRecipients(asked, [caught([by('bo')], world)], world);
    expect(found.map(({ to }) => to.id)).toEqual(['ines', 'mei', 'bo']);
    expect(found[0]?.to.reasons.map(({ kind }) => kind)).toEqual(['field', 'group', 'person']);
  });
});

describe('what is judged once more as a message goes out', () => {
  const subject = (world: World) => subjectOf('a', 'loans', [by('bo')], world);
  it('is reading and muting of a person, reading of the owner and leaving of an outsider', () => {
    const open = worldOf({ people: [person('zoe', { mutes: [{ rule: 'r1' }] })] });
    const again = (to: { kind: 'person' | 'contact' | 'webhook'; id: string }, world: World) =>
      judgeAgain(to, rule(), 'a', subject(world), NOW, world);
    expect(again({ kind: 'person', id: 'mei' }, open)).toBeNull();
    expect(again({ kind: 'person', id: 'zoe' }, open)).toBe('muted');
    expect(again({ kind: 'person', id: 'mei' }, worldOf({ readers: ['ines'] }))).toBe('noAccess');
    expect(again({ kind: 'contact', id: 'ferro' }, worldOf({ readers: ['mei'] }))).toBe('noAccess');
    expect(again({ kind: 'contact', id: 'ferro' }, worldOf({ contacts: [{ ...FERRO, unsubscribed: true }] }))).toBe(
      'unsubscribed',
    );
    expect(again({ kind: 'webhook', id: 'desk' }, open)).toBeNull();
  });
});

describe('an escalation', () => {
  it('passes over neither what one did oneself nor whose it is, and asks for a way to reach', () => {
    const world = worldOf({ people: [person('zoe', { active: false })] });
    const asked = rule({ about: 'namesRecipient' });
    const to = [{ person: 'bo' }, { person: 'zoe' }, { managerOf: { told: true } }] as const;
    const found = judgeEscalated(
      [...to],
      asked,
      caught([by('bo')], world),
      { told: ['ines'], acknowledged: [], stepsOf: ({ id }) => (id === 'mei' ? [] : [{ channel: 'inApp' }]) },
      world,
    );
    expect(found.map(({ to: one, reason }) => [one.id, reason])).toEqual([
      ['bo', null],
      ['zoe', 'inactive'],
    ]);
    const nobody = { told: [], acknowledged: [], stepsOf: () => [] };
    const mei = judgeEscalated([{ person: 'mei' }], asked, caught([by('bo')], world), nobody, world);
    expect(mei.map(({ reason }) => reason)).toEqual(['noChannel']);
  });
});
