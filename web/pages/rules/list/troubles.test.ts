import { describe, expect, it } from 'vitest';
import type { Me, RuleRow } from '../../../../contract/wire/index.ts';
import { openRule, type Rule } from '../../../../core/rules/index.ts';
import { faultOfMany, rulesIn } from './import-rules.tsx';
import { troubleOf, twinsAmong } from './troubles.ts';

const ME = { id: 'ines', now: '2026-03-31T12:00:00Z' } as Me;
const viewer = { me: ME, person: (id: string) => (id === 'bo' ? 'Bo Lind' : id) };
const row = (more: Partial<RuleRow> = {}): RuleRow => ({
  id: 'r',
  state: 'live',
  version: 1,
  owner: 'ines',
  live: openRule('r', 'R', 'ines', ['loans']),
  liveFrom: '2026-01-01T00:00:00Z',
  liveUntil: null,
  isPaused: false,
  kept: 0,
  draft: null,
  draftRevision: 1,
  draftBy: null,
  draftAt: null,
  alerts: 10,
  told: 40,
  read: 30,
  withheld: 0,
  failed: 0,
  offer: null,
  ask: null,
  waits: 0,
  acknowledged: 0,
  lastAt: '2026-03-30T00:00:00Z',
  caught: [],
  mayEdit: true,
  faults: [],
  ...more,
});

const lasting = (until: string): Rule => ({
  ...openRule('r', 'R', 'ines', ['loans']),
  during: { from: null, until, near: null },
});

describe('what is the matter with a rule', () => {
  it.each<[string, Partial<RuleRow>, string | null]>([
    ['as it should be', {}, null],
    ['a draft', { state: 'draft', told: 500, read: 0 }, null],
    ['much told, little read', { told: 500, read: 50 }, 'noisy'],
    ['much told, much read', { told: 500, read: 400 }, null],
    ['nothing caught for long', { lastAt: '2026-02-01T00:00:00Z' }, 'silent'],
    ['never anything', { lastAt: null, alerts: 0, told: 0 }, 'silent'],
    ['nothing yet, live since yesterday', { lastAt: null, liveFrom: '2026-03-30T00:00:00Z' }, null],
    ['paused', { isPaused: true, kept: 3 }, 'paused'],
    ['messages that fail', { failed: 5 }, 'failing'],
    ['a last day that has passed', { live: lasting('2026-03-30') }, 'runOut'],
    ['a last day that is today', { live: lasting('2026-03-31') }, null],
    [
      'a field that is gone, before all noise',
      {
        told: 500,
        read: 0,
        faults: [{ code: 'unknownField', params: { field: 'colour', source: 'Loans', allowed: ['status'] } }],
      },
      'broken',
    ],
    [
      'an owner who left, before all else',
      { isPaused: true, faults: [{ code: 'ownerless', params: { person: 'bo' } }] },
      'ownerless',
    ],
  ])('%s', (_name, more, kind) => expect(troubleOf(row(more), viewer)?.kind ?? null).toBe(kind));

  it('names who has left', () =>
    expect(troubleOf(row({ faults: [{ code: 'hasLeft', params: { person: 'bo' } }] }), viewer)?.words).toBe(
      'Bo Lind is no longer here.',
    ));
});

describe('rules in a file', () => {
  const document = {
    id: 'r1',
    name: 'R',
    owner: 'ines',
    scope: { sources: ['loans'] },
    when: {},
    to: [{ person: 'ines' }],
  };
  it('are one document, a list, or a list called rules', () => {
    for (const content of [document, [document], { rules: [document] }])
      expect(rulesIn(JSON.stringify(content))).toEqual({ documents: [document] });
  });
  it.each(['{', '[]', '7', '[1]', 'null', '{"rules":[[]]}'])('are not in %s', (text) =>
    expect(rulesIn(text)).toHaveProperty('fault'),
  );
  it('have each fault named by the rule and the part that it is in', () => {
    const fault = { code: 'unknownField', params: { source: 'Loans', field: 'colour', allowed: ['status'] } };
    expect(faultOfMany({ path: '1.when.if.changed', ...fault }, [{}, document])).toBe(
      '“R”, what happens › if › changed: Loans has no field “colour”. It has: status.',
    );
    expect(faultOfMany({ path: '0.scope', code: 'empty', params: {} }, [{}])).toMatch(/^Rule 1, what it looks at: /);
  });
});

describe('twins', () => {
  const live = (id: string, more: Partial<Rule> = {}, of: Partial<RuleRow> = {}) =>
    row({ id, live: { ...openRule(id, id, 'ines', ['loans']), to: [{ person: 'mei' }], ...more }, ...of });
  it('are told of each other while both tell somebody', () => {
    const rows = [
      live('a'),
      live('b', { urgency: 'critical' }),
      live('c', { to: [] }),
      live('d', {}, { isPaused: true }),
    ];
    const twins = twinsAmong(rows);
    expect([...twins].map(([id, others]) => [id, others.map((one) => one.id)])).toEqual([
      ['a', ['b']],
      ['b', ['a']],
    ]);
    expect(troubleOf(rows[0] as RuleRow, viewer, twins.get('a'))).toMatchObject({ kind: 'twin' });
    expect(troubleOf(rows[0] as RuleRow, viewer, twins.get('a'))?.words).toContain('“b”');
  });
});
