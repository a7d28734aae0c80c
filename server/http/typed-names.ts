import { isLinkType, type Source } from '../../core/values/index.ts';
import type { Known } from '../../core/sentence/index.ts';
import { type Caller, readableAmong, visibleSources } from '../access/index.ts';
import { readableItems, rows, store, type StoredItem } from '../store/index.ts';
import type { Context } from './context.ts';

/** So many words an item's name has at most, to be found in a sentence; so many are looked for in one. */
const LONGEST_NAME = 8;
const MOST_NAMES = 6_000;
/** So many items are offered for a name that is begun, and found for the names in a sentence. */
const MOST_BEGUN = 8;
const MOST_FOUND = 300;

/** What a sentence names, as far as the database has to be asked: its text up to the cursor, and ids that stand in a rule. */
interface Asked {
  text?: string;
  cursor?: number | null;
  ids?: readonly string[];
}

/** All that somebody may name in a typed rule: what they may see, and the items that the text may be naming. */
export async function namesKnownTo({ pool }: Context, { me, directory }: Caller, asked: Asked): Promise<Known> {
  const sources = new Map(visibleSources(me.id, directory).map((source): [string, Source] => [source.id, source]));
  const items = await itemsNamed(pool, { me, directory }, [...sources.values()], asked);
  const isMember = me.role === 'member';
  return {
    sources,
    people: [...directory.people.values()].filter(({ active }) => active),
    groups: [...directory.groups.values()],
    // Addresses outside are for those who make rules for others.
    contacts: isMember ? [] : [...directory.contacts.values()],
    webhooks: isMember ? [] : [...directory.webhooks.keys()].map((id) => ({ id, name: id })),
    folders: [...directory.folders.values()].filter(({ source }) => sources.has(source)),
    senders: [...directory.house.senders],
    wordings: [...directory.wordings.values()],
    items: [...new Map(items.map((item) => [item.id, item])).values()].map(({ id, title, source }) => ({
      id,
      name: title,
      source,
    })),
  };
}

async function itemsNamed(
  pool: Context['pool'],
  caller: Caller,
  sources: readonly Source[],
  { text = '', cursor = null, ids = [] }: Asked,
): Promise<StoredItem[]> {
  const { me, directory } = caller;
  const known = [...(await readableAmong(pool, ids, me.id, directory)).values()];
  const links = new Set(
    sources.flatMap(({ fields }) => fields.flatMap(({ type, to }) => (isLinkType(type) ? (to ?? []) : []))),
  );
  // Items are named where a link leads to them, or where a rule is about some of them by name.
  const where = sources.map(({ id }) => id).filter((id) => links.has(id) || NAMING.test(text));
  if (where.length === 0 || text === '') return known;
  const may = readableItems(me.id, directory);
  const titles = namesIn(text);
  const called = titles.length === 0 ? [] : await rows(pool, store.items.calledSo(where, titles, may, MOST_FOUND));
  const begun = cursor === null ? [] : await beginningAt(pool, where, text.slice(0, cursor), may);
  return [...known, ...called.filter(({ title }) => !COMMON.test(title)), ...begun];
}

/** What says that items follow by their names, in each language. */
const NAMING = /\b(namely|a saber)\b/i;
/** One word in small letters is a word of the sentence, whatever an item is called. */
const COMMON = /^\p{Ll}+$/u;

async function beginningAt(
  pool: Context['pool'],
  where: string[],
  before: string,
  may: ReturnType<typeof readableItems>,
): Promise<StoredItem[]> {
  const words = before.split(/\s+/).slice(-LONGEST_NAME);
  const beginnings = [1, 2, 3, 4].flatMap((count) => {
    const begun = words.slice(-count).join(' ').trim();
    return count <= words.length && begun.length > 1 ? [begun] : [];
  });
  const found = await Promise.all(
    [...new Set(beginnings)].map((begun) => rows(pool, store.items.begunSo(where, begun, may, MOST_BEGUN))),
  );
  return found.flat();
}

const QUOTED = /[“"«]([^”"»]{1,400})[”"»]/gu;

/** Every row of words that may be an item's name, and whatever is quoted. */
function namesIn(text: string): string[] {
  const quoted = [...text.matchAll(QUOTED)].map(([, said = '']) => said);
  const words = text
    .replace(QUOTED, ' ')
    .split(/\s+/u)
    .filter((word) => word !== '');
  const rows = words.flatMap((_, at) =>
    Array.from({ length: Math.min(LONGEST_NAME, words.length - at) }, (_unused, more) => {
      const row = words
        .slice(at, at + more + 1)
        .join(' ')
        .replace(/[,;:]+$/, '');
      // A bracket may be the name's own, or the sentence's.
      return [row, row.replace(/^\(+/, '').replace(/[);,:]+$/, '')];
    }).flat(),
  );
  return [...new Set([...quoted, ...rows])].filter((name) => name.length > 1).slice(0, MOST_NAMES);
}
