import { type Recipient, stepsFor } from '../../people/index.ts';
import { becameOf, type CompiledRule, type Rule, type Occasion } from '../../rules/index.ts';
import { addDuration, type Instant } from '../../time/index.ts';
import { type Change, compareArrival } from '../../values/index.ts';
import { changesOf, takeSteps, tellOutsider } from './deliver.ts';
import { keepReceipt } from './receipts.ts';
import { keyOf } from './rows.ts';
import { judgeRecipients, subjectOf } from './recipients.ts';
import type { Alert, Arising, Part, Portion, Withheld } from './types.ts';
import { compareIds, type StepContext } from './context.ts';

/** What an alert is raised for: what came about, and by what id it goes. */
export interface Raising {
  id: string;
  occasion: Occasion;
  parts: readonly Part[];
}

/** An alert goes by the change it began with, so that deciding again gives the same. */
export const idOfChange = ({ rule, version }: CompiledRule, { source, changes }: Part): string =>
  `${rule.id}/${version}/${source}/${changes[0]}`;

/** An alert of dates or standstill goes by its instant and first item. */
export const idOfSchedule = ({ rule, version }: CompiledRule, occasion: Occasion, at: Instant, item: string): string =>
  `${rule.id}/${version}/${occasion}/${at}/${item}`;

/** A rule's alert, as far as its limit lets it pass, and all that follows for those it reaches. */
export function raiseAlert(context: StepContext, compiled: CompiledRule, { id, occasion, parts }: Raising): void {
  const { rule, version } = compiled;
  const merged = inOrder(context, byItem(parts), occasion);
  const { passed, cooled, suppressed } = limited(
    context,
    rule,
    merged.map(({ part }) => part),
  );
  const listed = merged.filter(({ part }) => passed.includes(part));
  const arising = context.arisingOf(listed[0]?.changes[0]?.seq);
  if (passed.length > 0) {
    const changes = listed
      .flatMap((one) => one.changes)
      .sort(compareArrival)
      .map((change) => change.id);
    const alert: Alert = { id, rule: rule.id, version, at: context.at, occasion, parts: passed, changes, suppressed };
    context.emit({ effect: 'alert', alert });
    context.raised.set(
      id,
      passed.map((part) => part.item),
    );
  }
  const told = toldOf(context, compiled, { id, occasion, arising }, merged, cooled);
  if (passed.length === 0) return;
  if (rule.ack) leaveOpen(context, compiled, { id, occasion, parts: passed }, arising, [...told.values()]);
  for (const [key, { to, portions }] of told) {
    context.within(compiled, key, () => {
      const person = to.kind === 'person' ? context.state.people.get(to.id) : undefined;
      const taking = { form: 'single', round: 0, pace: rule.pace } as const;
      if (person) takeSteps(context, person, stepsFor(person, rule), portions, taking);
      else tellOutsider(context, to, portions, taking, rule.zone);
    });
  }
}

/** Parts of one item become one, with all changes in their order. */
export function byItem(parts: readonly Part[]): Part[] {
  const found = new Map<string, Part>();
  for (const { source, item, changes } of parts) {
    const key = keyOf(source, item);
    const known = found.get(key);
    found.set(key, { source, item, changes: known ? [...new Set([...known.changes, ...changes])] : [...changes] });
  }
  return [...found.values()];
}

/** A part with its changes. */
interface Whole {
  part: Part;
  changes: readonly Change[];
}

/** Items by the first of their changes, each with its changes as they came; of dates and standstills by their ids. */
function inOrder(context: StepContext, parts: readonly Part[], occasion: Occasion): Whole[] {
  if (occasion !== 'change')
    return [...parts].sort((a, b) => compareIds(a.item, b.item)).map((part) => ({ part, changes: [] }));
  const whole = parts.map((part): Whole => {
    const changes = changesOf(context, part).sort(compareArrival);
    return { part: { ...part, changes: changes.map((change) => change.id) }, changes };
  });
  return whole.sort((a, b) => (a.changes[0] && b.changes[0] ? compareArrival(a.changes[0], b.changes[0]) : 0));
}

/** Which parts the rule's limit lets pass; how many alerts it kept back of the keys that pass now. */
function limited(
  context: StepContext,
  rule: Rule,
  parts: readonly Part[],
): { passed: Part[]; cooled: Set<Part>; suppressed: number } {
  const { limit } = rule;
  if (!limit) return { passed: [...parts], cooled: new Set(), suppressed: 0 };
  const cooled = new Set<Part>();
  let suppressed = 0;
  const judged = new Map<string, boolean>();
  for (const part of parts) {
    const key = limit.per === 'item' ? keyOf(rule.id, part.item) : keyOf(rule.id);
    const known = judged.get(key);
    const row = context.row('coolDowns', key);
    const isCooled = known ?? (row !== undefined && context.at < addDuration(row.listedAt, limit.within, rule.zone));
    if (isCooled) cooled.add(part);
    if (known !== undefined) continue;
    judged.set(key, isCooled);
    if (isCooled && row) context.put('coolDowns', key, keyOf(rule.id), { ...row, suppressed: row.suppressed + 1 });
    if (isCooled) continue;
    suppressed += row?.suppressed ?? 0;
    context.put('coolDowns', key, keyOf(rule.id), { listedAt: context.at, suppressed: 0 });
  }
  return { passed: parts.filter((part) => !cooled.has(part)), cooled, suppressed };
}

/** Who is told of which items of an alert; who is withheld is said at once. */
function toldOf(
  context: StepContext,
  { rule, version }: CompiledRule,
  { id, occasion, arising }: { id: string; occasion: Occasion; arising: Arising },
  whole: readonly Whole[],
  cooled: ReadonlySet<Part>,
): Map<string, Told> {
  const alert = whole.map(({ part, changes }) => ({
    item: part.item,
    subject: subjectOf(part.item, part.source, changes, context.state),
    changes,
    at: context.at,
    isCooled: cooled.has(part),
  }));
  const partOf = new Map(whole.map(({ part }) => [part.item, part]));
  const told = new Map<string, Told>();
  for (const { key, to, item, told: tell, reason } of judgeRecipients(rule, alert, context.state)) {
    const { source, changes } = partOf.get(item) as Part;
    if (reason !== null) {
      const withheld: Withheld = {
        at: context.at,
        alert: id,
        rule: rule.id,
        version,
        source,
        item,
        changes,
        person: to.id,
        reason,
      };
      context.emit({ effect: 'withheld', withheld });
      continue;
    }
    const portion: Portion = {
      alert: id,
      rule: rule.id,
      version,
      occasion,
      at: context.at,
      arising,
      source,
      item,
      changes: tell.map((change) => change.id),
      reasons: to.reasons,
    };
    const known = told.get(key);
    if (known) known.portions.push(portion);
    else told.set(key, { to: { kind: to.kind, id: to.id }, portions: [portion] });
  }
  return told;
}

/** Somebody told, with what of. */
interface Told {
  to: Recipient;
  portions: Portion[];
}

/** An alert that waits to be acknowledged: its row, what each person told has seen, its reminders and escalations. */
function leaveOpen(
  context: StepContext,
  { rule, version }: CompiledRule,
  { id, occasion, parts }: Raising,
  arising: Arising,
  told: Told[],
): void {
  const { ack } = rule;
  if (!ack) return;
  const people = told.filter(({ to }) => to.kind === 'person');
  context.put('open', keyOf(id), keyOf(rule.id), {
    alert: id,
    rule: rule.id,
    version,
    at: context.at,
    occasion,
    arising,
    parts: [...parts],
    told: people.map(({ to }) => to.id),
    escalated: [],
    acknowledged: [],
    ceased: [],
    isClosed: false,
    gone: [],
  });
  for (const { to, portions } of people) {
    keepReceipt(context, {
      alert: id,
      rule: rule.id,
      person: to.id,
      items: parts.map((part) => part.item),
      told: false,
      seen: false,
      pending: 0,
      open: 'open',
      portions,
    });
  }
  if (ack.closeWhenCeased && becameOf(rule))
    for (const { item } of parts)
      context.put('openItems', keyOf(rule.id, item, id), keyOf(rule.id, item), { alert: id });
  const timer = { rank: 1, rule: rule.id, item: parts[0]?.item ?? '', person: '' } as const;
  if (ack.remind)
    context.set({
      ...timer,
      key: keyOf('remind', id, 1),
      due: addDuration(context.at, ack.remind.after, rule.zone),
      task: { task: 'remind', alert: id, round: 1 },
    });
  for (const [round, { after }] of ack.escalate.entries()) {
    context.set({
      ...timer,
      key: keyOf('escalate', id, round),
      due: addDuration(context.at, after, rule.zone),
      task: { task: 'escalate', alert: id, round },
    });
  }
}
