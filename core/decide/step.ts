import { digestInstant } from '../pace/index.ts';
import { type Channel, type DigestPace, mayRead, type Person, type Step, stepsFor } from '../people/index.ts';
import { type CompiledRule, isCaught } from '../rules/index.ts';
import type { Content, SharedEntries } from '../messages/index.ts';
import { addDuration, type Instant } from '../time/index.ts';
import { type Change, judgedFields } from '../values/index.ts';
import { compose, contentFor } from './compose.ts';
import { hearings } from './told.ts';
import type { Alert, Effect, Input, LaterStep, Portion, State } from './types.ts';

/**
 * The step: what follows from one input, in the order in which it comes about. Pure; asking twice gives the
 * same effects with the same keys, so that a driver may be stopped anywhere and ask again.
 */
export function decide(state: State, input: Input): Effect[] {
  switch (input.input) {
    case 'change':
      return decideChange(state, input.change);
    case 'digest':
      return decideDigest(state, input.person, input.channel, input.at);
    case 'later':
      return decideLater(state, input.later);
    default:
      return input satisfies never;
  }
}

function decideChange(state: State, change: Change): Effect[] {
  return state.liveRules(change.source, change.at)
    .filter((compiled) => isCaught(compiled, change, state))
    .flatMap((compiled) => tellOf(compiled, [change], change.at, state));
}

/** The alert of a rule that caught these changes of one item, and all that follows for those it reaches. */
function tellOf(compiled: CompiledRule, changes: Change[], at: Instant, state: State): Effect[] {
  const { rule, version } = compiled;
  const [first] = changes as [Change];
  const alert: Alert = {
    id: `${rule.id}/${version}/${first.source}/${first.id}`,
    rule: rule.id, version, at, items: [first.item], changes: changes.map((change) => change.id), suppressed: 0,
  };
  const effects: Effect[] = [{ effect: 'alert', alert }];
  const shared: SharedEntries = new Map();
  for (const { person, reasons, told, reason } of hearings(compiled, changes, state)) {
    if (reason !== null) {
      effects.push({ effect: 'withheld', withheld: { at, alert: alert.id, rule: rule.id, version, item: first.item, changes: alert.changes, person, reason } });
      continue;
    }
    const portion: Portion = { alert: alert.id, rule: rule.id, version, source: first.source, item: first.item, changes: told.map((change) => change.id), reasons };
    const recipient = state.people.get(person) as Person;
    // One content for all of the person's channels: it is the same words that go by each.
    const tell = once(() => contentFor('single', recipient, at, [portion], state, shared));
    for (const [place, step] of stepsFor(recipient, rule).entries()) effects.push(...takeStep(step, place, recipient, rule.pace, portion, at, tell));
  }
  return effects;
}

/** One step of a plan: told now, left for a digest, or judged again later. A rule's digest pace goes before the step's own. */
function takeStep(step: Step, place: number, recipient: Person, rulePace: CompiledRule['rule']['pace'], portion: Portion, at: Instant, tell: () => Content | null): Effect[] {
  const digest = rulePace.kind === 'digest' ? rulePace : step.pace?.kind === 'digest' ? step.pace : null;
  if (step.after !== undefined) {
    // With a digest of the rule's own, waiting is judged from the digest's instant.
    const from = rulePace.kind === 'digest' ? digestInstant(rulePace, at, recipient.zone) : at;
    const later: LaterStep = {
      person: recipient.id, channel: step.channel, due: addDuration(from, step.after, recipient.zone), step: place,
      digest: rulePace.kind === 'digest' ? null : digest, alertAt: at, portions: [portion],
    };
    return [{ effect: 'later', later }];
  }
  return tellOrWait(digest, step.channel, place, recipient, [portion], at, tell);
}

function tellOrWait(digest: DigestPace | null, channel: Channel, place: number, recipient: Person, portions: Portion[], at: Instant, tell: () => Content | null): Effect[] {
  if (digest) {
    const due = digestInstant(digest, at, recipient.zone);
    return portions.map((portion) => ({ effect: 'wait', waiting: { ...portion, person: recipient.id, channel, due } }));
  }
  const key = ['single', recipient.id, channel, place, ...portions.map((portion) => portion.alert)].join('|');
  const content = tell();
  const message = content && compose(content, key, recipient, channel, at, portions);
  return message ? [{ effect: 'message', message }] : [];
}

function once<T>(make: () => T): () => T {
  let made: { value: T } | null = null;
  return () => {
    made ??= { value: make() };
    return made.value;
  };
}

function decideLater(state: State, later: LaterStep): Effect[] {
  const recipient = state.people.get(later.person);
  if (!recipient) return [];
  const unread = later.portions.filter((portion) => state.isUnread(portion.alert, later.person));
  const { readable, effects } = stillReadable(unread, recipient, later.due, state);
  if (readable.length === 0) return effects;
  const tell = () => contentFor('single', recipient, later.due, readable, state);
  return [...effects, ...tellOrWait(later.digest, later.channel, later.step, recipient, readable, later.due, tell)];
}

function decideDigest(state: State, person: string, channel: Channel, at: Instant): Effect[] {
  const recipient = state.people.get(person);
  if (!recipient) return [];
  const { readable, effects } = stillReadable(state.waiting(person, channel, at), recipient, at, state);
  const content = contentFor('digest', recipient, at, readable, state);
  // The first alert is part of the key: what comes late for an instant that has passed is told, not taken for a repeat.
  const key = ['digest', person, channel, at, readable[0]?.alert].join('|');
  const message = content && compose(content, key, recipient, channel, at, readable);
  return message ? [...effects, { effect: 'message', message }] : effects;
}

/** What a person may still read as the message goes out; the rest is withheld. */
function stillReadable<P extends Portion>(portions: readonly P[], recipient: Person, at: Instant, state: State): { readable: P[]; effects: Effect[] } {
  const readable: P[] = [];
  const effects: Effect[] = [];
  for (const portion of portions) {
    const item = state.item(portion.item);
    const last = state.change(portion.source, portion.changes.at(-1) as string);
    const fields = item?.fields ?? (last ? judgedFields(last) : {});
    if (mayRead(recipient.id, { source: portion.source, folder: item?.folder ?? last?.folder ?? null, fields }, state)) readable.push(portion);
    else effects.push({ effect: 'withheld', withheld: { at, alert: portion.alert, rule: portion.rule, version: portion.version, item: portion.item, changes: portion.changes, person: recipient.id, reason: 'noAccess' } });
  }
  return { readable, effects };
}
