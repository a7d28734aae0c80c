import type { PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import { NATURE } from '../../core/documents/index.ts';
import { mayRead } from '../../core/people/index.ts';
import { fieldOf, type Fields, type Source } from '../../core/values/index.ts';
import { type Caller, expectAdd, expectChange, placeIn } from '../access/index.ts';
import { cleanName } from '../contents/index.ts';
import { type Done, passDoor } from '../intake/index.ts';
import {
  type Content,
  inTransaction,
  newId,
  one,
  rows,
  shortKey,
  store,
  type StoredItem,
  worldOf,
} from '../store/index.ts';
import type { ActContext } from './context.ts';
import { expectFree } from './item-acts.ts';
import { isWatchedOtherwise, type NewContents, rowsOfVersion, takeRows, type VersionRows } from './sheets.ts';

type DocumentContext = Pick<ActContext, 'pool' | 'clock'>;
/** Contents that were handed in, and what they shall be called. */
interface Given {
  upload: string;
  name: string;
}

/** Makes documents of contents that were handed in: all of them or none, of several as one batch. */
export async function addDocuments(
  { pool, clock }: DocumentContext,
  source: Source,
  { folder, files }: { folder: string; files: readonly Given[] },
  asking: Caller,
  editKey: string | null,
): Promise<Done[]> {
  expectPlace(source, folder, asking);
  const at = clock.now();
  const key = editKey ?? newId(at);
  const batch = files.length > 1 ? shortKey(`batch/${key}`) : null;
  return inTransaction(pool, async (on) => {
    const idAt = (place: number) => shortKey(`item/${key}/${place}`);
    const contents = await contentsOf(
      on,
      files.map(({ upload }, place) => ({ upload, item: idAt(place) })),
      source,
      asking,
    );
    const done: Done[] = [];
    for (const [place, { name }] of files.entries()) {
      const content = contents[place] as Content;
      const [item, called] = [idAt(place), cleanName(name)];
      done.push(
        await passDoor(
          on,
          {
            id: shortKey(`${key}/${place}`),
            actor: asking.me.id,
            source,
            item,
            kind: 'created',
            set: byNature(source, { ...firstState(source), [source.titleField]: called, ...sized(content, 1) }),
            folder,
            at,
            ...(batch === null ? {} : { batch }),
            also: (itemVersion) => [
              store.contents.saveVersion(item, {
                itemVersion,
                number: 1,
                name: called,
                madeBy: asking.me.id,
                madeAt: at,
                content: content.id,
              }),
            ],
          },
          editKey !== null,
        ),
      );
    }
    return done;
  });
}

/** Gives a document a new version, and its rows, where they are watched, what it holds. Whoever has it checked out alone may. */
export async function addVersion(
  context: DocumentContext,
  known: StoredItem,
  source: Source,
  given: NewContents,
  asking: Caller,
  editKey: string | null,
): Promise<Done> {
  for (;;) {
    // A table takes its time: it is read before anything is locked, and anew where its rows began to be watched meanwhile.
    const rowsOf = await rowsOfVersion(context.pool, known, given, asking);
    const done = await writeVersion(context, { known, source, given, rowsOf }, asking, editKey);
    if (done) return done;
  }
}

interface Version {
  known: StoredItem;
  source: Source;
  given: NewContents;
  rowsOf: VersionRows | null;
}

/** Writes a version with what it gives to the rows; `null`, and nothing written, where those are watched otherwise by now. */
async function writeVersion(
  { pool, clock }: DocumentContext,
  { known, source, given, rowsOf }: Version,
  asking: Caller,
  editKey: string | null,
): Promise<Done | null> {
  const at = clock.now();
  return inTransaction(pool, async (on) => {
    const item = await one(on, store.items.byId(known.id, true));
    if (!item || item.isDeleted) throw new Refusal('gone');
    expectChange(item, asking);
    expectFree(item, asking);
    const [newest] = await rows(on, store.contents.versionsOf(item.id));
    const content = await contentsFor(on, item, source, given, asking);
    if (await isWatchedOtherwise(on, item.id, rowsOf)) return null;
    const number = (newest?.number ?? 0) + 1;
    const done = await passDoor(
      on,
      {
        ...(editKey ? { id: shortKey(editKey) } : {}),
        actor: asking.me.id,
        source,
        item: item.id,
        kind: 'contentAdded',
        set: byNature(source, sized(content, number)),
        at,
        detail: 'number' in given ? { from: given.number } : {},
        also: (itemVersion) => [
          store.contents.saveVersion(item.id, {
            itemVersion,
            number,
            name: item.title,
            madeBy: asking.me.id,
            madeAt: at,
            content: content.id,
          }),
        ],
      },
      editKey !== null,
    );
    if (rowsOf) await takeRows(on, rowsOf, { item: done.item, actor: asking.me.id, at: done.item.lastAt });
    return done;
  });
}

async function contentsFor(
  on: PoolConnection,
  item: StoredItem,
  source: Source,
  given: NewContents,
  asking: Caller,
): Promise<Pick<Content, 'id' | 'size'>> {
  if ('number' in given) {
    const version = await one(on, store.contents.version(item.id, given.number));
    if (!version) throw new Refusal('notFound');
    return { id: version.content, size: version.size };
  }
  const [content] = await contentsOf(on, [{ upload: given.upload, item: item.id }], source, asking);
  return content as Content;
}

/** Contents that the caller handed in, each for a document: shown by none yet, or by just that one, as where it is asked for again. */
async function contentsOf(
  on: PoolConnection,
  wanted: readonly { upload: string; item: string }[],
  source: Source,
  { me }: Caller,
): Promise<Content[]> {
  if (source.kind !== 'folders') throw new Refusal('badRequest', { because: 'documentsAlone' });
  const ids = wanted.map(({ upload }) => upload);
  const found = new Map((await rows(on, store.contents.handedIn(ids, me.id))).map((content) => [content.id, content]));
  const shown = await rows(on, store.contents.shownBy(ids));
  return wanted.map(({ upload, item }) => {
    const content = found.get(upload);
    if (!content || shown.some((one) => one.content === upload && one.item !== item))
      throw new Refusal('badRequest', { because: 'uploadGone' });
    return content;
  });
}

/** A place for what is added: a folder of the source that the caller may read, and add to. */
export function expectPlace(source: Source, folder: string, asking: Caller): void {
  const { me, directory } = asking;
  const there = placeIn(source.id, folder, me.id);
  if (directory.folders.get(folder)?.source !== source.id || !mayRead(me.id, there, worldOf(directory, new Map())))
    throw new Refusal('badRequest', { because: 'noFolderThere' });
  expectAdd(source.id, folder, asking);
}

/** The fields among these that the source has. */
const byNature = (source: Source, fields: Fields): Fields =>
  Object.fromEntries(Object.entries(fields).filter(([id]) => fieldOf(source, id) !== undefined));

/** A document's size stands in whole KB. */
const sized = ({ size }: Pick<Content, 'size'>, number: number): Fields => ({
  [NATURE.version]: number,
  [NATURE.size]: Math.ceil(size / 1024),
});

/** How a document begins: not approved, where its source says so. */
function firstState(source: Source): Fields {
  const [first] = fieldOf(source, NATURE.approval)?.options ?? [];
  return first === undefined ? {} : { [NATURE.approval]: first };
}
