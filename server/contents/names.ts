/** The longest name of a file, in UTF-16 units. */
const LONGEST = 200;

/**
 * A file's name as it can be kept and shown: the last part of a path, well-formed and composed (NFC), without control
 * signs, signs that turn the direction of writing, and what file systems refuse; never empty, its ending kept.
 */
export function cleanName(given: string): string {
  const last = given.toWellFormed().normalize('NFC').split(/[\\/]/).at(-1) ?? '';
  const bare = last
    .replace(/[\p{Cc}\p{Cf}\u2028\u2029<>:"|?*]/gu, '')
    .replace(/\s+/g, ' ')
    .replace(/^[\s.]+|[\s.]+$/g, '');
  if (bare === '') return 'document';
  if (bare.length <= LONGEST) return bare;
  const ending = /\.[a-z0-9]{1,10}$/i.exec(bare)?.[0] ?? '';
  return `${bare.slice(0, LONGEST - ending.length).trimEnd()}${ending}`.toWellFormed();
}
