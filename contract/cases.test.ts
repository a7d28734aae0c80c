import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { simulate } from '../core/decide/index.ts';
import { scenarioSchema } from './documents/index.ts';

/** The cases whose every part the engine has so far. */
const COVERED = [
  'a-channel-switched-off', 'a-date-in-the-next-days', 'bare-state-fires-at-every-change', 'becomes-fires-once', 'below-a-folder',
  'between-counts-both-ends', 'by-whom-it-was-done', 'created-already-so', 'daily-digest-in-each-zone', 'fell-by-at-least', 'from-some-to-one',
  'no-address-no-step', 'only-the-kinds-named', 'own-change-and-no-access', 'rise-by-percent', 'the-plan-of-one-who-has-none', 'two-rules-at-one-instant',
];

/** Objects match if each key given is equal, lists must have the same length. */
function differences(wanted: unknown, found: unknown, path = ''): string[] {
  if (Array.isArray(wanted)) {
    if (!Array.isArray(found) || found.length !== wanted.length) return [`${path}: ${JSON.stringify(wanted)} was wanted, ${JSON.stringify(found)} came out`];
    return wanted.flatMap((one, at) => differences(one, found[at], `${path}.${at}`));
  }
  if (wanted !== null && typeof wanted === 'object') {
    return Object.entries(wanted).flatMap(([key, value]) => differences(value, (found as Record<string, unknown> | null)?.[key], `${path}.${key}`));
  }
  return wanted === found ? [] : [`${path}: ${JSON.stringify(wanted)} was wanted, ${JSON.stringify(found)} came out`];
}

describe('cases', () => {
  it.each(COVERED)('%s', (name) => {
    const { scenario, expect: wanted } = JSON.parse(readFileSync(new URL(`../core/cases/${name}.json`, import.meta.url), 'utf8'));
    expect(differences(wanted, simulate(scenarioSchema.parse(scenario)))).toEqual([]);
  });

  it('tells a wrong expectation from a right one', () => {
    expect(differences({ alerts: [{ rule: 'r1' }] }, { alerts: [] })).toHaveLength(1);
  });

  it('names the path of an unknown key', () => {
    const result = scenarioSchema.safeParse({ start: '2026-03-02T00:00:00Z', end: '2026-03-03T00:00:00Z', people: [{ id: 'a', name: 'A', shoe: 41 }] });
    expect(result.error?.issues[0]).toMatchObject({ path: ['people', 0], keys: ['shoe'] });
  });
});
