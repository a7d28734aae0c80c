import type { Content, Entry } from './content.ts';
import { phrasesFor } from './locales/index.ts';

/** The items that contents speak of: those they are about, and those that these lead to and are named in them. */
export const itemsIn = (contents: readonly Content[]): string[] =>
  contents.flatMap(({ entries }) => entries.flatMap(({ item, linked = [] }) => [item.id, ...linked]));

/**
 * A content as it may be read by whoever may not read, any more, all that it tells of: entries of closed items are left
 * out, and of items that lead to closed ones it says what they are called and no more. Words about the whole, Ojo's and
 * the rule's own, may tell of what is hidden: what is left speaks for itself.
 */
export function readableContent(
  content: Content,
  mayRead: (item: string) => boolean,
): { content: Content; isWhole: boolean } {
  const left = content.entries.flatMap((entry) => (mayRead(entry.item.id) ? [withoutClosed(entry, mayRead)] : []));
  const isWhole = left.length === content.entries.length && left.every((entry, at) => entry === content.entries[at]);
  if (isWhole) return { content, isWhole };
  const { own: _, sender: _sender, ...bare } = content;
  return { content: { ...bare, headline: headlineOf(left, content.language), lead: '', entries: left }, isWhole };
}

/** A content as pages get it: what it is judged by stays behind. */
export const forPages = (content: Content): Content => ({
  ...content,
  entries: content.entries.map(({ linked: _, ...entry }) => entry),
});

function withoutClosed(entry: Entry, mayRead: (item: string) => boolean): Entry {
  if (!entry.linked?.some((id) => !mayRead(id))) return entry;
  const { now: _, linked: _linked, ...bare } = entry;
  const steps = entry.steps.map((step) => ({ ...step, fields: [] }));
  return { ...bare, headline: entry.item.title, fields: [], steps, show: [], why: [] };
}

function headlineOf([first, ...others]: readonly Entry[], language: string | undefined): string {
  const phrases = phrasesFor(language);
  if (!first) return phrases.say('headline.hidden');
  return others.length === 0
    ? first.headline
    : phrases.say('headline.andMore', { headline: first.headline, more: others.length });
}
