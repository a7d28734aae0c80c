import { useSyncExternalStore } from 'react';

/** How the page stands with Ojo: since when it has had no answer, and of which sort the last failure was. */
export interface Lost {
  /** By this machine's clock, in ms. */
  since: number;
  /** Ojo itself answers, and says that its database does not. */
  isDatabase: boolean;
}

let lost: Lost | null = null;
const listeners = new Set<() => void>();

function set(next: Lost | null): void {
  lost = next;
  for (const tell of listeners) tell();
}

/** An answer did not come, or was that the database is away. */
export function noteLost(isDatabase: boolean): void {
  if (!lost) set({ since: Date.now(), isDatabase });
  else if (lost.isDatabase !== isDatabase) set({ ...lost, isDatabase });
}

/** An answer came. */
export function noteBack(): void {
  if (lost) set(null);
}

export const useLost = (): Lost | null =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => lost,
  );
