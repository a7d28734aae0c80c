import { type Content, type Form, makeContent, makeReport, seesOf, type Telling } from '../../messages/index.ts';
import {
  addressOf,
  type Channel,
  contactAt,
  emailFor,
  type Recipient,
  strangerAt,
  type Urgency,
} from '../../people/index.ts';
import { keyOf } from './rows.ts';
import { changesOf, type State } from './state.ts';
import { type Message, NO_ITEM, type Portion } from './types.ts';
import type { StepContext } from './context.ts';

interface Composing {
  to: Recipient;
  channel: Channel;
  form: Form;
  key: string;
  portions: readonly Portion[];
}

/** A recipient as a reader: in which zone and locale they read. */
interface Reading {
  id: string;
  name: string;
  zone: string;
  locale: string;
  emailFormat?: 'html' | 'text';
  /** Of an outsider: whose reading theirs is. */
  readsAs?: string;
}

/** The message that carries these portions to a recipient by one channel; `null` where the channel does not reach them or nothing is left to say. */
export function word(context: StepContext, { to, channel, form, key, portions }: Composing): Message | null {
  const address = addressFor(to, channel, portions, context.state);
  if (address === null) return null;
  // One content for all of a recipient's channels: it is the same words that go by each.
  const same = keyOf(form, to.kind, to.id, ...told(form, portions));
  let content = context.contents.get(same);
  if (content === undefined) {
    const reader = readerOf(to, portions, context.state);
    content =
      form === 'report'
        ? reportOf(portions, context, reader)
        : contentOf(form, tellingsOf(portions, context.state), context, reader);
    context.contents.set(same, content);
  }
  if (!content) return null;
  return {
    key,
    to: to.id,
    toKind: to.kind,
    channel,
    address,
    at: context.at,
    form,
    urgency: urgencyOf(portions, context.state),
    alerts: alertsOf(portions),
    subject: content.own?.subject ?? content.headline,
    content,
  };
}

/** A report's content: its table in place of entries. */
function reportOf(portions: readonly Portion[], { state, at }: StepContext, reader: Reading): Content | null {
  const [first] = portions;
  const rule = first && state.version(first.rule, first.version)?.rule;
  if (!rule) return null;
  const listed = portions.filter(({ item }) => item !== NO_ITEM);
  if (!(state.isWorded?.(reader.id) ?? true)) return { form: 'report', headline: '', when: '', lead: '', entries: [] };
  return makeReport(rule, listed, at, reader, state, seesOf(reader, state));
}

/** What tells one content of a recipient from another; a report of an alert is one, however many items it has. */
const told = (form: Form, portions: readonly Portion[]): string[] =>
  form === 'report'
    ? portions.slice(0, 1).flatMap(({ alert, item }) => [alert, item, String(portions.length)])
    : portions.flatMap((portion) => [portion.alert, portion.item, ...portion.changes]);

function contentOf(
  form: Form,
  tellings: Telling[][],
  { state, at, shared }: StepContext,
  reader: Reading,
): Content | null {
  if (state.isWorded?.(reader.id) ?? true) return makeContent(form, tellings, at, reader, state, shared);
  return tellings.length === 0 ? null : { form, headline: '', when: '', lead: '', entries: [] };
}

/** Where a recipient is reached by a channel; `null` where they are not. */
function addressFor(to: Recipient, channel: Channel, portions: readonly Portion[], state: State): string | null {
  switch (to.kind) {
    case 'person': {
      const person = state.people.get(to.id);
      if (!person) return null;
      return channel === 'email' ? emailFor(person, portions) : addressOf(person, channel);
    }
    case 'contact':
      return (contactAt(to.id, state) ?? strangerAt(to.id)).email?.trim() || null;
    case 'webhook':
      return to.id;
    default:
      return to.kind satisfies never;
  }
}

function readerOf(to: Recipient, portions: readonly Portion[], state: State): Reading {
  const person = to.kind === 'person' ? state.people.get(to.id) : undefined;
  if (person) {
    const { id, name, zone, locale, plan } = person;
    return { id, name, zone, locale, emailFormat: plan?.emailFormat ?? 'html' };
  }
  const contact = to.kind === 'contact' ? (contactAt(to.id, state) ?? strangerAt(to.id)) : { id: to.id, name: to.id };
  return { ...outside(portions, state), id: contact.id, name: contact.name };
}

/** Whoever has no plan reads in the rule's zone, in its owner's language. */
function outside(portions: readonly Portion[], state: State): { zone: string; locale: string; readsAs: string } {
  const first = portions[0] as Portion;
  const rule = state.version(first.rule, first.version)?.rule;
  return {
    zone: rule?.zone ?? 'UTC',
    locale: (rule && state.people.get(rule.owner)?.locale) ?? 'en-GB',
    readsAs: rule?.owner ?? '',
  };
}

/** Portions of one item stand together, whatever rules caught it; in the order in which they arose. */
function tellingsOf(portions: readonly Portion[], state: State): Telling[][] {
  const groups = new Map<string, Telling[]>();
  for (const portion of portions) {
    const rule = state.version(portion.rule, portion.version)?.rule;
    if (!rule) continue;
    const group = groups.get(portion.item);
    const telling: Telling = {
      alert: portion.alert,
      rule,
      source: portion.source,
      item: portion.item,
      occasion: portion.occasion,
      at: portion.at,
      changes: changesOf(state, portion),
      reasons: portion.reasons,
      ...(portion.tally ? { tally: portion.tally } : {}),
    };
    if (group) group.push(telling);
    else groups.set(portion.item, [telling]);
  }
  return [...groups.values()];
}

function alertsOf(portions: readonly Portion[]): Message['alerts'] {
  const alerts = new Map<string, { rule: string; items: Set<string> }>();
  for (const { alert, rule, item, mark } of portions) {
    let known = alerts.get(alert);
    if (!known) {
      known = { rule, items: new Set() };
      alerts.set(alert, known);
    }
    // What is gone from a report is no item of its alert, and one with nothing in it has none.
    if (item !== NO_ITEM && mark !== 'gone') known.items.add(item);
  }
  return [...alerts].map(([alert, { rule, items }]) => ({ alert, rule, items: [...items] }));
}

const RANK: Record<Urgency, number> = { routine: 0, important: 1, critical: 2 };

/** The most urgent of the rules behind these portions. */
export const urgencyOf = (portions: readonly Portion[], state: Pick<State, 'version'>): Urgency =>
  portions.reduce<Urgency>((most, { rule, version }) => {
    const urgency = state.version(rule, version)?.rule.urgency ?? 'routine';
    return RANK[urgency] > RANK[most] ? urgency : most;
  }, 'routine');
