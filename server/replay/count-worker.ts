import { parentPort } from 'node:worker_threads';
import {
  funnel,
  type Funnel,
  messagesReaching,
  type ReachingMessage,
  type Suggestion,
  suggestionsFor,
  type ScenarioInput,
  type Setting,
  tallyLine,
  type TallyPoint,
} from '../../core/decide/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import type { Change } from '../../core/values/index.ts';

/** What is counted apart from the server's own thread, over what happened in a setting. */
export interface CountJobs {
  /** A rule, step by step. */
  funnel: { asked: { rule: Rule; setting: Setting; changes: Change[] }; result: Funnel };
  /** What would make a rule cheaper, each counted. */
  suggestions: {
    asked: { rule: Rule; setting: Setting; changes: Change[] };
    result: { suggestion: Suggestion; counted: Funnel }[];
  };
  /** How a tally moved. */
  tally: { asked: { rule: Rule; setting: Setting; changes: Change[] }; result: TallyPoint[] };
  /** What would have reached one person, in each of several settings. */
  reaching: { asked: { person: string; settings: Setting[]; inputs: ScenarioInput[] }; result: ReachingMessage[][] };
}

const JOBS: { [K in keyof CountJobs]: (asked: CountJobs[K]['asked']) => CountJobs[K]['result'] } = {
  funnel: ({ rule, setting, changes }) => funnel(rule, setting, changes),
  suggestions({ rule, setting, changes }) {
    const caught = new Set(funnel(rule, setting, changes).caught);
    return suggestionsFor(
      rule,
      changes.filter((change) => caught.has(change.id)),
    ).map((suggestion) => ({ suggestion, counted: funnel(suggestion.rule, setting, changes) }));
  },
  tally: ({ rule, setting, changes }) => tallyLine(rule, setting, changes),
  reaching: ({ person, settings, inputs }) => settings.map((setting) => messagesReaching(person, setting, inputs)),
};

parentPort?.on('message', ({ what, asked }: { what: keyof CountJobs; asked: never }) => {
  try {
    parentPort?.postMessage({ result: JOBS[what](asked) });
  } catch (error) {
    parentPort?.postMessage({ error: error instanceof Error ? error.message : String(error) });
  }
});
