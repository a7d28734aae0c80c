import { DAY_MS } from '../../../core/time/index.ts';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { type DragEvent, type ReactNode, useEffect, useRef } from 'react';
import { Link } from 'react-router';
import type { ItemRow } from '../../../contract/wire/index.ts';
import { followsFromActs } from '../../../core/documents/index.ts';
import { type Field, formatValue, type Source } from '../../../core/values/index.ts';
import { Time, useViewer, WhatHappened } from '../../parts/index.ts';
import type { ItemsAsked } from '../../queries/index.ts';
import { t as choosing } from '../../words/documents.ts';
import { t } from '../../words/sources.ts';
import { EditCell } from './edit-cell.tsx';

export interface Sorting {
  asked: ItemsAsked;
  onAsk: (asked: ItemsAsked) => void;
}

const COLUMN_TYPES = new Set(['choice', 'person', 'money', 'date', 'number']);

/** The fields worth a column: short values, the title left out. */
export const columnsOf = (source: Source, isNarrow: boolean): Field[] =>
  source.fields
    .filter((field) => COLUMN_TYPES.has(field.type) && field.id !== source.titleField)
    .slice(0, isNarrow ? 1 : 4);

const lower = (name: string) => name.charAt(0).toLowerCase() + name.slice(1);
const isFigure = (field: Field) => field.type === 'money' || field.type === 'number';
const ROW_HEIGHT = 58;

/** Which items are ticked, to do something with all of them. */
export interface Choosing {
  chosen: ReadonlySet<string>;
  onChoose: (item: string) => void;
}

export interface TableProps extends Sorting, Choosing {
  source: Source;
  items: ItemRow[];
  total: number;
  names: Record<string, string>;
  open: string | null;
  /** A sheet stands beside the table. */
  isNarrow: boolean;
  onOpen: (item: string) => void;
  onMore: () => void;
  /** Keeps an eye on a folder. */
  onEye: (folder: string) => void;
}

/** The rows of a long table that are in view, and the room that those before and after them take. */
export function useRowsInView<T>(all: readonly T[], keyOf: (row: T) => string) {
  const body = useRef<HTMLTableSectionElement>(null);
  const rows = useWindowVirtualizer({
    count: all.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    scrollMargin: body.current?.offsetTop ?? 0,
    getItemKey: (at) => (all[at] === undefined ? at : keyOf(all[at])),
  });
  const shown = rows.getVirtualItems();
  const margin = rows.options.scrollMargin;
  return {
    body,
    shown,
    measure: rows.measureElement,
    above: (shown[0]?.start ?? margin) - margin,
    below: rows.getTotalSize() - ((shown.at(-1)?.end ?? margin) - margin),
  };
}

/** Stands for rows that are not in view. */
export const Space = ({ height }: { height: number }) =>
  height > 0 && (
    <tr className="is-space">
      <td style={{ height }} />
    </tr>
  );

/** The items of a list or record type. Only the rows in view are there, however many items there are. */
export function ItemTable({
  source,
  items,
  total,
  names,
  open,
  isNarrow,
  onOpen,
  onMore,
  chosen,
  onChoose,
  ...sorting
}: TableProps) {
  const columns = columnsOf(source, isNarrow);
  const { body, shown, measure, above, below } = useRowsInView(items, ({ id }) => id);
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => {
    if (items.length < total && last >= items.length - 30) onMore();
  }, [last, items.length, total, onMore]);
  return (
    <table className="item-table" aria-rowcount={total}>
      <Head source={source} columns={columns} {...sorting} />
      <tbody ref={body}>
        <Space height={above} />
        {shown.map((row) => {
          const item = items[row.index] as ItemRow;
          return (
            <Row
              key={item.id}
              at={row.index}
              measure={measure}
              item={item}
              source={source}
              names={names}
              columns={columns}
              isOpen={item.id === open}
              onOpen={onOpen}
              isChosen={chosen.has(item.id)}
              onChoose={onChoose}
            />
          );
        })}
        <Space height={below} />
      </tbody>
    </table>
  );
}

export function Head({
  source,
  columns,
  more,
  asked,
  onAsk,
}: { source: Source; columns: Field[]; more?: ReactNode } & Sorting) {
  const title = source.fields.find((field) => field.id === source.titleField);
  const order = (field: Field) => {
    if (asked.sort !== field.id) return undefined;
    return asked.down === '1' ? 'descending' : 'ascending';
  };
  /** What the next press on a column asks for: upwards, downwards, the order of the source. */
  const turned = (field: Field): ItemsAsked => {
    if (asked.sort !== field.id) return { ...asked, sort: field.id, down: undefined };
    return asked.down === '1' ? { ...asked, sort: undefined, down: undefined } : { ...asked, down: '1' };
  };
  const turn = (field: Field) => onAsk(turned(field));
  const sign = (field: Field) => (
    <span aria-hidden="true">{{ ascending: ' ↑', descending: ' ↓', none: '' }[order(field) ?? 'none']}</span>
  );
  return (
    <thead>
      <tr>
        <th scope="col">
          <button type="button" onClick={() => onAsk({ ...asked, sort: undefined, down: undefined })}>
            {t('lastChange')}
            {asked.sort === undefined && <span aria-hidden="true"> ↓</span>}
          </button>
        </th>
        <th scope="col" className="title-col" aria-sort={title && order(title)}>
          {title ? (
            <button type="button" onClick={() => turn(title)}>
              {lower(title.name)}
              {sign(title)}
            </button>
          ) : (
            t('item')
          )}
          {t('andWhatHappenedLast')}
        </th>
        {columns.map((field, at) => (
          <th
            key={field.id}
            scope="col"
            aria-sort={order(field)}
            className={`value-col${at === 0 ? ' is-first' : ''}${isFigure(field) ? ' num' : ''}`}
          >
            <button type="button" onClick={() => turn(field)}>
              {lower(field.name)}
              {sign(field)}
            </button>
          </th>
        ))}
        {more}
      </tr>
    </thead>
  );
}

/** Whether a press was on the row itself, and not on something that acts by itself, or in what that opened. */
const isOfRow = (target: EventTarget): boolean =>
  target instanceof HTMLElement && target.closest('button, input, a, .popover') === null;

interface RowProps extends Pick<Choosing, 'onChoose'> {
  isChosen: boolean;
  item: ItemRow;
  source: Source;
  names: Record<string, string>;
  columns: Field[];
  isOpen: boolean;
  onOpen: (item: string) => void;
  indent?: number;
  at?: number;
  /** Who keeps an eye on it, and the rules that look at it, in columns of their own. */
  watchers?: ReactNode;
  ruleColumns?: ReactNode;
  measure?: (node: HTMLTableRowElement | null) => void;
  /** It can be dragged somewhere. */
  onDrag?: (event: DragEvent) => void;
}

export function Row({
  item,
  source,
  names,
  columns,
  isOpen,
  onOpen,
  isChosen,
  onChoose,
  indent = 0,
  at,
  watchers,
  ruleColumns,
  measure,
  onDrag,
}: RowProps) {
  const { me, names: namesFor, person, directory } = useViewer();
  // The rows of a table document change with it.
  const isEditable = directory.sources.some((one) => one.id === source.id && one.sheetOf === undefined);
  const address = `/sources/${encodeURIComponent(source.id)}/${encodeURIComponent(item.id)}${globalThis.location?.search ?? ''}`;
  const isNew = Date.parse(me.now) - Date.parse(item.lastAt) < DAY_MS;
  return (
    <tr
      className={isOpen ? 'is-open' : ''}
      data-row={item.id}
      data-index={at}
      ref={measure}
      onClick={({ target }) => isOfRow(target) && onOpen(item.id)}
    >
      <td className="tick-col">
        <input
          type="checkbox"
          className="form-check-input"
          aria-label={choosing('chooseIt', { title: item.title })}
          checked={isChosen}
          onClick={(event) => event.stopPropagation()}
          onChange={() => onChoose(item.id)}
        />
        <Time at={item.lastAt} />
      </td>
      <td style={{ paddingLeft: `${indent * 1.1}rem` }} draggable={onDrag !== undefined} onDragStart={onDrag}>
        <Link className="title" to={address} aria-current={isOpen} onClick={(event) => event.stopPropagation()}>
          {item.title}
        </Link>
        {item.last && (
          <div className="small">
            <WhatHappened row={item.last} source={source} names={names} isSeen={!isNew} most={2} />{' '}
            <span className="quiet">{t('by', { person: person(item.lastBy) })}</span>
          </div>
        )}
      </td>
      {columns.map((field, column) => {
        const shown = formatValue(field, item.fields[field.id], me, namesFor(names));
        const isTyped = isEditable && !followsFromActs(source, field.id);
        return (
          <td key={field.id} className={`value-col${column === 0 ? ' is-first' : ''}${isFigure(field) ? ' num' : ''}`}>
            {isTyped ? <EditCell item={item} field={field} shown={shown} /> : shown}
          </td>
        );
      })}
      {ruleColumns && <td className="watch-col">{watchers}</td>}
      {ruleColumns}
    </tr>
  );
}
