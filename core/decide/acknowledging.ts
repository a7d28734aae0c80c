import { type Recipient, recipientKey, recipientOf, urgentSteps } from '../people/index.ts';
import { becameOf, type CompiledRule, type Rule } from '../rules/index.ts';
import { addDuration, timesDuration } from '../time/index.ts';
import type { Change } from '../values/index.ts';
import { changesOf, goOut, judgedAgain, takeSteps, tellOutsider } from './deliver.ts';
import { hearingKey, hearingOf, keep } from './hearing.ts';
import { keyOf, type OpenAlert } from './rows.ts';
import { escalated, subjectOf } from './told.ts';
import type { Input } from './state.ts';
import type { Portion } from './types.ts';
import type { Work } from './work.ts';

/** A person has read what a message told them of; only the alerts named, where some are. */
export function markRead(work: Work, { person, alerts }: Extract<Input, { input: 'read' }>): void {
  for (const { row } of work.group('hearings', keyOf(person), (one) => hearingKey(one.alert, one.person))) {
    if (row.told && !row.seen && (!alerts || alerts.includes(row.alert))) keep(work, { ...row, seen: true });
  }
}

/** A person takes on a rule's alerts: all that are open, those that hold an item, or one. Others' acts change nothing. */
export function acknowledge(work: Work, { person, rule, item, alert }: Extract<Input, { input: 'acknowledge' }>): void {
  const isMeant = (id: string, items: readonly string[]) =>
    (alert === undefined || alert === id) && (item === undefined || items.includes(item));
  for (const { row } of work.group('hearings', keyOf(person), (one) => hearingKey(one.alert, one.person))) {
    if (row.rule === rule && !row.seen && isMeant(row.alert, row.items)) keep(work, { ...row, seen: true });
  }
  for (const { row } of work.group('open', keyOf(rule), (one) => keyOf(one.alert))) {
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
    const by = work.state.version(row.rule, row.version)?.rule.ack?.by;
    const isDone = by === 'anyone' || row.told.every((one) => acknowledged.includes(one));
    if (isDone) close(work, { ...row, acknowledged });
    else putOpen(work, { ...row, acknowledged });
  }
}

const putOpen = (work: Work, row: OpenAlert): void => work.put('open', keyOf(row.alert), keyOf(row.rule), row);

/** A closed alert takes no further step. Its row stays while an all-clear may follow. */
function close(work: Work, row: OpenAlert): void {
  for (const person of new Set([...row.told, ...row.escalated])) {
    const hearing = hearingOf(work, row.alert, person);
    if (hearing) keep(work, { ...hearing, open: 'closed' });
  }
  const rule = work.state.version(row.rule, row.version)?.rule;
  if (rule?.ack?.allClear && rule.ack.closeWhenCeased && becameOf(rule)) putOpen(work, { ...row, isClosed: true });
  else forget(work, row);
}

function forget(work: Work, row: OpenAlert): void {
  work.remove('open', keyOf(row.alert));
  for (const { item } of row.parts) work.remove('openItems', keyOf(row.rule, item, row.alert));
}

/** Open alerts whose state has ceased with this change close by themselves; with an all-clear, whoever was told is told so. */
export function closeCeased(work: Work, change: Change): void {
  for (const compiled of work.state.closing(change.source)) {
    work.within(compiled, '', () => {
      if (compiled.hasCeased(change)) ceaseFor(work, compiled, change);
    });
  }
}

function ceaseFor(work: Work, { rule, version }: CompiledRule, { item }: Change): void {
  for (const { row } of work.group('openItems', keyOf(rule.id, item), (one) => keyOf(rule.id, item, one.alert))) {
    const open = work.row('open', keyOf(row.alert));
    if (open?.version !== version || open.ceased.includes(item)) continue;
    const ceased = [...open.ceased, item];
    if (open.parts.every((part) => ceased.includes(part.item))) callOff(work, rule, open);
    else putOpen(work, { ...open, ceased });
  }
}

function callOff(work: Work, rule: Rule, open: OpenAlert): void {
  const portionsOf = (to: string, items: readonly string[]): Portion[] => {
    const heard = hearingOf(work, open.alert, to)?.portions ?? [];
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
  close(work, open);
  forget(work, open);
  for (const { to, channel, portions } of tellings) {
    const left = judgedAgain(work, to, portions);
    if (left.length > 0) goOut(work, { to, channel, form: 'allClear', mark: '', portions: left });
  }
}

/** A reminder to each of those told who has not acknowledged. */
export function remind(work: Work, alert: string, round: number): void {
  const open = work.row('open', keyOf(alert));
  const rule = open && work.state.version(open.rule, open.version)?.rule;
  if (!open || open.isClosed || !rule?.ack?.remind) return;
  const { after, times } = rule.ack.remind;
  if (round < times) {
    const due = addDuration(open.at, timesDuration(after, round + 1), rule.zone);
    work.set({
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
    const person = work.state.people.get(id);
    if (!person?.active || open.acknowledged.includes(id)) continue;
    const steps = urgentSteps(person);
    // Where no step would carry it, nobody is withheld anything either.
    if (steps.length === 0) continue;
    const portions = judgedAgain(work, { kind: 'person', id }, hearingOf(work, alert, id)?.portions ?? []);
    if (portions.length > 0)
      takeSteps(work, person, steps, portions, { form: 'reminder', round, pace: { kind: 'now' } });
  }
}

/** An alert that nobody took on in time goes to others too. */
export function escalate(work: Work, alert: string, round: number): void {
  const open = work.row('open', keyOf(alert));
  const rule = open && work.state.version(open.rule, open.version)?.rule;
  const step = rule?.ack?.escalate[round];
  if (!open || open.isClosed || !rule || !step) return;
  const told = new Map<string, { to: Recipient; portions: Portion[] }>();
  for (const part of open.parts) {
    const changes = changesOf(work, part);
    const caught = {
      item: part.item,
      subject: subjectOf(part.item, part.source, changes, work.state),
      changes,
      at: work.at,
    };
    for (const { to, reason } of escalated(
      step.to,
      rule,
      caught,
      { told: open.told },
      (person) => urgentSteps(person).length > 0,
      work.state,
    )) {
      if (to.kind === 'person' && open.acknowledged.includes(to.id)) continue;
      const portion = { alert, rule: rule.id, version: open.version, ...part };
      if (reason !== null) {
        work.emit({ effect: 'withheld', withheld: { ...portion, at: work.at, person: to.id, reason } });
        continue;
      }
      const key = recipientKey(to);
      const known = told.get(key) ?? { to: { kind: to.kind, id: to.id }, portions: [] };
      known.portions.push({
        ...portion,
        occasion: open.occasion,
        at: open.at,
        arising: open.arising,
        reasons: to.reasons,
      });
      told.set(key, known);
    }
  }
  const people = [...told.values()].flatMap(({ to }) => (to.kind === 'person' ? [to.id] : []));
  putOpen(work, { ...open, escalated: [...new Set([...open.escalated, ...people])] });
  for (const { to, portions } of told.values()) tellOf(work, rule, to, portions, round + 1);
}

function tellOf(work: Work, rule: Rule, to: Recipient, portions: Portion[], round: number): void {
  const taking = { form: 'escalation', round, pace: { kind: 'now' } } as const;
  const person = to.kind === 'person' ? work.state.people.get(to.id) : undefined;
  if (!person) return tellOutsider(work, to, portions, taking, rule.zone);
  const alert = (portions[0] as Portion).alert;
  const items = portions.map((portion) => portion.item);
  const known = hearingOf(work, alert, person.id);
  keep(
    work,
    known
      ? { ...known, open: 'open' }
      : {
          alert,
          rule: rule.id,
          person: person.id,
          items,
          told: false,
          seen: false,
          pending: 0,
          open: 'open',
          portions,
        },
  );
  takeSteps(work, person, urgentSteps(person), portions, taking);
}
