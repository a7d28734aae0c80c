import type { Verdict, WhyPage } from '../../contract/wire/index.ts';
import { type Explanation, explanationsOf, type Phase } from '../../core/decide/index.ts';
import { mayReadSome } from '../../core/people/index.ts';
import type { CompiledRule, Rule } from '../../core/rules/index.ts';
import { type Caller, maySee, when, whenOrNull } from '../access/index.ts';
import { livePhases, rows, several, store, type StoredChange } from '../store/index.ts';
import type { ReplayContext } from './context.ts';
import { momentOf } from './past.ts';

/** So many rules are asked, one by one, what they make of a change. */
const MOST = 300;

/** What was written down of a change for one person, by rule. */
interface Recorded {
  messages: ReadonlyMap<string, Verdict['messages']>;
  withheld: ReadonlyMap<string, NonNullable<Verdict['reason']>>;
  dropped: ReadonlyMap<string, 'undone' | 'skipped'>;
  pending: ReadonlyMap<string, boolean>;
  gathering: ReadonlyMap<string, number>;
  caught: ReadonlySet<string>;
}

/**
 * Why somebody heard of a change, or did not: rule by rule what was written down of it, and where nothing was, how the rule
 * as it was then judges it. Rules that the asker may not see are left out, as are those that caught nothing and tell others.
 */
export async function whyHeard(
  context: Pick<ReplayContext, 'pool' | 'clock'>,
  change: StoredChange,
  person: string,
  asking: Caller,
): Promise<Pick<WhyPage, 'verdicts' | 'others'>> {
  const stored = (await rows(context.pool, store.rules.all())).filter((rule) => maySee(rule, asking));
  const names = new Map(stored.map((rule) => [rule.id, (rule.live ?? rule.draft)?.name ?? rule.id]));
  const then = livePhases(asking.directory, change.at).filter(
    ({ compiled: { rule } }) =>
      names.has(rule.id) && rule.when && rule.scope.sources.includes(change.source) && isSeenBy(rule, asking),
  );
  if (then.length === 0) return { verdicts: [], others: 0 };
  const asked = then.slice(0, MOST);
  const recorded = await recordedOf(
    context,
    change,
    person,
    asked.map(({ compiled }) => compiled.rule.id),
  );
  const judged = await judgedBy(context, asked, change, asking);
  const verdicts = asked.flatMap((phase): Verdict[] => {
    const { id } = phase.compiled.rule;
    const verdict = verdictOf(phase, recorded, judged.get(id), person);
    return verdict ? [{ ...verdict, rule: { id, name: names.get(id) ?? id } }] : [];
  });
  return { verdicts: verdicts.sort((a, b) => rankOf(a) - rankOf(b)), others: then.length - verdicts.length };
}

/** What it looked at then may be otherwise than now: it is shown to whoever may read something of each. */
const isSeenBy = ({ scope }: Rule, { me, directory }: Caller): boolean =>
  scope.sources.every((source) => mayReadSome(me.id, source, directory));

const ORDER: readonly Verdict['verdict'][] = [
  'told',
  'gathers',
  'withheld',
  'waits',
  'undone',
  'skipped',
  'paused',
  'notCaught',
  'notReached',
];
const rankOf = ({ verdict }: Verdict): number => ORDER.indexOf(verdict);

async function judgedBy(
  context: Pick<ReplayContext, 'pool' | 'clock'>,
  phases: readonly Phase[],
  change: StoredChange,
  asking: Caller,
): Promise<Map<string, Explanation>> {
  const rules: CompiledRule[] = phases.map(({ compiled }) => compiled);
  const explained = explanationsOf(rules, await momentOf(context, asking, change), change);
  return new Map(explained.map((one) => [one.rule, one]));
}

async function recordedOf(
  { pool }: Pick<ReplayContext, 'pool'>,
  { source, id, at }: StoredChange,
  person: string,
  rules: string[],
): Promise<Recorded> {
  const [messages, withheld, dropped, pending, gathering, caught] = await several(pool, [
    store.heard.messagesOf(source, id, person),
    store.heard.withheldOf(source, id, person),
    store.heard.droppedOf(rules, id, at),
    store.heard.pendingOf(rules, id),
    store.heard.gatheringOf(person, id),
    store.changes.caughtBy(source, [id]),
  ] as const);
  const told = new Map<string, Verdict['messages']>();
  for (const { rule, ...message } of messages)
    told.set(rule, [
      ...(told.get(rule) ?? []),
      { ...message, at: when(message.at), readAt: whenOrNull(message.readAt) },
    ]);
  return {
    messages: told,
    withheld: new Map(withheld.map(({ rule, reason }) => [rule, reason])),
    dropped: new Map(dropped.map(({ rule, reason }) => [rule, reason])),
    pending: new Map(pending.map(({ rule, isKept }) => [rule, isKept])),
    gathering: new Map(gathering.flatMap(({ rules: of, until }) => of.map((rule): [string, number] => [rule, until]))),
    caught: new Set(caught.map(({ rule }) => rule)),
  };
}

/** What one rule came to; `null` where it caught nothing and would not tell this person. */
function verdictOf(
  { compiled, isPaused }: Phase,
  recorded: Recorded,
  explanation: Explanation | undefined,
  person: string,
): Omit<Verdict, 'rule'> | null {
  const { id } = compiled.rule;
  const messages = recorded.messages.get(id) ?? [];
  const until = recorded.gathering.get(id);
  const reason = recorded.withheld.get(id) ?? null;
  const found = {
    document: compiled.rule,
    messages,
    reason,
    until: whenOrNull(until ?? null),
    // Whom else it reaches, and who of them does not want to hear, is not asked here.
    explanation: explanation
      ? { ...explanation, recipients: explanation.recipients.filter(({ to }) => to === person) }
      : null,
  };
  if (messages.length > 0) return { ...found, verdict: 'told' };
  if (until !== undefined) return { ...found, verdict: 'gathers' };
  if (reason !== null) return { ...found, verdict: 'withheld' };
  if (recorded.caught.has(id)) return { ...found, verdict: 'notReached' };
  const kept = recorded.pending.get(id);
  if (kept !== undefined) return { ...found, verdict: kept ? 'paused' : 'waits' };
  const dropped = recorded.dropped.get(id);
  if (dropped) return { ...found, verdict: dropped };
  const names = explanation?.recipients.some(({ to }) => to === person);
  if (!names) return null;
  if (explanation?.caught) return { ...found, verdict: isPaused ? 'paused' : 'waits' };
  return { ...found, verdict: 'notCaught' };
}
