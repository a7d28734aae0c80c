import { describe, expect, it } from 'vitest';
import type { Contact, Person } from '../people/index.ts';
import { OPEN_MESSAGE, type Rule } from '../rules/index.ts';
import { at, change, DAY, goesBack, goesOnView, item, LOANS, person, rule, settingOf } from '../testing/museum.ts';
import { type Act, Run, type ScenarioInput, type Setting, simulate } from './index.ts';

/** Runs a day; gives alerts, messages, withheld and dropped in a few words each. */
function run(rules: Rule | Rule[], inputs: ScenarioInput[], more: Partial<Setting> & { contacts?: Contact[] } = {}) {
  const found = simulate({
    ...settingOf(),
    rules: [rules].flat().map((one) => ({ rule: one, from: more.start ?? at('00:00') })),
    inputs,
    ...more,
  });
  const time = (text: string) => text.replace(`${DAY}T`, '').replace(/:00Z$/, '');
  return {
    alerts: found.alerts.map(
      (one) => `${time(one.at)} ${one.rule} ${one.items}${one.suppressed ? ` after ${one.suppressed}` : ''}`,
    ),
    messages: found.messages.map(
      (one) =>
        `${time(one.at)} ${one.to} ${one.channel} ${one.form} ${one.alerts.map((alert) => alert.items).join(';')}`,
    ),
    withheld: found.withheld.map((one) => `${time(one.at)} ${one.person} ${one.item} ${one.reason}`),
    dropped: found.dropped.map((one) => `${time(one.at)} ${one.item} ${one.reason}`),
    texts: found.messages.map((one) => `${one.subject}\n${one.text}`),
  };
}

describe('settling', () => {
  const settled = rule({ pace: { kind: 'settled', quiet: 'PT10M', most: 'PT30M' } });

  it('waits for every admitted change, but no longer than most since the first match', () => {
    const steady = ['10:09', '10:18', '10:27', '10:36'].map((time) =>
      change('a', time, { status: 'On view' }, { status: 'On view', title: time }),
    );
    expect(run(settled, [goesOnView('a', '10:00'), ...steady]).alerts).toEqual(['10:30 r1 a']);
  });

  it('takes a change at the very instant at which it would settle', () =>
    expect(run(settled, [goesOnView('a', '10:00'), goesBack('a', '10:10')]).dropped).toEqual(['10:20 a undone']));

  it('tells what is deleted and restored meanwhile as a change, and of what is created and deleted nothing', () => {
    const any = rule({
      when: { kinds: [], if: { all: [] }, burst: null },
      pace: { kind: 'settled', quiet: 'PT10M', most: 'PT2H' },
    });
    const back = run(any, [
      change('a', '10:00', { status: 'Agreed' }, null),
      change('a', '10:05', null, { status: 'On view' }, { kind: 'restored' }),
    ]);
    expect(back.texts[0]).toContain('Status');
    expect(
      run(any, [change('n', '10:00', null, { status: 'On view' }), change('n', '10:05', { status: 'On view' }, null)]),
    ).toMatchObject({ alerts: [], dropped: ['10:15 n undone'] });
    expect(
      run(any, [
        change(
          'a',
          '10:00',
          { status: 'Agreed' },
          { status: 'Agreed' },
          { kind: 'commented', detail: { text: 'seen' } },
        ),
      ]).alerts,
    ).toEqual(['10:10 r1 a']);
  });

  it('joins gatherings of one batch that settle at one instant, unless the rule says not to', () => {
    const both = [goesOnView('a', '10:00', { batch: 'x' }), goesOnView('b', '10:00', { batch: 'x' })];
    expect(run(settled, both).alerts).toEqual(['10:10 r1 a,b']);
    expect(run({ ...settled, together: false }, both).alerts).toEqual(['10:10 r1 a', '10:10 r1 b']);
  });

  it('goes on as the version decided that it began with, and takes nothing of the next', () => {
    const publish: Act = { do: 'publish', at: at('10:04'), rule: { ...settled, urgency: 'important' } };
    expect(run(settled, [goesOnView('a', '10:00'), publish, goesBack('a', '10:05')]).dropped).toEqual([
      '10:10 a undone',
    ]);
    expect(
      run(settled, [
        goesOnView('a', '10:00'),
        publish,
        change('a', '10:05', { status: 'On view' }, { status: 'On view', title: 't' }),
      ]).alerts,
    ).toEqual(['10:10 r1 a']);
  });
});

describe('limits', () => {
  it('keep back what comes too soon, end exactly at their end, and say how many they kept', () => {
    const limited = rule({ limit: { per: 'item', within: 'PT1H' } });
    const often = [
      goesOnView('a', '10:00'),
      goesBack('a', '10:10'),
      goesOnView('a', '10:20'),
      goesBack('a', '10:30'),
      goesOnView('a', '11:00'),
      goesOnView('b', '11:00'),
    ];
    expect(run(limited, often)).toMatchObject({
      alerts: ['10:00 r1 a', '11:00 r1 a after 1', '11:00 r1 b'],
      withheld: ['10:20 ines a coolDown'],
    });
    expect(
      run({ ...limited, limit: { per: 'rule', within: 'PT1H' } }, [goesOnView('a', '10:00'), goesOnView('b', '10:30')])
        .alerts,
    ).toEqual(['10:00 r1 a']);
  });

  it('let the parts of an alert that have not cooled pass', () => {
    const inputs = [
      goesOnView('a', '10:00'),
      goesBack('a', '10:05'),
      goesOnView('a', '10:10', { batch: 'x' }),
      goesOnView('b', '10:10', { batch: 'x' }),
    ];
    expect(run(rule({ limit: { per: 'item', within: 'PT1H' } }), inputs)).toMatchObject({
      alerts: ['10:00 r1 a', '10:10 r1 b'],
      withheld: ['10:10 ines a coolDown'],
    });
  });
});

describe('dates', () => {
  const due = (more: Partial<NonNullable<Rule['due']>> = {}) =>
    rule({
      when: null,
      due: { field: 'due', offset: '-P1D', at: '09:00', if: { all: [] }, repeat: null, late: 'now', ...more },
    });
  const setTo = (id: string, time: string, value: string | null, from: string | null = null) =>
    change(id, time, { due: from }, { due: value });

  it('fire at their instant, once for a value, and anew for another', () => {
    const inputs = [
      setTo('a', '08:00', '2026-03-05'),
      setTo('a', '10:00', null, '2026-03-05'),
      setTo('a', '11:00', '2026-03-05'),
    ];
    expect(run(due(), inputs).alerts).toEqual(['09:00 r1 a']);
    // Late for another day, but that day is not over.
    expect(run(due(), [...inputs, setTo('a', '12:00', '2026-03-04', '2026-03-05')]).alerts).toEqual([
      '09:00 r1 a',
      '12:00 r1 a',
    ]);
    expect(run(due({ late: 'skip' }), [setTo('a', '12:00', '2026-03-04')]).alerts).toEqual([]);
    expect(run(due(), [setTo('a', '12:00', '2026-03-03')]).alerts).toEqual([]);
  });

  it('are passed over where they lie before going live, and where `if` does not hold then', () => {
    const items = [
      item('a', { due: '2026-03-05', status: 'Agreed' }),
      item('b', { due: '2026-03-05', status: 'On view' }),
    ];
    expect(run(due(), [], { items, rules: [{ rule: due(), from: at('09:30') }] }).alerts).toEqual([]);
    const only = due({ if: { field: 'status', op: 'is', value: 'On view' }, repeat: { every: 'PT2H', times: 2 } });
    expect(run(only, [goesBack('b', '12:00')], { items }).alerts).toEqual(['09:00 r1 b', '11:00 r1 b']);
  });

  it('of one instant come together, and of an exact moment keep to it', () => {
    const items = [
      item('b', { due: '2026-03-05', opens: '2026-03-04T17:30:00Z' }),
      item('a', { due: '2026-03-05', opens: '2026-03-04T17:30:00Z' }),
    ];
    expect(run(due(), [], { items }).alerts).toEqual(['09:00 r1 a,b']);
    expect(
      run({ ...due({ field: 'opens', offset: '-PT1H', at: null }), together: false }, [], { items }).alerts,
    ).toEqual(['16:30 r1 a', '16:30 r1 b']);
  });

  it('caught while paused are told on resuming where they still hold', () => {
    const items = [item('a', { due: '2026-03-05' }), item('b', { due: '2026-03-05' })];
    const acts: Act[] = [
      { do: 'pause', at: at('08:00'), rule: 'r1' },
      { do: 'resume', at: at('12:00'), rule: 'r1', catchUp: 'each' },
    ];
    const moved = setTo('b', '10:00', '2026-04-01', '2026-03-05');
    expect(run(due(), [acts[0] as Act, moved, acts[1] as Act], { items })).toMatchObject({
      alerts: ['12:00 r1 a'],
      dropped: ['12:00 b undone'],
    });
  });
});

describe('standstills', () => {
  const idle = rule({ when: null, idle: { for: 'PT4H', if: { all: [] }, repeat: { every: 'PT3H', times: 1 } } });

  it('are told once a stretch, and again; a change of any kind begins another', () => {
    const seen = change('a', '06:00', { status: 'Agreed' }, { status: 'Agreed' }, { kind: 'commented' });
    expect(run(idle, [seen], { items: [item('a', { status: 'Agreed' })] }).alerts).toEqual([
      '04:00 r1 a',
      '10:00 r1 a',
      '13:00 r1 a',
    ]);
  });

  it('that are there at going live come in one alert, and go on from it item by item', () => {
    const items = [
      item('a', {}, { lastAt: at('2026-03-01T00:00:00Z') }),
      item('b', {}, { lastAt: at('2026-03-02T00:00:00Z') }),
    ];
    expect(run({ ...idle, together: false }, [], { items }).alerts).toEqual([
      '00:00 r1 a,b',
      '03:00 r1 a',
      '03:00 r1 b',
    ]);
  });
});

describe('being told', () => {
  it('of several changes leaves out one’s own without a word, and of nothing but one’s own says so', () => {
    const any = rule({
      when: { kinds: [], if: { all: [] }, burst: null },
      pace: { kind: 'settled', quiet: 'PT10M', most: 'PT1H' },
      to: [{ person: 'ines' }, { person: 'mei' }],
    });
    const mixed = run(any, [
      goesOnView('a', '10:00'),
      change('a', '10:05', { status: 'On view' }, { status: 'On view', title: 'T' }, { actor: 'ines' }),
    ]);
    expect(mixed).toMatchObject({ messages: ['10:15 ines inApp single a', '10:15 mei inApp single a'], withheld: [] });
    expect(run(any, [goesOnView('a', '10:00')]).withheld).toEqual(['10:10 mei a ownChange']);
  });

  it('takes the first reason against it, in their order', () => {
    const to = rule({
      to: ['ines', 'mei', 'bo', 'gone', 'shy'].map((id) => ({ person: id })),
      except: [{ person: 'bo' }],
    });
    const people = [
      person('ines', { mutes: [{ item: 'a', until: DAY }] }),
      person('mei'),
      person('bo', { active: false }),
      person('gone', { active: false }),
      person('shy', { plan: { reach: {}, off: ['email'] }, email: null }),
    ];
    expect(run({ ...to, channels: ['email'] }, [goesOnView('a', '10:00')], { people }).withheld).toEqual([
      '10:00 bo a excluded',
      '10:00 gone a inactive',
      '10:00 ines a muted',
      '10:00 mei a ownChange',
      '10:00 shy a noChannel',
    ]);
  });

  it('reaches outsiders by their address once they confirmed, at the owner’s word', () => {
    const outside = rule({ to: [{ contact: 'ferro' }, { field: 'contact' }, { webhook: 'w1' }], channels: ['text'] });
    const contacts: Contact[] = [
      { id: 'ferro', name: 'Ana', email: 'ana@ferro.example', confirmed: true, unsubscribed: [] },
    ];
    const named = change('a', '10:00', { status: 'Agreed' }, { status: 'On view', contact: ' New@Desk.example ' });
    expect(run(outside, [named], { contacts })).toMatchObject({
      messages: ['10:00 ferro email single a', '10:00 w1 webhook single a'],
      withheld: ['10:00 New@Desk.example a unconfirmed'],
    });
    const later: ScenarioInput[] = [
      { do: 'confirm', at: at('09:00'), contact: 'new@desk.example' },
      { do: 'unsubscribe', at: at('09:30'), contact: 'ferro', rule: 'r1' },
      named,
    ];
    expect(run(outside, later, { contacts })).toMatchObject({
      messages: ['10:00 new@desk.example email single a', '10:00 w1 webhook single a'],
      withheld: ['10:00 ferro a unsubscribed'],
    });
    expect(
      run(outside, [named], { contacts, access: [{ source: 'loans', readers: [{ person: 'bo' }] }] }).withheld,
    ).toContain('10:00 ferro a noAccess');
  });

  it('judges reading and muting again as a digest goes out', () => {
    const digest = rule({
      pace: { kind: 'digest', every: 'day', at: '12:00' },
      to: [{ person: 'ines' }, { person: 'bo' }],
    });
    const acts: ScenarioInput[] = [
      goesOnView('a', '10:00'),
      goesOnView('b', '10:30'),
      { do: 'mute', at: at('11:00'), person: 'bo', item: 'a' },
      { do: 'access', at: at('11:30'), access: [{ source: 'loans', readers: [{ person: 'bo' }] }] },
    ];
    expect(run(digest, acts)).toMatchObject({
      messages: ['12:00 bo inApp digest b'],
      withheld: ['12:00 bo a muted', '12:00 ines a noAccess', '12:00 ines b noAccess'],
    });
  });
});

describe('delivery plans', () => {
  const plan = (id: string, reach: NonNullable<Person['plan']>) => person(id, { phone: '+34600555014', plan: reach });

  it('take a later step only of what is unread, and one for those away only while they are', () => {
    const people = [
      plan('ines', {
        reach: {
          routine: [
            { channel: 'inApp' },
            { channel: 'email', after: 'PT15M' },
            { channel: 'text', after: 'PT30M', when: 'away' },
          ],
        },
      }),
      person('mei'),
    ];
    const byPlan = rule({ channels: null });
    expect(run(byPlan, [goesOnView('a', '10:00')], { people }).messages).toEqual([
      '10:00 ines inApp single a',
      '10:15 ines email single a',
      '10:30 ines text single a',
    ]);
    const here: ScenarioInput[] = [goesOnView('a', '10:00'), { do: 'arrive', at: at('10:20'), person: 'ines' }];
    expect(run(byPlan, here, { people }).messages).toHaveLength(2);
    expect(
      run(byPlan, [goesOnView('a', '10:00'), { do: 'read', at: at('10:05'), person: 'ines' }], { people }).messages,
    ).toEqual(['10:00 ines inApp single a']);
  });

  it('hold what falls into quiet hours, drop what was read, and sum up several', () => {
    const quiet = [
      { days: ['WE' as const], from: '09:00', to: '12:00' },
      { days: ['WE' as const], from: '12:00', to: '13:00' },
    ];
    const people = [
      plan('ines', {
        reach: {
          routine: [{ channel: 'inApp' }, { channel: 'email' }, { channel: 'text', after: 'PT10M' }],
          critical: [{ channel: 'email' }],
        },
        quiet,
      }),
    ];
    const byPlan = rule({ channels: null });
    const both: ScenarioInput[] = [
      goesOnView('a', '10:00'),
      { do: 'read', at: at('10:30'), person: 'ines' },
      goesOnView('b', '11:00'),
    ];
    expect(run(byPlan, both, { people }).messages).toEqual([
      '10:00 ines inApp single a',
      '11:00 ines inApp single b',
      '13:00 ines email summary a;b',
      '13:00 ines text single b',
    ]);
    expect(run({ ...byPlan, urgency: 'critical' }, [goesOnView('a', '10:00')], { people }).messages).toEqual([
      '10:00 ines email single a',
    ]);
  });

  it('join a digest once a later step is taken, and go by the rule’s own digest before their own', () => {
    const people = [
      plan('ines', {
        reach: { routine: [{ channel: 'email', after: 'PT15M', pace: { kind: 'digest', every: 'day', at: '18:00' } }] },
      }),
    ];
    expect(
      run(rule({ channels: null }), [goesOnView('a', '10:00'), { do: 'read', at: at('17:00'), person: 'ines' }], {
        people,
      }).messages,
    ).toEqual(['18:00 ines email digest a']);
    const paced = rule({ channels: null, pace: { kind: 'digest', every: 'day', at: '12:00' } });
    expect(run(paced, [goesOnView('a', '10:00')], { people }).messages).toEqual(['12:15 ines email digest a']);
  });
});

describe('acknowledging', () => {
  const acked = (ack: Partial<NonNullable<Rule['ack']>> = {}, more: Partial<Rule> = {}) =>
    rule({
      urgency: 'critical',
      ack: { by: 'anyone', remind: null, escalate: [], closeWhenCeased: true, allClear: false, ...ack },
      ...more,
    });
  const take = (who: string, time: string): Act => ({ do: 'acknowledge', at: at(time), person: who, rule: 'r1' });

  it('reminds until somebody has it, and escalates to the managers of those told', () => {
    const people = [person('ines', { manager: 'bo' }), person('mei'), person('bo')];
    const rules = acked({
      remind: { after: 'PT1H', times: 3 },
      escalate: [{ after: 'PT90M', to: [{ managerOf: { told: true } }] }],
    });
    const [byApp] = [
      run(rules, [goesOnView('a', '10:00'), take('bo', '12:30')], { people }).messages.filter((one) =>
        one.includes('inApp'),
      ),
    ];
    expect(byApp).toEqual([
      '10:00 ines inApp single a',
      '11:00 ines inApp reminder a',
      '11:30 bo inApp escalation a',
      '12:00 ines inApp reminder a',
    ]);
  });

  it('of everybody waits for each of those told', () => {
    const rules = acked(
      { by: 'everyone', remind: { after: 'PT1H', times: 2 } },
      { to: [{ person: 'ines' }, { person: 'bo' }] },
    );
    const apps = run(rules, [goesOnView('a', '10:00'), take('ines', '10:30')]).messages.filter(
      (one) => one.includes('reminder') && one.includes('inApp'),
    );
    expect(apps).toEqual(['11:00 bo inApp reminder a', '12:00 bo inApp reminder a']);
  });

  it('takes one of several that an item has open where it is named, and leaves the others', () => {
    const rules = acked({ remind: { after: 'PT2H', times: 1 }, closeWhenCeased: false });
    const inputs = [goesOnView('a', '10:00'), goesBack('a', '10:05'), goesOnView('a', '10:10')];
    const reminded = (act: Act) =>
      run(rules, [...inputs, act]).messages.filter((one) => one.includes('inApp reminder'));
    const first = inputs[0] && 'id' in inputs[0] ? inputs[0].id : '';
    expect(reminded({ ...take('ines', '10:30'), alert: `r1/1/loans/${first}` } as Act)).toEqual([
      '12:10 ines inApp reminder a',
    ]);
    expect(reminded({ ...take('ines', '10:30'), item: 'a' } as Act)).toEqual([]);
  });

  it('closes by itself once the state has ceased for all of its items, and tells so', () => {
    const rules = acked({ remind: { after: 'PT2H', times: 1 }, allClear: true });
    const inputs = [
      goesOnView('a', '10:00', { batch: 'x' }),
      goesOnView('b', '10:00', { batch: 'x' }),
      goesBack('a', '10:30'),
      goesOnView('a', '10:40'),
      goesBack('b', '11:00'),
    ];
    const apps = run(rules, inputs).messages.filter((one) => one.includes('inApp'));
    expect(apps).toEqual([
      '10:00 ines inApp single a,b',
      '10:40 ines inApp single a',
      '11:00 ines inApp allClear a,b',
      '12:40 ines inApp reminder a',
    ]);
    // Also where somebody has acknowledged it before.
    expect(
      run(rules, [goesOnView('a', '10:00'), take('ines', '10:10'), goesBack('a', '11:00')]).messages.filter((one) =>
        one.includes('inApp'),
      ),
    ).toEqual(['10:00 ines inApp single a', '11:00 ines inApp allClear a']);
  });
});

describe('pausing', () => {
  const paused = (catchUp: 'each' | 'summary' | 'skip', more: Partial<Rule> = {}) =>
    run(rule(more), [
      { do: 'pause', at: at('09:00'), rule: 'r1' },
      goesOnView('a', '10:00'),
      goesBack('a', '10:05'),
      goesOnView('b', '10:30'),
      { do: 'resume', at: at('12:00'), rule: 'r1', catchUp },
    ]);

  it('keeps what is caught, and tells each, one for all, or skips it', () => {
    expect(paused('each').alerts).toEqual(['12:00 r1 a', '12:00 r1 b']);
    expect(paused('summary').alerts).toEqual(['12:00 r1 a,b']);
    expect(paused('skip')).toMatchObject({ alerts: [], dropped: ['12:00 a skipped', '12:00 b skipped'] });
    expect(paused('each', { pace: { kind: 'settled', quiet: 'PT10M', most: 'PT1H' } })).toMatchObject({
      alerts: ['12:00 r1 b'],
      dropped: ['12:00 a undone'],
    });
  });
});

describe('words of one’s own', () => {
  it('stand where a message is about one alert, formatted for its reader, and nowhere else', () => {
    const worded = rule({
      message: {
        ...rule().message,
        subject: '{{ item.title }} for {{ recipient.name }}',
        body: 'By {{ change.actor }}: {% for field in change.fields %}{{ field.label }} {{ field.before }} > {{ field.after }}{% endfor %}. {{ links.rule }}',
        doNow: 'Look.',
      },
    });
    const { texts } = run(worded, [
      change('a', '10:00', { title: 'Tidal Loom', status: 'Agreed' }, { title: 'Tidal Loom', status: 'On view' }),
    ]);
    expect(texts).toEqual([
      'Tidal Loom for ines\nBy mei: Status Agreed > On view. https://ojo.example/rules/r1\n\nDo now: Look.\n',
    ]);
    const [gathered] = run({ ...worded, pace: { kind: 'digest', every: 'day', at: '12:00' } }, [
      goesOnView('a', '10:00'),
    ]).texts;
    expect(gathered).toContain('Status: Agreed → On view');
    expect(gathered).not.toContain('Agreed > On view');
  });

  it('fall back to the default where a text would ask for too much', () => {
    const greedy = rule({
      message: {
        ...rule().message,
        body: '{% for a in (1..100000) %}{% for b in (1..100000) %}x{% endfor %}{% endfor %}',
      },
    });
    expect(run(greedy, [goesOnView('a', '10:00')]).texts[0]).toContain('Status: Agreed → On view');
  });
});

describe('what fails', () => {
  const all = { kinds: [], if: { all: [] }, burst: null };
  const troublesOf = (rules: Rule[], inputs: ScenarioInput[], more: Partial<Setting> = {}) => {
    const setting: Setting = {
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
      items: [item('a', { status: 'Agreed', due: '2026-03-10' })],
      rules: rules.map((one) => ({ rule: one, from: at('00:00') })),
      ...more,
    };
    const made = new Run(setting);
    for (const input of inputs) made.take(input);
    return made
      .finishRun()
      .flatMap((one) =>
        one.effect === 'trouble' ? [`${one.trouble.rule} ${one.trouble.code} ${one.trouble.to}`] : [],
      );
  };
  // No document gets that far: such a duration leaves the calendar.
  const ENDLESS = 'P400000000D';

  it.each<[string, Partial<Rule>]>([
    ['a condition', { when: { kinds: [], if: { field: 'due', op: 'withinNext', value: ENDLESS }, burst: null } }],
    ['near a date', { during: { from: null, until: null, near: { field: 'due', ahead: ENDLESS, behind: 'PT0S' } } }],
    ['a settling', { when: all, pace: { kind: 'settled', quiet: ENDLESS, most: ENDLESS } }],
    ['a burst', { when: { ...all, burst: { count: 2, within: ENDLESS, per: 'rule' } } }],
    ['an idle', { when: null, idle: { for: ENDLESS, if: { all: [] }, repeat: null } }],
    ['a limit', { when: all, limit: { per: 'rule', within: ENDLESS } }],
  ])('in one rule keeps no other from telling: %s', (_name, part) => {
    const rules = [rule({ id: 'r0', when: all, ...part }), rule({ id: 'r9', when: all })];
    const inputs = ['10:00', '10:01'].map((time) =>
      change('a', time, { status: 'Agreed', due: '2026-03-10' }, { status: 'On view', due: '2026-03-10', title: time }),
    );
    const items = [item('a', { status: 'Agreed', due: '2026-03-10' })];
    expect(run(rules, inputs, { items }).messages.filter((one) => one.includes('10:0'))).toEqual(
      expect.arrayContaining(['10:00 ines inApp single a', '10:01 ines inApp single a']),
    );
    expect(new Set(troublesOf(rules, inputs))).toEqual(new Set(['r0 cannotBeJudged ']));
  });

  it('for one who is told keeps nobody else from hearing', () => {
    const people = [
      person('ines', { plan: { reach: { important: [{ channel: 'inApp' }, { channel: 'email', after: ENDLESS }] } } }),
      person('mei'),
      person('bo'),
    ];
    const told = [
      rule({ when: all, urgency: 'important', channels: null, to: [{ person: 'bo' }, { person: 'ines' }] }),
    ];
    const inputs = [goesOnView('a', '10:00')];
    expect(run(told, inputs, { people }).messages).toContain('10:00 bo inApp single a');
    expect(troublesOf(told, inputs, { people })).toEqual(['r1 cannotBeJudged ines']);
  });

  it('of a text that goes round in circles leaves Ojo’s own words, and marks the rule', () => {
    const loops =
      '{% for a in (1..9000) %}{% for b in (1..9000) %}{% for c in (1..9000) %}{{ a }}{% endfor %}{% endfor %}{% endfor %}';
    const worded = [rule({ when: all, message: { ...OPEN_MESSAGE, subject: 'Mine', body: loops } })];
    expect(run(worded, [goesOnView('a', '10:00')]).texts[0]).toContain('Status');
    expect(troublesOf(worded, [goesOnView('a', '10:00')])).toEqual(['r1 wordsTooDear ']);
  });
});
