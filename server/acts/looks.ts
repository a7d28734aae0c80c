import { Refusal } from '../../contract/problems.ts';
import { notedBy } from '../../core/documents/index.ts';
import { MINUTE_MS } from '../../core/time/index.ts';
import type { Source } from '../../core/values/index.ts';
import type { Caller } from '../access/index.ts';
import { passDoor } from '../intake/index.ts';
import { originNow } from '../kit/index.ts';
import { inTransaction, newId, one, rows, runAll, store, type StoredItem } from '../store/index.ts';
import type { ActContext } from './context.ts';

/** Whoever opens a document again so soon, and finds it as it was, is still looking, in ms. */
const SAME_LOOK_MS = 15 * MINUTE_MS;

/**
 * Notes that somebody opens a document, where that is noted: a change of kind `opened`, which leaves the document as it
 * is, its version and who edited it last. Looking again within a quarter of an hour is the same look, unless the
 * document has changed since.
 */
export async function noteLook(
  { pool, clock, wake }: Pick<ActContext, 'pool' | 'clock' | 'wake'>,
  { id, folder, source }: StoredItem,
  { me, directory }: Caller,
): Promise<void> {
  if (notedBy(folder, directory.folders) === null) return;
  const of = directory.sources.get(source) as Source;
  const done = await inTransaction(pool, async (on) => {
    // Several requests of one page come at once; one look comes of them.
    const [item] = await rows(on, store.items.locked([id]));
    if (!item) throw new Refusal('notFound');
    const at = clock.now();
    const from = Math.max(at - SAME_LOOK_MS, item.lastAt);
    if ((await one(on, store.changes.looksOf(me.id, id, from))) !== 0) return null;
    return passDoor(on, { id: newId(at), actor: me.id, source: of, item: id, kind: 'opened', at });
  });
  if (done?.outcome === 'saved') wake(done.change);
}

/** Has it noted who opens what lies in a folder and beneath it, or no longer; what is noted by then stays. */
export async function chooseLooks(
  { pool, clock }: Pick<ActContext, 'pool' | 'clock'>,
  source: string,
  { folder, isOn }: { folder: string; isOn: boolean },
  { me, directory }: Caller,
): Promise<void> {
  const place = directory.folders.get(folder);
  if (place?.source !== source) throw new Refusal('badRequest', { because: 'noFolderThere' });
  if (place.notesLooks === isOn) return;
  await inTransaction(pool, (on) =>
    runAll(on, [
      store.sources.saveNotesLooks(folder, isOn),
      store.world.raise(),
      store.audit.add({
        at: clock.now(),
        kind: 'looksNoted',
        actor: me.id,
        origin: originNow(),
        about: { source: directory.sources.get(source)?.name ?? source, folder: place.name, isOn: isOn ? 1 : 0 },
      }),
    ]),
  );
}
