import type { Form } from '../messages/index.ts';
import { digestInstant, quietEnd } from '../pace/index.ts';
import {
  type Channel,
  CHANNELS,
  type Pace,
  type Person,
  type Recipient,
  recipientKey,
  recipientOf,
  type Step,
} from '../people/index.ts';
import { addDuration, type Instant } from '../time/index.ts';
import type { Change } from '../values/index.ts';
import { compareArising } from './arising.ts';
import { compose, urgencyOf } from './compose.ts';
import { isClosedTo, noteGone, noteHeard, notePending, wasSeen } from './hearing.ts';
import { type Held, keyOf, type Waiting } from './rows.ts';
import { reasonNow, subjectOf } from './told.ts';
import type { LaterStep, Portion } from './types.ts';
import type { Work } from './work.ts';

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
  work: Work,
  person: Person,
  steps: readonly Step[],
  portions: readonly Portion[],
  taking: Taking,
): void {
  for (const [place, step] of steps.entries()) takeStep(work, person, step, place, portions, taking);
}

function takeStep(
  work: Work,
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
    const first = digestInstant(pace, work.at, person.zone);
    const due = step.after === undefined ? first : addDuration(first, step.after, person.zone);
    wait(work, to, step.channel, due, portions, step.after !== undefined, onlyAway);
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
    const due = addDuration(work.at, step.after, person.zone);
    const [first] = portions as [Portion];
    notePending(work, person.id, portions);
    work.set({
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
  if (!onlyAway || !work.state.isHere(person.id)) passOn(work, later);
}

/** A step that is taken: at once, or with the next digest. */
function passOn(work: Work, { person, channel, digest, form, round, step, portions }: LaterStep): void {
  const to: Recipient = { kind: 'person', id: person };
  if (digest)
    wait(
      work,
      to,
      channel,
      digestInstant(digest, work.at, work.state.people.get(person)?.zone ?? 'UTC'),
      portions,
      false,
      false,
    );
  else goOut(work, { to, channel, form, mark: `${round}.${step}`, portions });
}

/** Judges a later step at its instant. */
export function runLater(work: Work, later: LaterStep): void {
  const { person, portions } = later;
  const open = portions.filter(
    (portion) => !wasSeen(work, portion.alert, person) && !isClosedTo(work, portion.alert, person),
  );
  const isTaken = !later.onlyAway || !work.state.isHere(person);
  const left = isTaken ? judgedAgain(work, { kind: 'person', id: person }, open) : [];
  if (left.length > 0) passOn(work, { ...later, portions: left.map((portion) => ({ ...portion, isDelayed: true })) });
  // Last, so that what they have seen is still known where the message is held.
  notePending(work, person, portions, -1);
}

/** An outsider's message: by email or to the webhook, at the rule's pace in the rule's zone. */
export function tellOutsider(
  work: Work,
  to: Recipient,
  portions: readonly Portion[],
  taking: Taking,
  zone: string,
): void {
  const channel: Channel = to.kind === 'webhook' ? 'webhook' : 'email';
  if (taking.pace.kind === 'digest')
    wait(work, to, channel, digestInstant(taking.pace, work.at, zone), portions, false, false);
  else goOut(work, { to, channel, form: taking.form, mark: String(taking.round), portions });
}

function wait(
  work: Work,
  to: Recipient,
  channel: Channel,
  due: Instant,
  portions: readonly Portion[],
  ifUnread: boolean,
  ifAway: boolean,
): void {
  const key = recipientKey(to);
  notePending(
    work,
    to.id,
    portions.filter((portion) => ifUnread || portion.isDelayed),
  );
  if (!ifUnread && !ifAway) noteGone(work, portions, to, channel);
  for (const portion of portions) {
    const row: Waiting = { ...portion, to: key, channel, due, ifUnread, ifAway };
    work.put('waiting', keyOfWaiting(row), keyOf(key, channel, due), row);
  }
  work.set({
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
export function runDigest(work: Work, toKey: string, channel: Channel): void {
  const to = recipientOf(toKey);
  const rows = work.group('waiting', keyOf(toKey, channel, work.at), keyOfWaiting);
  for (const { key } of rows) work.remove('waiting', key);
  const taken = rows
    .filter(({ row }) => isStillTaken(work, to, row))
    .map(({ row }): Portion => {
      const { to: _, channel: _channel, due: _due, ifUnread, ifAway: _away, ...portion } = row;
      return { ...portion, ...(ifUnread ? { isDelayed: true } : {}) };
    });
  const left = judgedAgain(work, to, merged(taken));
  // The first alert is part of the mark: what comes late for an instant that has passed is told, not taken for a repeat.
  if (left.length > 0)
    goOut(work, { to, channel, form: 'digest', mark: keyOf(work.at, left[0]?.alert ?? ''), portions: left });
  // Last, so that what they have seen is still known where the digest is held.
  for (const { row } of rows) if (row.ifUnread || row.isDelayed) notePending(work, to.id, [row], -1);
}

/** Whether what waits for a digest is still told with it. */
const isStillTaken = (work: Work, to: Recipient, { alert, ifUnread, ifAway }: Waiting): boolean =>
  !(ifUnread && (wasSeen(work, alert, to.id) || isClosedTo(work, alert, to.id))) &&
  !(ifAway && work.state.isHere(to.id));

/** A message on its way: held by the recipient's quiet hours, or sent. */
export function goOut(work: Work, parcel: Parcel): void {
  const { to, channel, portions } = parcel;
  noteGone(work, portions, to, channel);
  const person = to.kind === 'person' ? work.state.people.get(to.id) : undefined;
  const isHeldBack =
    person && (channel === 'email' || channel === 'text') && urgencyOf(portions, work.state) !== 'critical';
  const until = isHeldBack ? quietEnd(person.plan?.quiet ?? [], work.at, person.zone) : null;
  if (until === null || !person) return send(work, parcel);
  const key = keyOf(parcel.form, person.id, channel, parcel.mark, work.at, ...alertsIn(portions));
  const row: Held = { person: person.id, channel, until, key, form: parcel.form, portions: [...portions] };
  work.put('held', key, keyOf(person.id, until), row);
  notePending(
    work,
    person.id,
    portions.filter((portion) => portion.isDelayed),
  );
  work.set({
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
export function runQuietEnd(work: Work, person: string): void {
  const to: Recipient = { kind: 'person', id: person };
  const rows = work.group('held', keyOf(person, work.at), (row) => row.key);
  const left: Held[] = rows.flatMap(({ key, row }) => {
    work.remove('held', key);
    const open = row.portions.filter((portion) => !(portion.isDelayed && wasSeen(work, portion.alert, person)));
    notePending(
      work,
      person,
      row.portions.filter((portion) => portion.isDelayed),
      -1,
    );
    const portions = judgedAgain(work, to, open);
    return portions.length > 0 ? [{ ...row, portions }] : [];
  });
  for (const channel of CHANNELS) {
    const held = left.filter((row) => row.channel === channel);
    const [only] = held;
    if (!only) continue;
    if (held.length === 1)
      send(work, { to, channel, form: only.form, mark: keyOf('held', only.key), portions: only.portions });
    else
      send(work, {
        to,
        channel,
        form: 'summary',
        mark: String(work.at),
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

function send(work: Work, { to, channel, form, mark, portions }: Parcel): void {
  const message = compose(work, {
    to,
    channel,
    form,
    key: keyOf(form, recipientKey(to), channel, mark, ...alertsIn(portions)),
    portions,
  });
  if (!message) return;
  work.emit({ effect: 'message', message });
  const [first] = portions;
  if (message.content.ownFailed && first)
    work.emit({
      effect: 'trouble',
      trouble: {
        at: work.at,
        rule: first.rule,
        version: first.version,
        to: '',
        code: 'wordsTooDear',
        reason: 'its own words could not be put together within their limits',
      },
    });
  if (to.kind === 'person')
    noteHeard(
      work,
      to.id,
      message.alerts.map((one) => one.alert),
    );
}

const alertsIn = (portions: readonly Portion[]) => [...new Set(portions.map((portion) => portion.alert))].slice(0, 3);

/** The portions a recipient may still be told as a message goes out; the rest is withheld. */
export function judgedAgain(work: Work, to: Recipient, portions: readonly Portion[]): Portion[] {
  return portions.filter((portion) => {
    const rule = work.state.version(portion.rule, portion.version)?.rule;
    if (!rule) return false;
    const changes = changesOf(work, portion);
    const reason = reasonNow(
      to,
      rule,
      portion.item,
      subjectOf(portion.item, portion.source, changes, work.state),
      work.at,
      work.state,
    );
    if (reason) {
      const { alert, version, source, item } = portion;
      work.emit({
        effect: 'withheld',
        withheld: {
          at: work.at,
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

export const changesOf = (work: Work, { source, changes }: Pick<Portion, 'source' | 'changes'>): Change[] =>
  changes.flatMap((id) => work.state.change(source, id) ?? []);
