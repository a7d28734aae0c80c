import fc from 'fast-check';
import { expect, inject, it } from 'vitest';
import { simulate } from '../decide/index.ts';
import { recompute } from './recompute.ts';
import { scenario } from './scenarios.ts';

it('what is kept step by step comes to what the whole log comes to, worked out anew', () => {
  const seen = { alerts: 0, dropped: 0, digests: 0 };
  fc.assert(fc.property(scenario, (run) => {
    const wanted = recompute(run);
    const found = simulate(run);
    expect(found.alerts.map((one) => `${one.at} ${one.rule} ${one.items} ${one.changes}`).sort()).toEqual(wanted.alerts);
    expect(found.dropped.map((one) => `${one.at} ${one.rule} ${one.item} ${one.changes}`).sort()).toEqual(wanted.dropped);
    const digests = found.messages.filter((one) => one.form === 'digest').map((one) => `${one.at} ${one.to} ${one.alerts.map((alert) => `${alert.rule}:${alert.items}`).sort()}`);
    expect(digests.sort()).toEqual(wanted.digests);
    seen.alerts += found.alerts.length;
    seen.dropped += found.dropped.length;
    seen.digests += digests.length;
  }), { seed: 31, numRuns: 100 * inject('twins') });
  // Not of nothing: a good share settles, is undone, is gathered.
  expect(Math.min(seen.alerts, seen.dropped * 5, seen.digests * 5)).toBeGreaterThan(50);
}, 3_600_000);
