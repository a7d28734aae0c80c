import {
  type Act,
  afterPausing,
  afterPublishing,
  type Effect,
  firstPhase,
  type Outcome,
  type Phase,
  Run,
  type ScenarioInput,
  type Setting,
} from '../core/decide/index.ts';
import type { Rule } from '../core/rules/index.ts';
import { dateIn, DAY_MS, HOUR_MS, timeIn, weekday } from '../core/time/index.ts';
import { type Change, isLook } from '../core/values/index.ts';
import { applyEdit } from '../server/intake/index.ts';
import type { StoredItem } from '../server/store/index.ts';
import type { Chance } from './chance.ts';
import { CONTACTS, FOLLOWERS, GROUPS, PEOPLE } from './people.ts';
import { RULES, WORDINGS } from './rules.ts';
import { ACCESS, FOLDERS, SOURCES } from './sources.ts';
import type { Deed } from './deed.ts';
import { SENDERS, USUAL } from './voice.ts';

const ZONE = 'Europe/Madrid';

/** Those who never let an inbox grow. */
export const DILIGENT = ['ines', 'mei', 'sol', 'teo', 'noor', 'tomas'];

/** A change with the version of its item that it made; `null` of a look, which makes none. */
export interface Made {
  change: Change;
  version: number | null;
}

/** Each deed as the door makes it a change, one after the other; and how every item stands in the end. */
export function enact(deeds: readonly Deed[]): { items: Map<string, StoredItem>; made: Made[] } {
  const sources = new Map(SOURCES.map((source) => [source.id, source]));
  const items = new Map<string, StoredItem>();
  const made: Made[] = [];
  for (const { source: id, ...deed } of deeds) {
    const source = sources.get(id);
    if (!source) throw new Error(`the story speaks of a source ${id}`);
    const done = applyEdit(items.get(deed.item) ?? null, { ...deed, source });
    if (!done) continue;
    items.set(deed.item, done.item);
    made.push({ change: done.change, version: isLook(done.change) ? null : done.item.version });
  }
  return { items, made };
}

/** A rule's phase from when to when, for its tables. */
export interface Standing {
  phase: Phase<{ rule: Rule; version: number }>;
  since: number;
  until: number | null;
}

/** What people did to rules besides putting them live: one was edited, one was paused for two days, one is paused now. */
function ruleActs(now: number): Extract<Act, { do: 'publish' | 'pause' | 'resume' }>[] {
  const dueMoves = RULES.find(({ rule }) => rule.id === 'due-moves')?.rule as Rule;
  return [
    {
      do: 'publish',
      at: now - 10 * DAY_MS,
      rule: { ...dueMoves, message: { ...dueMoves.message, show: ['courier', 'lender'] } },
    },
    { do: 'pause', at: now - 8 * DAY_MS, rule: 'linked-to-one' },
    { do: 'resume', at: now - 6 * DAY_MS, rule: 'linked-to-one', catchUp: 'summary' },
    { do: 'pause', at: now - 3 * DAY_MS, rule: 'made-by-me' },
  ];
}

/** How each rule stood from its first day on. */
export function standings(now: number): Standing[] {
  const found: Standing[] = [];
  const begin = (phase: Standing['phase'], at: number) => {
    const last = found.filter((one) => one.phase.compiled.rule.id === phase.compiled.rule.id).at(-1);
    if (last) last.until = at;
    found.push({ phase, since: at, until: null });
  };
  const last = (rule: string) =>
    found.filter((one) => one.phase.compiled.rule.id === rule).at(-1)?.phase as Standing['phase'];
  for (const { rule, daysAgo } of RULES) begin(firstPhase({ rule, version: 1 }), now - daysAgo * DAY_MS);
  for (const act of ruleActs(now)) {
    if (act.do === 'publish')
      begin(
        afterPublishing(last(act.rule.id), { rule: act.rule, version: last(act.rule.id).compiled.version + 1 }),
        act.at,
      );
    else begin(afterPausing(last(act.rule), act.do === 'pause'), act.at);
  }
  return found;
}

/** When the diligent look into their inbox, and who takes on what, on working days up to yesterday. */
export function dailyActs(now: number, chance: Chance): Act[] {
  const acts: Act[] = [];
  for (let at = now - 40 * DAY_MS; at < now - 4 * HOUR_MS; at += 15 * 60_000) {
    const time = timeIn(at, ZONE);
    if (weekday(dateIn(at, ZONE)) > 5 || time < '08:30' || time > '18:00') continue;
    if (at < now - 26 * HOUR_MS)
      for (const person of DILIGENT)
        if (chance.isLikely(0.09)) acts.push({ do: 'read', at: at + chance.whole(0, 600_000), person });
    if (chance.isLikely(0.2))
      acts.push({
        do: 'acknowledge',
        at: at + chance.whole(0, 600_000),
        person: chance.pick(['noor', 'tomas', 'pau']),
        rule: 'task-blocked',
      });
    if (chance.isLikely(0.6))
      acts.push({
        do: 'acknowledge',
        at: at + chance.whole(0, 600_000),
        person: chance.pick(['ravi', 'ines', 'hugo', 'teo', 'hana']),
        rule: 'due-moves',
      });
    if (chance.isLikely(0.08))
      acts.push({
        do: 'acknowledge',
        at: at + chance.whole(0, 600_000),
        person: chance.pick(['dario', 'yuki', 'hugo']),
        rule: 'condition-falls',
      });
  }
  return acts.sort((a, b) => a.at - b.at);
}

/** What the engine makes of two years: the same step that the server takes, on virtual time. */
export function decideAll(
  made: readonly Made[],
  acts: readonly Act[],
  start: number,
  now: number,
): { effects: readonly Effect[]; left: Pick<Outcome, 'state' | 'timers'> } {
  const setting: Setting = {
    start,
    end: now - 1000,
    people: PEOPLE,
    groups: GROUPS,
    contacts: CONTACTS,
    sources: SOURCES,
    folders: FOLDERS,
    followers: FOLLOWERS,
    wordings: WORDINGS,
    voice: { usual: USUAL, senders: SENDERS },
    access: ACCESS,
    items: [],
    rules: RULES.map(({ rule, daysAgo }) => ({ rule, from: now - daysAgo * DAY_MS })),
  };
  const inputs: ScenarioInput[] = [...made.map(({ change }) => change), ...acts, ...ruleActs(now)].sort(
    (a, b) => a.at - b.at,
  );
  const run = new Run(setting);
  for (const input of inputs) run.take(input);
  return { effects: run.finishRun(), left: run.left() };
}
