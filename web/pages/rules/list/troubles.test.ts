import { describe, expect, it } from 'vitest';
import type { Me, RuleRow } from '../../../../contract/wire/index.ts';
import { openRule } from '../../../../core/rules/index.ts';
import { rulesIn } from './import-rules.tsx';
import { troubleOf } from './troubles.ts';

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
  waits: 0,
  acknowledged: 0,
  lastAt: '2026-03-30T00:00:00Z',
  caught: [],
  mayEdit: true,
  faults: [],
  ...more,
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
  it('are one document, a list, or a list called rules, as an export writes it', () => {
    for (const content of [document, [document], { rules: [document] }])
      expect(rulesIn(JSON.stringify(content))).toMatchObject({
        rules: [{ id: 'r1', pace: { kind: 'now' } }],
        faults: [],
      });
    const exported = rulesIn(JSON.stringify(document)).rules;
    expect(rulesIn(JSON.stringify({ rules: exported })).rules).toEqual(exported);
  });
  it('are refused whole, with the rule and the path, where one is not as it should be', () => {
    const { rules, faults } = rulesIn(JSON.stringify([document, { ...document, pase: 1 }]));
    expect(rules).toHaveLength(1);
    expect(faults).toEqual([expect.stringContaining('Rule 2')]);
    expect(faults[0]).toContain('pase');
    expect(rulesIn('{').faults[0]).toContain('no JSON');
  });
});
