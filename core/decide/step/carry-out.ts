import { CHANNELS, type Channel, isMuted, type Recipient, recipientKey, recipientOf } from '../../people/index.ts';
import { compareArising } from './arising.ts';
import type { StepContext } from './context.ts';
import { judgeAgain, subjectOf } from './judge.ts';
import { isClosedTo, notePending, noteSent, noteTold, wasSeen } from './receipts.ts';
import { type Parcel, type Route, routeNow, routeTaken } from './route.ts';
import { type Held, keyOf, type Waiting } from './rows.ts';
import { changesOf, type State } from './state.ts';
import { type LaterStep, NO_ITEM, type Portion } from './types.ts';
import { word } from './word.ts';

/** Sends what goes now; keeps what goes later, with the timer that asks for it. */
export function carryOut(context: StepContext, route: Route): void {
  switch (route.way) {
    case 'now':
      noteSent(context, route.parcel.portions, route.parcel.to, route.parcel.channel);
      return send(context, route.parcel);
    case 'held':
      noteSent(context, route.parcel.portions, route.parcel.to, route.parcel.channel);
      return hold(context, route);
    case 'digest':
      return wait(context, route);
    case 'later':
      return putOff(context, route);
    default:
      return route satisfies never;
  }
}

function putOff(context: StepContext, { due, later }: Extract<Route, { way: 'later' }>): void {
  const { person, form, round, step, portions } = later;
  const [first] = portions as [Portion];
  notePending(context, person, portions);
  context.set({
    key: keyOf('later', first.alert, person, form, round, step),
    due,
    rank: 1,
    rule: first.rule,
    item: first.item,
    person,
    task: { task: 'later', later },
  });
}

/** Judges a later step at its instant. */
export function runLater(context: StepContext, later: LaterStep): void {
  const { person, portions } = later;
  const open = portions.filter(
    (portion) => !wasSeen(context, portion.alert, person) && !isClosedTo(context, portion.alert, person),
  );
  const isTaken = !later.onlyAway || !context.state.isHere(person);
  const left = isTaken ? judgedAgain(context, { kind: 'person', id: person }, open) : [];
  if (left.length > 0) {
    const delayed = left.map((portion) => ({ ...portion, isDelayed: true }));
    carryOut(context, routeTaken(context, { ...later, portions: delayed }));
  }
  // Last, so that what they have seen is still known where the message is held.
  notePending(context, person, portions, -1);
}

function wait(context: StepContext, route: Extract<Route, { way: 'digest' }>): void {
  const { to, channel, due, portions, ifUnread, ifAway } = route;
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
  const portions = judgedAgain(context, to, merged(taken));
  // The first alert is part of the mark: what comes late for an instant that has passed is told, not taken for a repeat.
  const mark = keyOf(context.at, portions[0]?.alert ?? '');
  if (portions.length > 0) carryOut(context, routeNow(context, { to, channel, form: 'digest', mark, portions }));
  // Last, so that what they have seen is still known where the digest is held.
  for (const { row } of rows) if (row.ifUnread || row.isDelayed) notePending(context, to.id, [row], -1);
}

/** Whether what waits for a digest is still told with it. */
const isStillTaken = (context: StepContext, to: Recipient, { alert, ifUnread, ifAway }: Waiting): boolean =>
  !(ifUnread && (wasSeen(context, alert, to.id) || isClosedTo(context, alert, to.id))) &&
  !(ifAway && context.state.isHere(to.id));

function hold(context: StepContext, { parcel, until }: Extract<Route, { way: 'held' }>): void {
  const { to, channel, form, mark, portions } = parcel;
  const key = keyOf(form, to.id, channel, mark, context.at, ...alertsIn(portions));
  const row: Held = { person: to.id, channel, until, key, form, portions: [...portions] };
  context.put('held', key, keyOf(to.id, until), row);
  notePending(
    context,
    to.id,
    portions.filter((portion) => portion.isDelayed),
  );
  context.set({
    key: keyOf('quietEnd', to.id, until),
    due: until,
    rank: 2,
    rule: '',
    item: '',
    person: to.id,
    task: { task: 'quietEnd', person: to.id },
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
  const message = word(context, {
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

/** Of a report with nothing in it: whether its reader has muted the rule, or everything. */
function isMutedBy(state: State, to: Recipient, rule: string, at: number): boolean {
  const person = to.kind === 'person' ? state.people.get(to.id) : undefined;
  return person !== undefined && isMuted(person, rule, NO_ITEM, at);
}

/** The portions a recipient may still be told as a message goes out; the rest is withheld. */
export function judgedAgain(context: StepContext, to: Recipient, portions: readonly Portion[]): Portion[] {
  const { state, at } = context;
  return portions.filter((portion) => {
    const { alert, version, source, item, changes } = portion;
    if (item === NO_ITEM) return !isMutedBy(state, to, portion.rule, at);
    const rule = state.version(portion.rule, version)?.rule;
    if (!rule) return false;
    const subject = subjectOf(item, source, changesOf(state, portion), state);
    const reason = judgeAgain(to, rule, item, subject, at, state);
    if (reason)
      context.emit({
        effect: 'withheld',
        withheld: { at, alert, rule: rule.id, version, source, item, changes, person: to.id, reason },
      });
    return reason === null;
  });
}
