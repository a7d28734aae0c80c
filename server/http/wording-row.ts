import type { WordingRow } from '../../contract/wire/index.ts';
import type { Wording } from '../../core/decide/index.ts';
import type { Directory } from '../store/index.ts';

/** A shared wording as pages show it, with where it is usual, as far as its reader sees the sources of `visible`. */
export const wordingRow = (
  wording: Wording,
  { house }: Pick<Directory, 'house'>,
  visible?: ReadonlySet<string>,
): WordingRow => ({
  ...wording,
  usual: house.usual
    .filter(({ wording: id, source }) => id === wording.id && (source === null || (visible?.has(source) ?? true)))
    .map(({ source, occasion }) => ({ source, occasion })),
});
