import { parentPort } from 'node:worker_threads';
import { funnel, mendsOf, type Setting } from '../../core/decide/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import type { Change } from '../../core/values/index.ts';

/** What is counted apart from the server's own thread: a rule over what happened, or also what would make it cheaper. */
export interface CountJob {
  id: number;
  what: 'funnel' | 'mends';
  rule: Rule;
  setting: Setting;
  changes: Change[];
}

parentPort?.on('message', ({ id, what, rule, setting, changes }: CountJob) => {
  try {
    const counted = funnel(rule, setting, changes);
    if (what === 'funnel') return parentPort?.postMessage({ id, result: counted });
    const caught = new Set(counted.caught);
    const mends = mendsOf(rule, changes.filter((change) => caught.has(change.id))).map((mend) => ({ mend, counted: funnel(mend.rule, setting, changes) }));
    parentPort?.postMessage({ id, result: mends });
  } catch (error) {
    parentPort?.postMessage({ id, error: error instanceof Error ? error.message : String(error) });
  }
});
