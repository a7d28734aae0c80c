import { mayRead, type World } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import type { Instant } from '../time/index.ts';
import { fieldOf, formatInstant, formatValue, isMoney, type Reader, type Source } from '../values/index.ts';
import type { Content, Entry, Form, AddressedReader, Telling } from './content.ts';
import { makeEntry, phrasingOf, type Sees, type SharedEntries } from './entry.ts';
import { gatheredContent, headlineOfSeveral } from './gathered.ts';
import { type Phrases, phrasesFor } from './locales/index.ts';
import type { Wordings } from './house.ts';
import { ownWords } from './wording.ts';

/**
 * A message's content in one form, from what it tells item by item; `null` where there is nothing to tell.
 * @param byItem the tellings of each item together, in the order in which they arose
 */
export function makeContent(
  form: Form,
  byItem: readonly (readonly Telling[])[],
  at: Instant,
  reader: AddressedReader,
  world: World & Wordings,
  shared?: SharedEntries,
): Content | null {
  if (byItem.length === 0) return null;
  const sees = seesOf(reader, world);
  const isLater = form === 'digest' || form === 'summary';
  const entries = byItem.map((tellings) => makeEntry(tellings, reader, world, shared, sees, isLater));
  const tellings = byItem.flat();
  const [entry] = entries;
  const own = entry && isOfOneAlert(tellings) ? ownWords(form, byItem, entry.item.title, reader, world, sees) : null;
  const isShared =
    entry !== undefined && entries.length === 1 && own === null && tellings.every(({ tally }) => tally === undefined);
  const manner = `${form} ${reader.emailFormat ?? ''}`;
  const known = isShared ? alike.get(entry)?.get(manner) : undefined;
  if (known) return known;
  const sender = senderOf(
    tellings.map(({ rule }) => rule),
    world,
  );
  const content: Content = {
    ...bare(form, entries, at, reader, world, tallyWords(tellings, reader, world)),
    ...(own ? { own: { subject: own.subject, body: own.body } } : {}),
    ...(own?.hasFailed ? { ownFailed: true as const } : {}),
    ...(sender ? { sender } : {}),
    ...(reader.emailFormat === 'text' ? { isPlain: true } : {}),
  };
  if (isShared) alike.set(entry, (alike.get(entry) ?? new Map()).set(manner, content));
  return content;
}

/** Contents by their only entry: readers who are given the very same one, without words of the rule's own, are told the same. */
const alike = new WeakMap<Entry, Map<string, Content>>();

/** What a reader may know by name: what they may read, or of outsiders whoever answers for what they are told. */
export const seesOf =
  (reader: AddressedReader, world: World): Sees =>
  (item) =>
    mayRead(reader.readsAs ?? reader.id, item, world);

const isOfOneAlert = (tellings: readonly Telling[]) => tellings.every(({ alert }) => alert === tellings[0]?.alert);

function bare(
  form: Form,
  entries: Entry[],
  at: Instant,
  reader: Reader,
  world: World,
  tallied: string | null,
): Content {
  const when = formatInstant(at, reader);
  const phrases = phrasesFor(reader.locale);
  const known = { form, language: phrases.language, when, entries };
  switch (form) {
    case 'single':
      return { ...known, headline: tallied ?? ofAll(entries, phrases, world), lead: '' };
    case 'reminder':
    case 'escalation':
    case 'again':
      return {
        ...known,
        headline: phrases.say(`headline.${form}`, { headline: tallied ?? ofAll(entries, phrases, world) }),
        lead: phrases.say(`lead.${form}`),
      };
    case 'allClear':
      return {
        ...known,
        headline: phrases.say('headline.allClear', { titles: entries.map((entry) => entry.item.title).join(', ') }),
        lead: phrases.say('lead.allClear'),
      };
    case 'digest':
    case 'summary':
      return gatheredContent(form, entries, when, phrases, world);
    case 'report':
      throw new RangeError('a report is made of its rows');
    default:
      return form satisfies never;
  }
}

/** *More than 2 on view: 3 now, 2 before*: a tally that passed its mark, of the part that did; `null` where the message is of anything else. */
function tallyWords(tellings: readonly Telling[], reader: Reader, world: World): string | null {
  const [first] = tellings;
  if (!first?.tally || !isOfOneAlert(tellings)) return null;
  const { rule, source: id, tally } = first;
  const phrases = phrasesFor(reader.locale);
  const source = world.sources.get(id);
  const field = source && rule.tally?.per ? fieldOf(source, rule.tally.per) : undefined;
  const summed = source && rule.tally && rule.tally.of !== 'items' ? fieldOf(source, rule.tally.of.sum) : undefined;
  const value = rule.tally?.becomes.value;
  const figure = (sum: string) =>
    formatValue(
      summed ?? { id: '', name: '', type: 'number' },
      isMoney(value) ? { amount: sum, currency: value.currency } : sum,
      reader,
      names,
    );
  const { names } = phrasingOf(source as Source, reader, world);
  const part = field ? formatValue(field, tally.part === '' ? null : tally.part, reader, names) : '';
  return phrases.say(field ? 'headline.tallyOf' : 'headline.tally', {
    rule: rule.name,
    part: part || phrases.say('value.empty'),
    before: figure(tally.before),
    after: figure(tally.after),
  });
}

/** One alert in a line. */
function ofAll(entries: readonly Entry[], phrases: Phrases, world: World): string {
  const [first] = entries;
  const items = entries.length;
  if (items === 1 && first) return first.headline;
  return entries.every((entry) => entry.kind === null)
    ? phrases.say('headline.notes', { items, note: first?.notes[0] ?? '' })
    : headlineOfSeveral(entries, phrases, world);
}

/** Whose name stands on it: that of one person or of the house, where all of its rules ask for the same. */
export function senderOf(rules: readonly Rule[], world: World & Wordings): Content['sender'] | null {
  const [first] = rules;
  if (!first) return null;
  const one = <T>(of: (rule: Rule) => T): T | null => {
    const all = new Set(rules.map((rule) => JSON.stringify(of(rule))));
    return all.size === 1 ? of(first) : null;
  };
  const replyTo = one((rule) => rule.message.replyTo);
  const owner = one((rule) => (rule.message.from === 'owner' ? rule.owner : null));
  const person = owner === null ? undefined : world.people.get(owner);
  if (person) return { name: person.name, replyTo: replyTo ?? person.email ?? null };
  const from = one((rule) => rule.message.from);
  const sender = from !== null && typeof from === 'object' ? world.sender?.(from.sender) : undefined;
  if (sender) return { name: sender.name, address: sender.address, replyTo: replyTo ?? sender.address };
  return replyTo === null ? null : { name: null, replyTo };
}
