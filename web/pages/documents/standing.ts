import type { ItemRow } from '../../../contract/wire/index.ts';

/** As much of an item as says what can be done with it. */
export type Standing = Pick<ItemRow, 'id' | 'title' | 'fields' | 'folder' | 'isDeleted'>;
