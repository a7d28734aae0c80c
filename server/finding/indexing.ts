import type { Pool } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import { isTextType, type Source } from '../../core/values/index.ts';
import { piecesOf } from '../contents/index.ts';
import { type Directory, inTransaction, rows, run, store, type StoredItem } from '../store/index.ts';
import { type Held, plainTexts } from '../tables/index.ts';

/** Says what each of some documents holds; refuses where one of them cannot be read within bounds. */
type ReadTexts = (documents: readonly Held[]) => Promise<string[]>;

/** So many items are read in one turn. */
const AT_ONCE = 60;
/** What is larger is found by its name alone, in bytes; so much of a text is kept, in signs. */
const LARGEST = 8 * 1024 * 1024;
const MOST_SIGNS = 200_000;

/**
 * Keeps what items say, so that they are found by their words: of those that have changed since, some at a time. What
 * cannot be read as text is found by its name and fields.
 * @param read says what documents hold
 * @returns whether there may be more
 */
export async function indexItems(
  pool: Pool,
  { sources }: Pick<Directory, 'sources'>,
  read: ReadTexts = plainTexts,
): Promise<boolean> {
  const ids = await rows(pool, store.texts.stale(AT_ONCE));
  if (ids.length === 0) return false;
  const items = await rows(pool, store.items.byIds(ids));
  const documents = await textsOfDocuments(pool, items, sources, read);
  const texts = items.map((item) => ({
    item: item.id,
    version: item.version,
    body: [wordsOf(item, sources.get(item.source)), documents.get(item.id) ?? '']
      .join('\n')
      .slice(0, MOST_SIGNS)
      .toWellFormed(),
  }));
  // Another server may be at the same ones: whoever is put off tries again.
  await inTransaction(pool, (on) => run(on, store.texts.save(texts)));
  return ids.length === AT_ONCE;
}

/** An item's title, and the texts in its fields. */
function wordsOf({ title, fields }: StoredItem, source: Source | undefined): string {
  const texts = (source?.fields ?? [])
    .filter((field) => isTextType(field.type) || field.type === 'choice')
    .map((field) => fields[field.id])
    .filter((value) => typeof value === 'string');
  return [title, ...texts].join('\n');
}

async function textsOfDocuments(
  pool: Pool,
  items: readonly StoredItem[],
  sources: Directory['sources'],
  read: ReadTexts,
): Promise<Map<string, string>> {
  const documents = items.filter((item) => sources.get(item.source)?.kind === 'folders').map(({ id }) => id);
  if (documents.length === 0) return new Map();
  const contents = await rows(pool, store.texts.contentsOf(documents, LARGEST));
  const held = await Promise.all(
    contents.map(async ({ content, mediaType }): Promise<Held> => {
      const pieces: Buffer[] = [];
      for await (const piece of piecesOf(pool, content)) pieces.push(piece);
      return { bytes: Buffer.concat(pieces), mediaType: mediaType ?? '' };
    }),
  );
  const texts = await textsOfEach(held, read);
  return new Map(contents.map(({ item }, at) => [item, texts[at] ?? '']));
}

/** What each document says; where reading them together is ended by one of them, each by itself, and that one says nothing. */
async function textsOfEach(held: readonly Held[], read: ReadTexts): Promise<string[]> {
  try {
    return await read(held);
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
  }
  const texts: string[] = [];
  for (const one of held) {
    const [text = ''] = await read([one]).catch((error: unknown) => {
      if (error instanceof Refusal) return [''];
      throw error;
    });
    texts.push(text);
  }
  return texts;
}
