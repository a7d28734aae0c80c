/** A folder, as far as looking at what lies in it goes. */
export interface LookedAt {
  parent: string | null;
  /** Whether it is noted who opens what lies in it and beneath. */
  notesLooks: boolean;
}

/** No folder lies deeper. */
const DEEPEST = 1000;

/**
 * The nearest folder, from one up to the highest above it, that has it noted who opens what lies in it.
 * @param folder where a document lies; `null` where it lies in none
 * @returns `null` where it is not noted
 */
export function notedBy<F extends LookedAt>(folder: string | null, folders: ReadonlyMap<string, F>): F | null {
  let at = folders.get(folder ?? '');
  for (let depth = 0; at && depth < DEEPEST; depth++) {
    if (at.notesLooks) return at;
    at = folders.get(at.parent ?? '');
  }
  return null;
}
