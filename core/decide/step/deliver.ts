import type { Form } from '../../messages/index.ts';
import { digestInstant, quietEnd } from '../../pace/index.ts';
import {
  type Channel,
  CHANNELS,
  type Pace,
  type Person,
  type Recipient,
  recipientKey,
  recipientOf,
  type Step,
} from '../../people/index.ts';
import { addDuration, type Instant } from '../../time/index.ts';
import type { Change } from '../../values/index.ts';
import { compareArising } from './arising.ts';
import { compose, urgencyOf } from './compose.ts';
import { isClosedTo, noteSent, noteTold, notePending, wasSeen } from './receipts.ts';
import { type Held, keyOf, type Waiting } from './rows.ts';
import { judgeAgain, subjectOf } from './recipients.ts';
import type { LaterStep, Portion } from './types.ts';
import type { StepContext } from './context.ts';

/** A message about to go: to whom, by what, of what. */
export interface Parcel {
  to: Recipient;
  channel: Channel;
  form: Form;
  /** Distinguishes messages of one form, recipient and channel: the step's place, the round, the instant. */
  mark: string;
  portions: readonly Portion[];
}

/** How an alert's steps are taken: as what, which reminder or escalation, at which pace of the rule's. */
export interface Taking {
  form: Form;
  round: number;
  pace: Pace;
}

/** All of a person's steps for these portions: told now, left for a digest, or judged again later. A rule's digest pace goes before a step's own. */
export function takeSteps(
  context: StepContext,
  person: Person,
  steps: readonly Step[],
  portions: readonly Portion[],
  taking: Taking,
): void {
  for (const [place, step] of steps.entries()) takeStep(context, person, step, place, portions, taking);
}

function takeStep(
  context: StepContext,
  person: Person,
  step: Step,
  place: number,
  portions: readonly Portion[],
  { form, round, pace }: Taking,
): void {
  const to: Recipient = { kind: 'person', id: person.id };
  const onlyAway = step.when === 'away';
  if (pace.kind === 'digest') {
    // What has to be so for the step is asked as of the digest.
    const first = digestInstant(pace, context.at, person.zone);
    const due = step.after === undefined ? first : addDuration(first, step.after, person.zone);
    wait(context, to, step.channel, due, portions, step.after !== undefined, onlyAway);
    return;
  }
  const digest = step.pace?.kind === 'digest' ? step.pace : null;
  const later: LaterStep = {
    person: person.id,
    channel: step.channel,
    step: place,
    onlyAway,
    digest,
    form,
    round,
    portions: [...portions],
  };
  if (step.after !== undefined) {
    const due = addDuration(context.at, step.after, person.zone);
    const [first] = portions as [Portion];
    notePending(context, person.id, portions);
    context.set({
      key: keyOf('later', first.alert, person.id, form, round, place),
      due,
      rank: 1,
      rule: first.rule,
      item: first.item,
      person: person.id,
      task: { task: 'later', later },
    });
    return;
  }
  if (!onlyAway || !context.state.isHere(person.id)) passOn(context, later);
}

/** A step that is taken: at once, or with the next digest. */
function passOn(context: StepContext, { person, channel, digest, form, round, step, portions }: LaterStep): void {
  const to: Recipient = { kind: 'person', id: person };
  if (digest)
    wait(
      context,
      to,
      channel,
      digestInstant(digest, context.at, context.state.people.get(person)?.zone ?? 'UTC'),
      portions,
      false,
      false,
    );
  else goOut(context, { to, channel, form, mark: `${round}.${step}`, portions });
}

/** Judges a later step at its instant. */
export function runLater(context: StepContext, later: LaterStep): void {
  const { person, portions } = later;
  const open = portions.filter(
    (portion) => !wasSeen(context, portion.alert, person) && !isClosedTo(context, portion.alert, person),
  );
  const isTaken = !later.onlyAway || !context.state.isHere(person);
  const left = isTaken ? judgedAgain(context, { kind: 'person', id: person }, open) : [];
  if (left.length > 0)
    passOn(context, { ...later, portions: left.map((portion) => ({ ...portion, isDelayed: true })) });
  // Last, so that what they have seen is still known where the message is held.
  notePending(context, person, portions, -1);
}

/** An outsider's message: by email or to the webhook, at the rule's pace in the rule's zone. */
export function tellOutsider(
  context: StepContext,
  to: Recipient,
  portions: readonly Portion[],
  taking: Taking,
  zone: string,
): void {
  const channel: Channel = to.kind === 'webhook' ? 'webhook' : 'email';
  if (taking.pace.kind === 'digest')
    wait(context, to, channel, digestInstant(taking.pace, context.at, zone), portions, false, false);
  else goOut(context, { to, channel, form: taking.form, mark: String(taking.round), portions });
}

function wait(
  context: StepContext,
  to: Recipient,
  channel: Channel,
  due: Instant,
  portions: readonly Portion[],
  ifUnread: boolean,
  ifAway: boolean,
): void {
  const key = recipientKey(to);
  notePending(
    context,
    to.id,
    portions.filter((portion) => ifUnread || portion.isDelayed),
  );
  if (!ifUnread && !ifAway) noteSent(context, portions, to, channel);
  for (const portion of portions) {
    const row: Waiting = { ...portion, to: key, channel, due, ifUnread, ifAway };
    context.put('waiting', keyOfWaiting(row), keyOf(key, channel, due), row);
  }
  context.set({
    key: keyOf('digest', key, channel, due),
    due,
    rank: 2,
    rule: '',
    item: '',
    person: to.id,
    task: { task: 'digest', to: key, channel },
  });
}

const keyOfWaiting = ({ to, channel, due, alert, item, ifUnread, ifAway, isDelayed }: Waiting): string =>
  keyOf(to, channel, due, alert, item, ifUnread ? 1 : 0, ifAway ? 1 : 0, ...(isDelayed ? [1] : []));

/** All that waits for one recipient's digest by one channel makes one message, in the order in which it arose. */
export function runDigest(context: StepContext, toKey: string, channel: Channel): void {
  const to = recipientOf(toKey);
  const rows = context.group('waiting', keyOf(toKey, channel, context.at), keyOfWaiting);
  for (const { key } of rows) context.remove('waiting', key);
  const taken = rows
    .filter(({ row }) => isStillTaken(context, to, row))
    .map(({ row }): Portion => {
      const { to: _, channel: _channel, due: _due, ifUnread, ifAway: _away, ...portion } = row;
      return { ...portion, ...(ifUnread ? { isDelayed: true } : {}) };
    });
  const left = judgedAgain(context, to, merged(taken));
  // The first alert is part of the mark: what comes late for an instant that has passed is told, not taken for a repeat.
  if (left.length > 0)
    goOut(context, { to, channel, form: 'digest', mark: keyOf(context.at, left[0]?.alert ?? ''), portions: left });
  // Last, so that what they have seen is still known where the digest is held.
  for (const { row } of rows) if (row.ifUnread || row.isDelayed) notePending(context, to.id, [row], -1);
}

/** Whether what waits for a digest is still told with it. */
const isStillTaken = (context: StepContext, to: Recipient, { alert, ifUnread, ifAway }: Waiting): boolean =>
  !(ifUnread && (wasSeen(context, alert, to.id) || isClosedTo(context, alert, to.id))) &&
  !(ifAway && context.state.isHere(to.id));

/** A message on its way: held by the recipient's quiet hours, or sent. */
export function goOut(context: StepContext, parcel: Parcel): void {
  const { to, channel, portions } = parcel;
  noteSent(context, portions, to, channel);
  const person = to.kind === 'person' ? context.state.people.get(to.id) : undefined;
  const isHeldBack =
    person && (channel === 'email' || channel === 'text') && urgencyOf(portions, context.state) !== 'critical';
  const until = isHeldBack ? quietEnd(person.plan?.quiet ?? [], context.at, person.zone) : null;
  if (until === null || !person) return send(context, parcel);
  const key = keyOf(parcel.form, person.id, channel, parcel.mark, context.at, ...alertsIn(portions));
  const row: Held = { person: person.id, channel, until, key, form: parcel.form, portions: [...portions] };
  context.put('held', key, keyOf(person.id, until), row);
  notePending(
    context,
    person.id,
    portions.filter((portion) => portion.isDelayed),
  );
  context.set({
    key: keyOf('quietEnd', person.id, until),
    due: until,
    rank: 2,
    rule: '',
    item: '',
    person: person.id,
    task: { task: 'quietEnd', person: person.id },
  });
}

/** Quiet hours end: what was read meanwhile, or may not be told any more, is dropped; one goes as it was, several of a channel as one. */
export function runQuietEnd(context: StepContext, person: string): void {
  const to: Recipient = { kind: 'person', id: person };
  const rows = context.group('held', keyOf(person, context.at), (row) => row.key);
  const left: Held[] = rows.flatMap(({ key, row }) => {
    context.remove('held', key);
    const open = row.portions.filter((portion) => !(portion.isDelayed && wasSeen(context, portion.alert, person)));
    notePending(
      context,
      person,
      row.portions.filter((portion) => portion.isDelayed),
      -1,
    );
    const portions = judgedAgain(context, to, open);
    return portions.length > 0 ? [{ ...row, portions }] : [];
  });
  for (const channel of CHANNELS) {
    const held = left.filter((row) => row.channel === channel);
    const [only] = held;
    if (!only) continue;
    if (held.length === 1)
      send(context, { to, channel, form: only.form, mark: keyOf('held', only.key), portions: only.portions });
    else
      send(context, {
        to,
        channel,
        form: 'summary',
        mark: String(context.at),
        portions: merged(held.flatMap((row) => row.portions)),
      });
  }
}

/** Portions of one alert and item, which have the same reasons, become one with all changes; in the order in which the alerts arose. */
function merged(portions: readonly Portion[]): Portion[] {
  const found = new Map<string, Portion>();
  for (const portion of [...portions].sort(compareArising)) {
    const key = keyOf(portion.alert, portion.item);
    const known = found.get(key);
    // By whichever step it came without a delay, reading does not take it back.
    const { isDelayed: _, ...atOnce } = portion;
    if (!known) found.set(key, portion);
    else
      found.set(key, {
        ...(portion.isDelayed ? known : atOnce),
        changes: [...new Set([...known.changes, ...portion.changes])],
        ...(known.isDelayed && portion.isDelayed ? { isDelayed: true } : {}),
      });
  }
  return [...found.values()];
}

function send(context: StepContext, { to, channel, form, mark, portions }: Parcel): void {
  const message = compose(context, {
    to,
    channel,
    form,
    key: keyOf(form, recipientKey(to), channel, mark, ...alertsIn(portions)),
    portions,
  });
  if (!message) return;
  context.emit({ effect: 'message', message });
  const [first] = portions;
  if (message.content.ownFailed && first)
    context.emit({
      effect: 'trouble',
      trouble: {
        at: context.at,
        rule: first.rule,
        version: first.version,
        to: '',
        code: 'wordsTooDear',
        reason: 'its own words could not be put together within their limits',
      },
    });
  if (to.kind === 'person')
    noteTold(
      context,
      to.id,
      message.alerts.map((one) => one.alert),
    );
}

const alertsIn = (portions: readonly Portion[]) => [...new Set(portions.map((portion) => portion.alert))].slice(0, 3);

/** The portions a recipient may still be told as a message goes out; the rest is withheld. */
export function judgedAgain(context: StepContext, to: Recipient, portions: readonly Portion[]): Portion[] {
  return portions.filter((portion) => {
    const rule = context.state.version(portion.rule, portion.version)?.rule;
    if (!rule) return false;
    const changes = changesOf(context, portion);
    const reason = judgeAgain(
      to,
      rule,
      portion.item,
      subjectOf(portion.item, portion.source, changes, context.state),
      context.at,
      context.state,
    );
    if (reason) {
      const { alert, version, source, item } = portion;
      context.emit({
        effect: 'withheld',
        withheld: {
          at: context.at,
          alert,
          rule: rule.id,
          version,
          source,
          item,
          changes: portion.changes,
          person: to.id,
          reason,
        },
      });
    }
    return reason === null;
  });
}

export const changesOf = (context: StepContext, { source, changes }: Pick<Portion, 'source' | 'changes'>): Change[] =>
  changes.flatMap((id) => context.state.change(source, id) ?? []);
