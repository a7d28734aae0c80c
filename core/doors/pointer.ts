/** A JSON pointer (RFC 6901): empty for the whole, else each part behind a slash, `~1` for a slash in it and `~0` for a tilde. */
const POINTER = /^(?:\/(?:[^~/]|~[01])*)*$/;

/** Whether a text is a JSON pointer. */
export const isPointer = (text: string): boolean => POINTER.test(text);

/** What a pointer leads to in a document; `undefined` where it leads nowhere. */
export function pointedAt(document: unknown, pointer: string): unknown {
  if (!isPointer(pointer)) return undefined;
  let found: unknown = document;
  for (const part of pointer.split('/').slice(1)) {
    const name = part.replaceAll('~1', '/').replaceAll('~0', '~');
    if (typeof found !== 'object' || found === null || !Object.hasOwn(found, name)) return undefined;
    found = (found as Record<string, unknown>)[name];
  }
  return found;
}
