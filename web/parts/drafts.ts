import { useViewer } from './viewer.tsx';

/** What was typed somewhere and not sent yet, with what it was typed over. */
export interface Draft<T> {
  /** What stood there before, as it was when the typing began. */
  base: string;
  value: T;
}

const PLACE = 'ojo.typed.';

/** Under what is kept what somebody types in one place: nobody else at this browser gets it. */
export const useDraftKey = (place: string): string => `${PLACE}${useViewer().me.id}.${place}`;

/** What was typed and is still to be sent; `null` where there is nothing, or nothing that can be read. */
export function readDraft<T>(key: string): Draft<T> | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as Draft<T> | null;
  } catch {
    return null;
  }
}

/** Keeps what is typed, in this browser, until it is forgotten. Where the browser keeps nothing, it is kept as long as the page. */
export function writeDraft<T>(key: string, draft: Draft<T>): void {
  try {
    localStorage.setItem(key, JSON.stringify(draft));
  } catch {
    // A browser that keeps nothing, or is full: typing goes on all the same.
  }
}

export function forgetDraft(key: string): void {
  localStorage.removeItem(key);
}

const keysOf = (person: string): string[] =>
  Array.from({ length: localStorage.length }, (_, at) => localStorage.key(at) ?? '').filter((key) =>
    key.startsWith(`${PLACE}${person}.`),
  );

/** Whether somebody has typed anything here that is not sent yet. */
export const hasDrafts = (person: string): boolean => keysOf(person).length > 0;
/** Takes away all that somebody typed here: whoever signs out leaves nothing behind. */
export const forgetDrafts = (person: string): void => keysOf(person).forEach(forgetDraft);

const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const isLike = (a: unknown, b: unknown): boolean =>
  Array.isArray(a) && Array.isArray(b)
    ? a.length === b.length
    : typeof a === 'object' &&
      typeof b === 'object' &&
      a !== null &&
      b !== null &&
      !Array.isArray(a) === !Array.isArray(b);

/** What was typed over one start, put onto another: only what was typed, all else as it stands now. `null` where they are of other shapes. */
export function ontoStart<V extends object>({ base, value }: Draft<V>, start: V): V | null {
  const before = JSON.parse(base) as V;
  if (!isLike(before, start) || !isLike(value, start)) return null;
  const parts = Object.entries(start).map(([key, now]): [string, unknown] | null => {
    const [was, is] = [before[key as keyof V], value[key as keyof V]];
    if (isSame(was, is)) return [key, now];
    if (isSame(was, now) || !Array.isArray(now) || !Array.isArray(was) || !Array.isArray(is)) return [key, is];
    if (now.length !== was.length || now.length !== is.length) return null;
    return [key, now.map((one: unknown, at) => (isSame(was[at], is[at]) ? one : (is[at] as unknown)))];
  });
  return parts.some((part) => part === null) ? null : (Object.fromEntries(parts as [string, unknown][]) as V);
}
