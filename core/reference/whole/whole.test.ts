import fc from 'fast-check';
import { expect, inject, it } from 'vitest';
import { type Results, type Scenario, scenarioFaults, type ScenarioInput, simulate } from '../../decide/index.ts';
import { WholeRun } from './run.ts';
import { wholeScenario } from './scenarios.ts';

/** What is compared: everything but the words; rows that come about at one instant and place in any order. */
function compared({
  alerts,
  messages,
  withheld,
  dropped,
}: Omit<Results, 'messages'> & {
  messages: Pick<Results['messages'][number], 'at' | 'to' | 'channel' | 'form' | 'alerts'>[];
}) {
  const sorted = (list: object[]) => list.map((one) => JSON.stringify(one)).sort();
  return {
    alerts: sorted(
      alerts.map(({ at, rule, items, changes, suppressed }) => ({ at, rule, items, changes, suppressed })),
    ),
    messages: sorted(messages.map(({ at, to, channel, form, alerts: of }) => ({ at, to, channel, form, of }))),
    withheld: sorted(
      withheld.map(({ at, rule, item, person, reason, changes }) => ({ at, rule, item, person, reason, changes })),
    ),
    dropped: sorted(dropped.map(({ at, rule, item, changes, reason }) => ({ at, rule, item, changes, reason }))),
  };
}

it('generated scenarios are such as may be run', () => {
  fc.assert(
    fc.property(wholeScenario, (scenario) => {
      expect(scenarioFaults(scenario as Scenario & { inputs: ScenarioInput[] })).toEqual([]);
    }),
    { seed: 40, numRuns: 100 },
  );
});

it('the engine comes to what its naive twin comes to, whatever the rules, plans and acts', () => {
  const seen: Record<string, number> = {};
  fc.assert(
    fc.property(wholeScenario, (scenario) => {
      const wanted = compared(new WholeRun(scenario).run());
      const found = simulate(scenario);
      expect(compared(found)).toEqual(wanted);
      for (const { form } of found.messages) seen[form] = (seen[form] ?? 0) + 1;
      for (const { reason } of [...found.withheld, ...found.dropped]) seen[reason] = (seen[reason] ?? 0) + 1;
    }),
    { seed: 42, numRuns: 200 * inject('twins') },
  );
  // The comparison is of something: every form and every reason has come about.
  const all = [
    'single',
    'digest',
    'summary',
    'reminder',
    'escalation',
    'allClear',
    'report',
    'again',
    'excluded',
    'inactive',
    'noAccess',
    'notTheirs',
    'ownChange',
    'muted',
    'absent',
    'unconfirmed',
    'unsubscribed',
    'coolDown',
    'noChannel',
    'undone',
    'skipped',
  ];
  expect(all.filter((one) => !seen[one])).toEqual([]);
}, 3_600_000);
