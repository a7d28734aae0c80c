import type { World } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import type { Instant } from '../time/index.ts';
import { formatInstant, type Reader } from '../values/index.ts';
import type { Content, Entry, Form, Recipient, Telling } from './content.ts';
import { makeEntry, RANK, type SharedEntries } from './entry.ts';
import { ownWords, type Wordings } from './wording.ts';

/**
 * A message's content in one form, from what it tells item by item; `null` where there is nothing to tell.
 * @param byItem the tellings of each item together, in the order in which they arose
 */
export function makeContent(form: Form, byItem: readonly (readonly Telling[])[], at: Instant, reader: Recipient, world: World & Wordings, shared?: SharedEntries): Content | null {
  if (byItem.length === 0) return null;
  const entries = byItem.map((tellings) => makeEntry(tellings, reader, world, shared));
  const tellings = byItem.flat();
  const own = isOfOneAlert(tellings) ? ownWords(form, byItem, entries, reader, world) : null;
  const sender = senderOf(tellings.map(({ rule }) => rule), world);
  return {
    ...bare(form, entries, at, reader),
    ...(own ? { own } : {}), ...(sender ? { sender } : {}), ...(reader.emailFormat === 'text' ? { isPlain: true } : {}),
  };
}

const isOfOneAlert = (tellings: readonly Telling[]) => tellings.every(({ alert }) => alert === tellings[0]?.alert);

function bare(form: Form, entries: Entry[], at: Instant, reader: Reader): Content {
  const when = formatInstant(at, reader);
  switch (form) {
    case 'single':
      return { form, headline: ofAll(entries), when, lead: '', entries };
    case 'reminder':
      return { form, headline: `Waits for you: ${ofAll(entries)}`, when, lead: 'Nobody is done with it yet. Acknowledge it, and it stops.', entries };
    case 'escalation':
      return { form, headline: `Nobody has taken it on: ${ofAll(entries)}`, when, lead: 'Those told first have not acknowledged it in time, so it comes to you.', entries };
    case 'allClear':
      return { form, headline: `All clear: ${entries.map((entry) => entry.item.title).join(', ')}`, when, lead: 'What you were told of is over. There is nothing left to do.', entries };
    case 'digest':
    case 'summary':
      return gathered(form, entries, when);
    default:
      return form satisfies never;
  }
}

/** One alert in a line. */
function ofAll(entries: readonly Entry[]): string {
  const [first] = entries;
  if (entries.length === 1 && first) return first.headline;
  return entries.every((entry) => entry.kind === null) ? `${entries.length} items: ${first?.notes[0] ?? ''}` : `${entries.length} items changed`;
}

/** All that gathered for one reader: the urgent first, then in the order in which they arose. */
function gathered(form: 'digest' | 'summary', entries: Entry[], when: string): Content {
  const sorted = [...entries].sort((a, b) => RANK[b.urgency] - RANK[a.urgency]);
  const changes = new Set(entries.flatMap((entry) => entry.steps.map((step) => step.change))).size;
  const noted = entries.filter((entry) => entry.kind === null).length;
  const back = entries.filter((entry) => entry.isBack).map((entry) => entry.item.title);
  const items = `${entries.length} item${entries.length === 1 ? '' : 's'}`;
  const counted = changes === 0 ? `${items} to look at` : `${changes} change${changes === 1 ? '' : 's'} on ${items}`;
  const headline = form === 'summary' ? `While it was quiet: ${counted}` : counted;
  const leads = [
    back.length === 0 ? '' : `${back.join(', ')} ${back.length === 1 ? 'is' : 'are'} back where ${back.length === 1 ? 'it was' : 'they were'}.`,
    noted === 0 || changes === 0 ? '' : `${noted} of them ${noted === 1 ? 'is' : 'are'} here because of a date or a standstill.`,
  ].filter((sentence) => sentence !== '');
  return { form, headline, when, lead: leads.join(' '), entries: sorted };
}

/** Whose name stands on it: the owner's where all of its rules ask for that of one person. */
function senderOf(rules: readonly Rule[], world: World): Content['sender'] | null {
  const [first] = rules;
  if (!first) return null;
  const one = (of: (rule: Rule) => string | null) => (rules.every((rule) => of(rule) === of(first)) ? of(first) : null);
  const owner = one((rule) => (rule.message.from === 'owner' ? rule.owner : null));
  const person = owner === null ? undefined : world.people.get(owner);
  const replyTo = one((rule) => rule.message.replyTo) ?? person?.email ?? null;
  return person || replyTo ? { name: person?.name ?? null, replyTo } : null;
}
