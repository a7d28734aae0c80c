import type { World } from '../people/index.ts';
import { fieldOf } from '../values/index.ts';
import type { Content, Entry } from './content.ts';
import { RANK } from './entry.ts';
import type { Phrases } from './locales/index.ts';

/** All that gathered for one reader: the urgent first, then source by source in the order in which they arose. */
export function gatheredContent(
  form: 'digest' | 'summary',
  entries: readonly Entry[],
  when: string,
  phrases: Phrases,
  world: Pick<World, 'sources'>,
): Content {
  const sources = [...new Set(entries.map((entry) => entry.item.source))];
  const sorted = [...entries].sort(
    (a, b) => RANK[b.urgency] - RANK[a.urgency] || sources.indexOf(a.item.source) - sources.indexOf(b.item.source),
  );
  const headline = headlineOfSeveral(sorted, phrases, world);
  return {
    form,
    language: phrases.language,
    headline: form === 'summary' ? phrases.say('headline.summary', { headline }) : headline,
    when,
    lead: leadOf(sorted, phrases),
    entries: sorted,
  };
}

/** Sources that a headline speaks of; of the others it says how many items they have. */
const MOST_SOURCES = 2;
/** Sorts of things that a headline tells apart within a source. */
const MOST_SORTS = 3;

/** What matters, in a line: *Loan agreements: 3 now On view, 1 back where it was; Crate 14 was moved to Dock 2*. */
export function headlineOfSeveral(entries: readonly Entry[], phrases: Phrases, world: Pick<World, 'sources'>): string {
  const bySource = grouped(entries, (entry) => entry.item.source);
  const parts = [...bySource.values()].slice(0, MOST_SOURCES).map((own) => sourceWords(own, phrases, world));
  const told = [...bySource.values()].slice(0, MOST_SOURCES).reduce((sum, own) => sum + own.length, 0);
  const others = entries.length - told;
  return [parts.join('; '), ...(others > 0 ? [phrases.say('gathered.others', { items: others })] : [])].join(', ');
}

function sourceWords(entries: readonly Entry[], phrases: Phrases, world: Pick<World, 'sources'>): string {
  const [first] = entries as [Entry];
  if (entries.length === 1) return first.headline;
  // What says least comes last; of the others the commonest first.
  const weight = (own: readonly Entry[]) => {
    const sort = sortOf(own[0] as Entry, world);
    if (sort === 'changed') return 0;
    return sort.startsWith('in|') ? own.length / entries.length : own.length;
  };
  const sorts = [...grouped(entries, (entry) => sortOf(entry, world)).values()].sort((a, b) => weight(b) - weight(a));
  const said = sorts.slice(0, MOST_SORTS).map((own) => sortWords(own, phrases, world));
  const others = sorts.slice(MOST_SORTS).reduce((sum, own) => sum + own.length, 0);
  return phrases.say('gathered.source', {
    source: first.item.sourceName,
    said: [...said, ...(others > 0 ? [phrases.say('gathered.others', { items: others })] : [])].join(', '),
  });
}

/** What became of an item, so that those of which the same is so are counted together. */
function sortOf(entry: Entry, world: Pick<World, 'sources'>): string {
  if (entry.isBack) return 'back';
  if (entry.kind === null) return 'noted';
  if (entry.kind === 'created' || entry.kind === 'deleted' || entry.kind === 'opened') return entry.kind;
  const lead = countedLead(entry, world);
  if (lead) return `now|${lead.id}|${lead.after}`;
  return entry.fields[0] ? `in|${entry.fields[0].id}` : 'changed';
}

/** The field that an entry leads with, if it is one of few values, of which a count says something. */
function countedLead(entry: Entry, world: Pick<World, 'sources'>) {
  const [lead] = entry.fields;
  const source = world.sources.get(entry.item.source);
  const type = lead && source ? fieldOf(source, lead.id)?.type : undefined;
  return lead && lead.after !== '' && (type === 'choice' || type === 'boolean' || type === 'person')
    ? { ...lead, isState: type === 'choice' }
    : null;
}

function sortWords(own: readonly Entry[], phrases: Phrases, world: Pick<World, 'sources'>): string {
  const [first] = own as [Entry];
  const items = own.length;
  if (first.isBack) return phrases.say('gathered.back', { items });
  if (first.kind === null) return phrases.say('gathered.noted', { items });
  if (first.kind === 'created') return phrases.say('gathered.created', { items });
  if (first.kind === 'deleted') return phrases.say('gathered.deleted', { items });
  if (first.kind === 'opened') return phrases.say('gathered.opened', { items });
  const lead = countedLead(first, world);
  if (!lead)
    return first.fields[0]
      ? phrases.say('gathered.changedIn', { items, field: first.fields[0].label })
      : phrases.say('gathered.changed', { items });
  return lead.isState
    ? phrases.say('gathered.now', { items, value: lead.after })
    : phrases.say('gathered.nowIn', { items, field: lead.label, value: lead.after });
}

/** How much there is, what waits for its reader, and what came back to where it was. */
function leadOf(entries: readonly Entry[], phrases: Phrases): string {
  const told = entries.flatMap((entry) => entry.steps);
  const countOf = (steps: typeof told) => new Set(steps.map((step) => step.change)).size;
  // Whoever opened a document has changed nothing.
  const looks = countOf(told.filter((step) => step.kind === 'opened'));
  const changes = countOf(told.filter((step) => step.kind !== 'opened'));
  const noted = entries.filter((entry) => entry.kind === null).length;
  const waiting = entries.filter((entry) => entry.asks).map((entry) => entry.item.title);
  const back = entries.filter((entry) => entry.isBack).map((entry) => entry.item.title);
  const items = entries.length;
  const counted =
    changes + looks === 0
      ? phrases.say('gathered.toLookAt', { items })
      : phrases.say(`gathered.${countedBy(changes, looks)}`, { changes, looks, items });
  return [
    phrases.say('gathered.lead.counted', { counted }),
    ...(waiting.length > 0
      ? [phrases.say('gathered.lead.waits', { titles: someOf(waiting, phrases), items: waiting.length })]
      : []),
    ...(back.length > 0 && items > 1
      ? [phrases.say('gathered.lead.back', { titles: someOf(back, phrases), items: back.length })]
      : []),
    ...(noted > 0 && changes + looks > 0 ? [phrases.say('gathered.lead.noted', { items: noted })] : []),
  ].join(' ');
}

function countedBy(changes: number, looks: number): 'counted' | 'looks' | 'countedLooks' {
  if (looks === 0) return 'counted';
  return changes === 0 ? 'looks' : 'countedLooks';
}

/** A few titles, and how many more there are. */
const someOf = (titles: readonly string[], phrases: Phrases): string =>
  titles.length <= 3
    ? phrases.and(titles)
    : `${titles.slice(0, 3).join(', ')} ${phrases.say('gathered.others', { items: titles.length - 3 })}`;

function grouped<T>(all: readonly T[], keyOf: (one: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const known = groups.get(keyOf(one));
    if (known) known.push(one);
    else groups.set(keyOf(one), [one]);
  }
  return groups;
}
