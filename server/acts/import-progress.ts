/** How far the taking of a file has come: rows written, of all that are to be. */
export interface Progress {
  done: number;
  total: number;
}

/** Those that are being taken by this server, by who takes what. */
const running = new Map<string, Progress>();

const keyOf = (person: string, upload: string): string => JSON.stringify([person, upload]);

/** How far what somebody is taking has come; `null` where this server takes no such thing. */
export const progressOf = (person: string, upload: string): Progress | null =>
  running.get(keyOf(person, upload)) ?? null;

/** Does something that tells how far it has come, for as long as it takes. */
export async function withProgress<T>(
  person: string,
  upload: string,
  act: (onWritten: (done: number, total: number) => void) => Promise<T>,
): Promise<T> {
  const key = keyOf(person, upload);
  try {
    return await act((done, total) => running.set(key, { done, total }));
  } finally {
    running.delete(key);
  }
}
