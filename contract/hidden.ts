/** Stands for the id of an item, in a field that leads to it, wherever whoever asks may not read that item. Sent back, it leaves what it stands for as it is. */
export const HIDDEN_ITEM = '~';
