import type { Cost } from '../../contract/api.ts';
import { funnel, type Setting } from '../../core/decide/index.ts';
import { mayRead } from '../../core/people/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import type { ItemState } from '../../core/values/index.ts';
import { changesFromQuery, rows, toChange, toItem, untouchedQuery, worldOf } from '../store/index.ts';
import { type Caller, type Context, when } from './context.ts';

/** What a rule would have made of the last days' changes that the caller may read: the engine run over them, step by step. */
export async function costOf(context: Context, rule: Rule, { me, directory }: Caller, days: number): Promise<Cost> {
  const end = context.clock.now();
  const start = end - days * 86_400_000;
  const world = worldOf(directory, new Map());
  const found = (await rows(context.pool, changesFromQuery(rule.scope.sources, start))).map(toChange);
  const changes = found.filter((change) => mayRead(me.id, { source: change.source, folder: change.folder, fields: change.after ?? change.before ?? {} }, world));
  // Items as they stood before the first of these changes; those that stood still matter to dates, standstills and links.
  const items = new Map<string, ItemState>();
  for (const change of changes) {
    if (items.has(change.item) || change.before === null) continue;
    items.set(change.item, {
      id: change.item, source: change.source, folder: change.folderBefore, fields: change.before, createdBy: change.previous?.createdBy ?? null, lastBy: change.previous?.by ?? null, lastAt: null,
    });
  }
  if (rule.due || rule.idle || rule.scope.linked) {
    for (const item of (await rows(context.pool, untouchedQuery(rule.scope.sources, start))).map(toItem)) if (mayRead(me.id, item, world)) items.set(item.id, item);
  }
  const setting: Setting = {
    start, end, people: [...directory.people.values()], groups: [...directory.groups.values()], contacts: [...directory.contacts.values()], sources: [...directory.sources.values()],
    folders: [...directory.folders.values()], followers: [], wordings: [...directory.wordings.values()], access: [...directory.access], items: [...items.values()], rules: [],
  };
  const result = funnel(rule, setting, changes);
  const counts = new Map<string, number>();
  for (const { to, count } of result.messages) counts.set(to, (counts.get(to) ?? 0) + count);
  return {
    days,
    steps: result.steps.map(({ step, left }) => ({ step, left })),
    messages: result.messages.reduce((sum, one) => sum + one.count, 0), withheld: result.withheld,
    all: changes.map((change) => when(change.at)), caught: result.alerts,
    people: [...counts].map(([person, messages]) => ({ person, messages })).sort((a, b) => b.messages - a.messages),
  };
}
