import {
  type Field,
  type Fields,
  fieldOf,
  isEmpty,
  isLinkType,
  isTextType,
  type ItemState,
  sameValue,
  type Source,
  type Value,
  type ValueFault,
} from '../values/index.ts';
import { readCell, type Reading } from './cells.ts';
import type { Cell, Grid } from './grid.ts';

/** Stands for an item's own id among the fields that columns go to. */
export const ITEM_ID = 'id';

/** Which column goes to which field, and by which of them rows are known again. */
export interface Mapping {
  /** For each column the id of a field, {@link ITEM_ID}, or `null` where it is left out. */
  columns: (string | null)[];
  /** The field by which a row is the item it was; `null` where each row is a new item. */
  key: string | null;
  /** What becomes of items that no row is of. */
  absent: 'leave' | 'delete';
  /** What a cell does that cannot stand: its row is refused whole, or it is left as it was and told. */
  faulty?: 'refuse' | 'leave';
}

/** Something about one row that keeps it, or one of its cells, from being taken. */
export interface RowFault extends ValueFault {
  /** The column's name; `null` where it is about the row. */
  column: string | null;
}

/** What one row would come to. */
export type RowPlan = { line: number; key: string } & (
  | { outcome: 'new'; set: Fields }
  | { outcome: 'changed'; item: string; set: Fields; before: Fields }
  | { outcome: 'unchanged'; item: string }
  | { outcome: 'refused'; faults: RowFault[] }
);

/** What a whole table would come to: each row in its order, and the items that would go. */
export interface TablePlan {
  rows: RowPlan[];
  deleted: string[];
  /** Cells that could not stand and were left as they were. */
  left: (RowFault & { line: number })[];
}

/** An item as it stands, as far as rows are compared with it. */
export type Known = Pick<ItemState, 'id' | 'fields'>;

/** A value as a text by which rows are known again. */
export function keyText(value: Value | undefined): string {
  if (isEmpty(value)) return '';
  return typeof value === 'string' ? value.normalize('NFC').trim() : JSON.stringify(value);
}

/** What is wrong with a mapping whatever the rows hold: fields that are none, or go twice, a key that no column goes to. */
export function faultsOfMapping(mapping: Mapping, source: Source): ValueFault[] {
  const used = mapping.columns.filter((one): one is string => one !== null);
  const strange = used.filter((id) => id !== ITEM_ID && !fieldOf(source, id));
  const twice = used.filter((id, at) => used.indexOf(id) !== at);
  return [
    ...strange.map((field) => ({
      code: 'unknownField',
      params: { field, source: source.name, allowed: source.fields.map(({ id }) => id) },
    })),
    ...[...new Set(twice)].map((field) => ({
      code: 'fieldTwice',
      params: { field: fieldOf(source, field)?.name ?? field },
    })),
    ...(used.some((id) => id !== ITEM_ID) ? [] : [{ code: 'noColumnUsed', params: {} }]),
    ...(mapping.key !== null && !used.includes(mapping.key) ? [{ code: 'keyWithoutColumn', params: {} }] : []),
  ];
}

/**
 * What the rows of a table would come to in a source, row by row; nothing is decided by anything but what is given.
 * A row with one cell that cannot stand is refused whole, one whose key another row had before likewise.
 */
export function planTable(
  grid: Grid,
  mapping: Mapping,
  source: Source,
  known: readonly Known[],
  reading: Reading,
): TablePlan {
  const byKey = knownBy(mapping.key, known);
  const seen = new Map<string, number>();
  const left: TablePlan['left'] = [];
  const rows = grid.rows.map(({ line, cells }): RowPlan => {
    const read = readRow(cells, grid, mapping, source, reading);
    if (mapping.faulty === 'leave') left.push(...read.faults.splice(0).map((fault) => ({ ...fault, line })));
    const { key } = read;
    const items = (key === '' ? undefined : byKey.get(key)) ?? [];
    const keyFault = faultOfKey(key, mapping.key, items, seen.get(key));
    if (key !== '' && !seen.has(key)) seen.set(key, line);
    const faults = keyFault ? [...read.faults, keyFault] : read.faults;
    if (faults.length > 0) return { line, key, outcome: 'refused', faults };
    const [item] = items;
    return item ? compared(item, { line, key, set: read.set, source }) : madeNew({ line, key, set: read.set, source });
  });
  const kept = new Set([...seen.keys()].flatMap((key) => (byKey.get(key) ?? []).map(({ id }) => id)));
  const deleted = mapping.absent === 'delete' ? known.filter(({ id }) => !kept.has(id)).map(({ id }) => id) : [];
  return { rows, deleted, left };
}

/** Why a row cannot be told to be the item it was, or a new one; `null` where it can. */
function faultOfKey(
  key: string,
  by: Mapping['key'],
  items: readonly Known[],
  before: number | undefined,
): RowFault | null {
  const fault = (code: string, params: RowFault['params'] = {}): RowFault => ({ column: null, code, params });
  if (before !== undefined) return fault('keyTwice', { key, line: String(before) });
  if (items.length > 1) return fault('keyOfSeveral', { key });
  if (by === ITEM_ID) return key !== '' && items.length === 0 ? fault('noItemOfId', { key }) : null;
  return by !== null && key === '' ? fault('keyEmpty') : null;
}

interface Row {
  line: number;
  key: string;
  set: Fields;
  source: Source;
}

/** A row that is no item yet; what has no name is none. */
function madeNew({ line, key, set, source }: Row): RowPlan {
  if (!isEmpty(set[source.titleField])) return { line, key, outcome: 'new', set };
  const field = fieldOf(source, source.titleField)?.name ?? '';
  return { line, key, outcome: 'refused', faults: [{ column: null, code: 'nameEmpty', params: { field } }] };
}

function knownBy(key: string | null, known: readonly Known[]): Map<string, Known[]> {
  const found = new Map<string, Known[]>();
  if (key === null) return found;
  for (const item of known) {
    const text = key === ITEM_ID ? item.id : keyText(item.fields[key]);
    if (text !== '') found.set(text, [...(found.get(text) ?? []), item]);
  }
  return found;
}

/** What was hidden from whoever wrote the file is left as it stands. */
const isKept = (field: Field, cell: Cell, { isHidden }: Reading): boolean =>
  isLinkType(field.type) && (isHidden?.(String(cell ?? '')) ?? false);

function readRow(cells: readonly Cell[], grid: Grid, mapping: Mapping, source: Source, reading: Reading) {
  const set: Fields = {};
  const faults: RowFault[] = [];
  let id = '';
  for (const [at, target] of mapping.columns.entries()) {
    const cell = cells[at] ?? null;
    if (target === ITEM_ID) id = cell === null ? '' : String(cell).trim();
    const field = target === null ? undefined : fieldOf(source, target);
    if (!field || isKept(field, cell, reading)) continue;
    const read = readCell(field, cell, reading);
    if ('fault' in read) faults.push({ ...read.fault, column: grid.columns[at] ?? '' });
    else set[field.id] = read.value;
  }
  const key = mapping.key === ITEM_ID ? id : keyText(mapping.key === null ? null : set[mapping.key]);
  return { set, key, faults };
}

/** What differs of an item that is there already. */
function compared(item: Known, { line, key, set, source }: Row): RowPlan {
  const differing = Object.entries(set).filter(([id, value]) => {
    const field = fieldOf(source, id);
    return field !== undefined && !isSame(field, item.fields[id], value);
  });
  if (differing.length === 0) return { line, key, outcome: 'unchanged', item: item.id };
  return {
    line,
    key,
    outcome: 'changed',
    item: item.id,
    set: Object.fromEntries(differing),
    before: Object.fromEntries(differing.map(([id]) => [id, item.fields[id] ?? null])),
  };
}

/** Files do not keep what stands round a text, nor its normal form; that alone is no change. */
const isSame = (field: Field, before: Value | undefined, after: Value): boolean =>
  sameValue(field.type, before, after) ||
  (isTextType(field.type) && keyText(before).replace(/\r\n/g, '\n') === keyText(after).replace(/\r\n/g, '\n'));
