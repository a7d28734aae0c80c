import type { Form } from '../../messages/index.ts';
import { digestInstant, quietEnd } from '../../pace/index.ts';
import type { Channel, Pace, Person, Recipient, Step } from '../../people/index.ts';
import type { Rule } from '../../rules/index.ts';
import { addDuration, type Instant } from '../../time/index.ts';
import type { State } from './state.ts';
import type { LaterStep, Portion } from './types.ts';
import { urgencyOf } from './word.ts';

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

/** The way that portions go to a recipient: now, after their quiet hours, with a digest, or by a step judged again later. */
export type Route =
  | { way: 'now'; parcel: Parcel }
  | { way: 'held'; parcel: Parcel; until: Instant }
  | {
      way: 'digest';
      to: Recipient;
      channel: Channel;
      due: Instant;
      portions: readonly Portion[];
      /** Told only if it is unread, or its reader away, at the digest's instant. */
      ifUnread: boolean;
      ifAway: boolean;
    }
  | { way: 'later'; due: Instant; later: LaterStep };

/** What routes are chosen by: the state as it stands, and the step's instant. */
interface Now {
  state: State;
  at: Instant;
}

/**
 * The ways to whoever is told: all steps of a person, in their order, each with the portions that have it; an outsider's one.
 * @param steps those of each portion, in the portions' order
 */
export function routesTo(
  now: Now,
  to: Recipient,
  steps: readonly (readonly Step[])[],
  portions: readonly Portion[],
  taking: Taking,
  rule: Pick<Rule, 'zone'>,
): Route[] {
  const person = to.kind === 'person' ? now.state.people.get(to.id) : undefined;
  if (!person) return [routeOutside(now, to, portions, taking, rule.zone)];
  return taken(steps, portions).flatMap(
    ({ step, portions: those }, place) => routeOfStep(now, person, step, place, those, taking) ?? [],
  );
}

/** Each step once, with the portions that have it. Nearly always all of them have the same. */
function taken(
  steps: readonly (readonly Step[])[],
  portions: readonly Portion[],
): { step: Step; portions: readonly Portion[] }[] {
  const [first = []] = steps;
  const written = (list: readonly Step[]) => JSON.stringify(list);
  if (steps.every((list) => list === first || written(list) === written(first)))
    return first.map((step) => ({ step, portions }));
  const found = new Map<string, { step: Step; portions: Portion[] }>();
  for (const [at, list] of steps.entries()) {
    const times = new Map<string, number>();
    for (const step of list) {
      // The same step twice in one plan is taken twice.
      const time = (times.get(JSON.stringify(step)) ?? 0) + 1;
      times.set(JSON.stringify(step), time);
      const key = `${time} ${JSON.stringify(step)}`;
      const known = found.get(key) ?? { step, portions: [] };
      found.set(key, { step, portions: [...known.portions, ...portions.slice(at, at + 1)] });
    }
  }
  return [...found.values()];
}

/** The way of one step; `null` where it is for when they are away, and they are not. A rule's digest pace goes before a step's own. */
function routeOfStep(
  now: Now,
  person: Person,
  step: Step,
  place: number,
  portions: readonly Portion[],
  { form, round, pace }: Taking,
): Route | null {
  const { at, state } = now;
  const to: Recipient = { kind: 'person', id: person.id };
  const onlyAway = step.when === 'away';
  const delayed = (from: Instant) => (step.after === undefined ? from : addDuration(from, step.after, person.zone));
  if (pace.kind === 'digest') {
    // What has to be so for the step is asked as of the digest.
    const due = delayed(digestInstant(pace, at, person.zone));
    const ifUnread = step.after !== undefined;
    return { way: 'digest', to, channel: step.channel, due, portions, ifUnread, ifAway: onlyAway };
  }
  const later: LaterStep = {
    person: person.id,
    channel: step.channel,
    step: place,
    onlyAway,
    digest: step.pace?.kind === 'digest' ? step.pace : null,
    form,
    round,
    portions: [...portions],
  };
  if (step.after !== undefined) return { way: 'later', due: delayed(at), later };
  return onlyAway && state.isHere(person.id) ? null : routeTaken(now, later);
}

/** The way of a step that is taken: at once, or with the next digest. */
export function routeTaken(now: Now, { person, channel, digest, form, round, step, portions }: LaterStep): Route {
  const to: Recipient = { kind: 'person', id: person };
  if (!digest) return routeNow(now, { to, channel, form, mark: `${round}.${step}`, portions });
  const due = digestInstant(digest, now.at, now.state.people.get(person)?.zone ?? 'UTC');
  return { way: 'digest', to, channel, due, portions, ifUnread: false, ifAway: false };
}

/** An outsider's way: by email or to the webhook, at the rule's pace in the rule's zone. */
function routeOutside(now: Now, to: Recipient, portions: readonly Portion[], taking: Taking, zone: string): Route {
  const channel: Channel = to.kind === 'webhook' ? 'webhook' : 'email';
  const { form, round, pace } = taking;
  if (pace.kind !== 'digest') return routeNow(now, { to, channel, form, mark: String(round), portions });
  const due = digestInstant(pace, now.at, zone);
  return { way: 'digest', to, channel, due, portions, ifUnread: false, ifAway: false };
}

/** The way of a message about to go: now, unless the recipient's quiet hours hold it. */
export function routeNow({ state, at }: Now, parcel: Parcel): Route {
  const { to, channel, portions } = parcel;
  const person = to.kind === 'person' ? state.people.get(to.id) : undefined;
  const isHeldBack = person && (channel === 'email' || channel === 'text') && urgencyOf(portions, state) !== 'critical';
  const until = isHeldBack ? quietEnd(person.plan?.quiet ?? [], at, person.zone) : null;
  return until === null ? { way: 'now', parcel } : { way: 'held', parcel, until };
}
