import { DAY_MS } from '../../core/time/index.ts';
import type { RuleRow } from '../../contract/wire/index.ts';
import { mayReadAll, namedIn } from '../../core/people/index.ts';
import { checkRule } from '../../core/rules/index.ts';
import { type Caller, mayEdit, visibleRule, when, whenOrNull } from '../access/index.ts';
import {
  type Directory,
  readableItems,
  type RuleFigures,
  rows,
  store,
  type StoredRule,
  type StoredTrouble,
} from '../store/index.ts';
import type { Context } from './context.ts';

/** What rules came to is counted over so many days. */
const DAYS = 30;

/** Rules as pages show them, with what they came to. */
export async function ruleRows(
  { pool, clock }: Pick<Context, 'pool' | 'clock'>,
  stored: readonly StoredRule[],
  asking: Caller,
): Promise<RuleRow[]> {
  const [figures, troubles] = await Promise.all([
    figuresFor(pool, stored, asking, clock.now() - DAYS * DAY_MS),
    rows(pool, store.troubles.all()),
  ]);
  return stored.map((rule) => ruleRow(rule, figures.get(rule.id), asking, troubles));
}

/** One rule that the caller may see. */
export async function readRuleRow(context: Context, id: string, asking: Caller): Promise<RuleRow> {
  const [row] = await ruleRows(context, [await visibleRule(context.pool, id, asking)], asking);
  return row as RuleRow;
}

/** What rules came to, counted over what the asker may read: nobody learns from a count what is kept from them. */
function figuresFor(
  pool: Context['pool'],
  stored: readonly StoredRule[],
  { me, directory }: Caller,
  from: number,
): Promise<Map<string, RuleFigures>> {
  const isOpen = (rule: StoredRule) =>
    ((rule.live ?? rule.draft)?.scope.sources ?? []).every((source) => mayReadAll(me.id, source, directory));
  const [open, others] = [stored.filter(isOpen), stored.filter((rule) => !isOpen(rule))];
  return store.figures.ofRules(
    pool,
    [
      { rules: open.map(({ id }) => id), may: null },
      { rules: others.map(({ id }) => id), may: readableItems(me.id, directory) },
    ],
    from,
  );
}

function ruleRow(
  rule: StoredRule,
  figures: RuleFigures | undefined,
  { me, directory }: Caller,
  troubles: readonly StoredTrouble[] = [],
): RuleRow {
  return {
    id: rule.id,
    state: rule.state,
    version: rule.version,
    owner: rule.owner,
    live: rule.live,
    liveFrom: whenOrNull(rule.liveFrom),
    liveUntil: whenOrNull(rule.liveUntil),
    isPaused: rule.isPaused,
    kept: figures?.kept ?? 0,
    draft: rule.draft,
    draftRevision: rule.draftRevision,
    draftBy: rule.draftBy,
    draftAt: whenOrNull(rule.draftAt),
    alerts: figures?.alerts ?? 0,
    told: figures?.told ?? 0,
    read: figures?.seen ?? 0,
    withheld: figures?.withheld ?? 0,
    failed: figures?.failed ?? 0,
    waits: figures?.waits ?? 0,
    acknowledged: figures?.acknowledged ?? 0,
    lastAt: whenOrNull(figures?.lastAt ?? null),
    caught: (figures?.caught ?? []).map(when),
    mayEdit: mayEdit(rule, me, directory),
    offer: rule.offer && { ...rule.offer, at: when(rule.offer.at) },
    ask: rule.ask && mayEdit(rule, me, directory) ? { ...rule.ask, at: when(rule.ask.at) } : null,
    faults: [
      ...faultsNow(rule, directory),
      ...troubles
        .filter((one) => one.rule === rule.id)
        .map(({ code, to, reason, times }) => ({
          code,
          params: { to: directory.people.get(to)?.name ?? to, reason, times: String(times) },
        })),
    ],
  };
}

/** What is wrong with a live rule as the world now stands: a field or a folder that is gone, an owner who has left. */
function faultsNow(rule: StoredRule, directory: Directory): RuleRow['faults'] {
  if (rule.state !== 'live' || !rule.live) return [];
  const gone = checkRule(rule.live, directory).map(({ code, params }) => ({ code, params }));
  const people = namedIn([...rule.live.to, ...rule.live.except], 'person')
    .filter((person) => directory.people.get(person)?.active === false)
    .map((person) => ({ code: 'hasLeft', params: { person } }));
  const owner = directory.people.get(rule.owner)?.active ? [] : [{ code: 'ownerless', params: { person: rule.owner } }];
  return [...gone, ...people, ...owner];
}
