import type { Content, Entry } from './content.ts';
import { itemPath, lessPath, rulePath, shortPath } from './paths.ts';

/** Where Ojo stands, for links. `base` has no slash at its end. */
export interface Site {
  base: string;
  name: string;
}

/** A house's letterhead and sign-off, each with signs for what stands out; `null` where there is none. */
export interface Paper {
  letterhead: string | null;
  signOff: string | null;
}

/** Where the links of one message lead, once it has an id and a reader. */
export interface MessageLinks extends Site {
  /** The whole message; for a reader without an account a page that opens by itself, and `null` on that page. */
  whole: string | null;
  /** The message under an address that is short enough for a text; `null` where it has none. */
  short: string | null;
  /** Takes on what it tells of, once its page is confirmed; `null` where the way is the inbox. */
  acknowledge: string | null;
  /** Where its reader asks to be told of it again, later; `null` where that is done in Ojo. */
  again: string | null;
  /** What a text message is answered with to take it on. */
  code: string | null;
  /** For a reader without an account: how to get no more by this rule, and no more at all. */
  leave: { rule: string; all: string } | null;
  /** What the house puts above and below every email, with its signs for what stands out. */
  paper?: Paper;
  /** A rule's own words stand alone, without why and where below them: in a replay, which tells what was said. */
  isBare?: boolean;
}

/** The links for somebody with an account, with nothing signed in it. */
export const plainLinks = (site: Site, id?: string, code: string | null = null, paper?: Paper): MessageLinks => ({
  ...site,
  ...(paper ? { paper } : {}),
  whole: id === undefined ? `${site.base}/inbox` : `${site.base}/inbox/${encodeURIComponent(id)}`,
  short: id === undefined ? null : `${site.base}${shortPath(id)}`,
  acknowledge: null,
  again: null,
  code,
  leave: null,
});

/** Whether something in it waits for somebody to take it on. */
export const asksFor = ({ form, entries }: Content): boolean =>
  form !== 'allClear' && form !== 'passed' && entries.some((entry) => entry.asks);

/** Whether this reader may take it on: somebody without an account may not. */
export const isAsked = (content: Content, links: MessageLinks): boolean => links.leave === null && asksFor(content);

/** The address that takes on what a message tells of; the whole message where nothing is signed. */
export const acknowledgeLink = (links: MessageLinks): string => links.acknowledge ?? wholeLink(links);
/** The address of the whole message; the inbox where it has none of its own. */
export const wholeLink = (links: MessageLinks): string => links.whole ?? `${links.base}/inbox`;
/** The address of an entry's item; for a reader without an account the page of the message, `null` on that page. */
export const itemLink = (entry: Entry, links: MessageLinks): string | null =>
  links.leave ? links.whole : links.base + itemPath(entry.item.id);
/** The address of a rule; `null` for a reader without an account. */
export const ruleLink = (rule: string, links: MessageLinks): string | null =>
  links.leave ? null : links.base + rulePath(rule);
/** The address at which a reader asks for less of what an entry tells by a rule; an outsider leaves the rule there. */
export const lessLink = (rule: string, entry: Entry, links: MessageLinks): string =>
  links.leave?.rule ?? links.base + lessPath(rule, entry.item.id);

/** How much of a long digest an email shows: the first so many items, and of each its last so many steps. */
const MOST_ENTRIES = 20;
/** How many steps of one item a message tells; of more it tells the last, and how many there were. */
export const MOST_STEPS = 6;

/** The items that an email shows; the page of the whole message shows them all. */
export const shownOf = ({ entries }: Content, { whole }: MessageLinks): Entry[] =>
  whole === null ? entries : entries.slice(0, MOST_ENTRIES);
