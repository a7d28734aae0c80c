import { recipientKey, recipientOf, type Selector, urgentSteps } from '../../people/index.ts';
import { becameOf, type CompiledRule, type Rule } from '../../rules/index.ts';
import { addDuration, timesDuration } from '../../time/index.ts';
import type { Change } from '../../values/index.ts';
import { endAgain } from './again.ts';
import { carryOut, judgedAgain } from './carry-out.ts';
import { receiptKey, receiptOf, keepReceipt } from './receipts.ts';
import { keyOf, type OpenAlert } from './rows.ts';
import { judgeEscalated, subjectOf, type Told } from './judge.ts';
import type { Raised } from './raise.ts';
import { routeNow, routesTo } from './route.ts';
import { changesOf, type Input } from './state.ts';
import type { Portion } from './types.ts';
import type { StepContext } from './context.ts';

/** A person has read what a message told them of; only the alerts named, where some are. */
export function markRead(context: StepContext, { person, alerts }: Extract<Input, { input: 'read' }>): void {
  for (const { row } of context.group('receipts', keyOf(person), (one) => receiptKey(one.alert, one.person))) {
    if (row.told && !row.seen && (!alerts || alerts.includes(row.alert))) keepReceipt(context, { ...row, seen: true });
  }
}

/** A person takes on a rule's alerts: all that are open, those that hold an item, or one. Others' acts change nothing. */
export function acknowledge(
  context: StepContext,
  { person, rule, item, alert }: Extract<Input, { input: 'acknowledge' }>,
): void {
  const isMeant = (id: string, items: readonly string[]) =>
    (alert === undefined || alert === id) && (item === undefined || items.includes(item));
  for (const { row } of context.group('receipts', keyOf(person), (one) => receiptKey(one.alert, one.person))) {
    if (row.rule === rule && !row.seen && isMeant(row.alert, row.items)) keepReceipt(context, { ...row, seen: true });
  }
  endAgain(context, rule, (row) => row.person === person && isMeant(row.alert, row.items));
  for (const { row } of context.group('open', keyOf(rule), (one) => keyOf(one.alert))) {
    const mayAct = row.told.includes(person) || row.escalated.includes(person);
    if (
      row.isClosed ||
      !mayAct ||
      row.acknowledged.includes(person) ||
      !isMeant(
        row.alert,
        row.parts.map((part) => part.item),
      )
    )
      continue;
    const acknowledged = [...row.acknowledged, person];
    const by = context.state.version(row.rule, row.version)?.rule.ack?.by;
    const isDone = by === 'anyone' || row.told.every((one) => acknowledged.includes(one));
    if (isDone) close(context, { ...row, acknowledged });
    else putOpen(context, { ...row, acknowledged });
  }
}

const putOpen = (context: StepContext, row: OpenAlert): void =>
  context.put('open', keyOf(row.alert), keyOf(row.rule), row);

/** An alert that waits to be acknowledged: its row, what each person told has seen, its reminders and escalations. */
export function leaveOpen(context: StepContext, raised: Raised, told: readonly Told[]): void {
  const { compiled, id, occasion, arising, parts } = raised;
  const { rule, version } = compiled;
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
  setEscalating(context, raised);
}

function setEscalating(context: StepContext, { compiled: { rule }, id, parts }: Raised): void {
  const { remind, escalate } = rule.ack ?? { remind: null, escalate: [] };
  const timer = { rank: 1, rule: rule.id, item: parts[0]?.item ?? '', person: '' } as const;
  if (remind)
    context.set({
      ...timer,
      key: keyOf('remind', id, 1),
      due: addDuration(context.at, remind.after, rule.zone),
      task: { task: 'remind', alert: id, round: 1 },
    });
  for (const [round, { after }] of escalate.entries()) {
    context.set({
      ...timer,
      key: keyOf('escalate', id, round),
      due: addDuration(context.at, after, rule.zone),
      task: { task: 'escalate', alert: id, round },
    });
  }
}

/** A closed alert takes no further step. Its row stays while an all-clear may follow. */
function close(context: StepContext, row: OpenAlert): void {
  endAgain(context, row.rule, ({ alert }) => alert === row.alert);
  for (const person of new Set([...row.told, ...row.escalated])) {
    const receipt = receiptOf(context, row.alert, person);
    if (receipt) keepReceipt(context, { ...receipt, open: 'closed' });
  }
  const rule = context.state.version(row.rule, row.version)?.rule;
  if (rule?.ack?.allClear && rule.ack.closeWhenCeased && becameOf(rule)) putOpen(context, { ...row, isClosed: true });
  else forget(context, row);
}

function forget(context: StepContext, row: OpenAlert): void {
  context.remove('open', keyOf(row.alert));
  for (const { item } of row.parts) context.remove('openItems', keyOf(row.rule, item, row.alert));
}

/** Open alerts whose state has ceased with this change close by themselves; with an all-clear, whoever was told is told so. */
export function closeCeased(context: StepContext, change: Change): void {
  for (const compiled of context.state.closing(change.source)) {
    context.within(compiled, '', () => {
      if (compiled.hasCeased(change, context.state)) ceaseFor(context, compiled, change);
    });
  }
}

function ceaseFor(context: StepContext, { rule, version }: CompiledRule, { item }: Change): void {
  for (const { row } of context.group('openItems', keyOf(rule.id, item), (one) => keyOf(rule.id, item, one.alert))) {
    const open = context.row('open', keyOf(row.alert));
    if (open?.version !== version || open.ceased.includes(item)) continue;
    const ceased = [...open.ceased, item];
    if (open.parts.every((part) => ceased.includes(part.item))) callOff(context, rule, open);
    else putOpen(context, { ...open, ceased });
  }
}

function callOff(context: StepContext, rule: Rule, open: OpenAlert): void {
  const portionsOf = (to: string, items: readonly string[]): Portion[] => {
    const heard = receiptOf(context, open.alert, to)?.portions ?? [];
    return open.parts
      .filter((part) => items.includes(part.item))
      .map((part): Portion => {
        const { alert, version, occasion, at, arising } = open;
        return {
          ...part,
          alert,
          rule: rule.id,
          version,
          occasion,
          at,
          arising,
          reasons: heard.find((one) => one.item === part.item)?.reasons ?? [],
        };
      });
  };
  const tellings = rule.ack?.allClear
    ? open.gone.map(({ to, channel, items }) => ({ to: recipientOf(to), channel, portions: portionsOf(to, items) }))
    : [];
  close(context, open);
  forget(context, open);
  for (const { to, channel, portions } of tellings) {
    const left = judgedAgain(context, to, portions);
    if (left.length > 0)
      carryOut(context, routeNow(context, { to, channel, form: 'allClear', mark: '', portions: left }));
  }
}

/** A reminder to each of those told who has not acknowledged. */
export function remind(context: StepContext, alert: string, round: number): void {
  const open = context.row('open', keyOf(alert));
  const rule = open && context.state.version(open.rule, open.version)?.rule;
  if (!open || open.isClosed || !rule?.ack?.remind) return;
  const { after, times } = rule.ack.remind;
  if (round < times) {
    const due = addDuration(open.at, timesDuration(after, round + 1), rule.zone);
    context.set({
      key: keyOf('remind', alert, round + 1),
      due,
      rank: 1,
      rule: rule.id,
      item: open.parts[0]?.item ?? '',
      person: '',
      task: { task: 'remind', alert, round: round + 1 },
    });
  }
  for (const id of open.told) {
    const person = context.state.people.get(id);
    if (!person?.active || open.acknowledged.includes(id)) continue;
    const steps = urgentSteps(person);
    // Where no step would carry it, nobody is withheld anything either.
    if (steps.length === 0) continue;
    const portions = judgedAgain(context, { kind: 'person', id }, receiptOf(context, alert, id)?.portions ?? []);
    if (portions.length === 0) continue;
    const taking = { form: 'reminder', round, pace: { kind: 'now' } } as const;
    const each = portions.map(() => steps);
    for (const route of routesTo(context, { kind: 'person', id }, each, portions, taking, rule))
      carryOut(context, route);
  }
}

/** An alert that nobody took on in time goes to others too. */
export function escalate(context: StepContext, alert: string, round: number): void {
  const open = context.row('open', keyOf(alert));
  const rule = open && context.state.version(open.rule, open.version)?.rule;
  const step = rule?.ack?.escalate[round];
  if (!open || open.isClosed || !rule || !step) return;
  const told = escalatedTo(context, rule, open, step.to);
  const people = told.flatMap(({ to }) => (to.kind === 'person' ? [to.id] : []));
  putOpen(context, { ...open, escalated: [...new Set([...open.escalated, ...people])] });
  const taking = { form: 'escalation', round: round + 1, pace: { kind: 'now' } } as const;
  for (const { to, portions, steps } of told) {
    if (context.state.people.has(to.id) && to.kind === 'person') reopen(context, to.id, portions);
    for (const route of routesTo(context, to, steps, portions, taking, rule)) carryOut(context, route);
  }
}

/** Whom an escalation tells of what; who is withheld is said at once, who has acknowledged is left out. */
function escalatedTo(context: StepContext, rule: Rule, open: OpenAlert, selectors: readonly Selector[]): Told[] {
  const { state, at } = context;
  const { alert, version, occasion, arising } = open;
  const told = new Map<string, Told>();
  for (const part of open.parts) {
    const changes = changesOf(state, part);
    const caught = { item: part.item, subject: subjectOf(part.item, part.source, changes, state), changes, at };
    const escalating = { told: open.told, acknowledged: open.acknowledged, stepsOf: urgentSteps };
    for (const { to, reason, steps } of judgeEscalated(selectors, rule, caught, escalating, state)) {
      const of = { alert, rule: rule.id, version, ...part };
      if (reason !== null) {
        context.emit({ effect: 'withheld', withheld: { ...of, at, person: to.id, reason } });
        continue;
      }
      const key = recipientKey(to);
      const known = told.get(key) ?? { key, to: { kind: to.kind, id: to.id }, portions: [], steps: [] };
      known.portions.push({ ...of, occasion, at: open.at, arising, reasons: to.reasons });
      known.steps.push(steps);
      told.set(key, known);
    }
  }
  return [...told.values()];
}

/** What somebody sees of an alert counts from now on as one that is open to them. */
function reopen(context: StepContext, person: string, portions: Portion[]): void {
  const { alert, rule } = portions[0] as Portion;
  const known = receiptOf(context, alert, person);
  const items = portions.map((portion) => portion.item);
  const first = { alert, rule, person, items, told: false, seen: false, pending: 0, portions };
  keepReceipt(context, { ...(known ?? first), open: 'open' });
}
