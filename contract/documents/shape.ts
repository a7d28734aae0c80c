import { LIMITS } from '../limits.ts';
import type { FaultAt } from '../problems.ts';

/** Control signs (Unicode, category Cc) other than tabs and ends of lines. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: it is these that are looked for
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]/;

/** Whether it is text: whole characters, and no control signs but tabs and ends of lines. */
const isText = (value: string): boolean => value.isWellFormed() && !CONTROL.test(value);

/**
 * Why a document is refused before anybody looks at what it says: it goes too deep, holds too much, or what is no text; `null` where it
 * may be looked at. Looks at no more than what may be in it.
 * @param isTyped whether its texts are what people wrote, and not names of files, which are made harmless where they are kept
 */
export function shapeFault(document: unknown, isTyped = true): FaultAt | null {
  let parts = 0;
  const open: { value: unknown; depth: number; path: string }[] = [{ value: document, depth: 0, path: '' }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { value, depth, path } = next;
    if (isTyped && typeof value === 'string' && !isText(value)) return { code: 'strangeSigns', path, params: {} };
    if (typeof value !== 'object' || value === null) continue;
    if (depth >= LIMITS.depth) return { code: 'tooDeep', path, params: { most: String(LIMITS.depth) } };
    const entries = Object.entries(value);
    if (Array.isArray(value) && entries.length > LIMITS.list)
      return { code: 'tooLong', path, params: { most: String(LIMITS.list) } };
    parts += entries.length;
    if (parts > LIMITS.parts) return { code: 'tooLarge', path, params: { most: String(LIMITS.parts) } };
    for (const [key, part] of entries)
      open.push({ value: part, depth: depth + 1, path: path ? `${path}.${key}` : key });
  }
  return null;
}

/** Groups that stand around others: each takes one level of nesting. */
const GROUPS = new Set(['all', 'any', 'none', 'managerOf', 'holds', 'cases']);

/** The first place in a document at which groups stand within groups more often than they may. */
export function nestingFault(document: unknown): FaultAt | null {
  const open: { value: unknown; nesting: number; path: string }[] = [{ value: document, nesting: 0, path: '' }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { value, nesting, path } = next;
    if (typeof value !== 'object' || value === null) continue;
    if (nesting > LIMITS.nesting) return { code: 'tooDeep', path, params: { most: String(LIMITS.nesting) } };
    for (const [key, part] of Object.entries(value))
      open.push({
        value: part,
        nesting: nesting + (!Array.isArray(value) && GROUPS.has(key) ? 1 : 0),
        path: path ? `${path}.${key}` : key,
      });
  }
  return null;
}
