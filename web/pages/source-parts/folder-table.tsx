import { type CSSProperties, useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { ItemRow } from '../../../contract/api.ts';
import { useReading } from '../../parts/index.ts';
import { EyeOn } from '../eye.tsx';
import { Chip } from '../rule-parts/chip.tsx';
import { useRules, useSources } from '../../queries/index.ts';
import { columnsOf, Head, Row, type TableProps } from './item-table.tsx';
import { eyesOf, looksAt, threadsOf, WarpCell, WarpHead, WarpLegend, Watchers } from './warp.tsx';

/** Folders stand as headings over what is in them, and close; what changed within a day is counted beside their names. */
export function FolderTable({ source, items, total, names, open, isNarrow, onOpen, onMore, ...sorting }: TableProps) {
  const { directory, me } = useReading();
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  // A tree is shown whole: what is not here yet is fetched without waiting to be asked.
  useEffect(() => {
    if (items.length < total) onMore();
  }, [items.length, total, onMore]);
  const rules = useRules();
  const { threads, others } = threadsOf(rules.data ?? [], source);
  const eyes = eyesOf(rules.data ?? [], source);
  const byId = new Map(directory.folders.map((folder) => [folder.id, folder]));
  // The threads take the place of columns; beside a sheet there is room for one or the other.
  const hasWarp = !isNarrow && threads.length > 0;
  const columns = columnsOf(source, true);
  const folders = directory.folders.filter((folder) => folder.source === source.id);
  const below = (id: string): string[] => [
    id,
    ...folders.filter((one) => one.parent === id).flatMap((one) => below(one.id)),
  ];
  const toggle = (id: string) =>
    setClosed((now) => (now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id])));
  // What is still being fetched counts already, as long as nothing narrows the list.
  const counts = useSources().data?.find((one) => one.id === source.id)?.byFolder;
  const isNarrowed = Boolean(sorting.asked.text || sorting.asked.where);
  const countOf = (inside: ReadonlySet<string>, loaded: number) =>
    counts && !isNarrowed ? [...inside].reduce((sum, id) => sum + (counts[id] ?? 0), 0) : loaded;
  const isFresh = (item: ItemRow) => Date.parse(me.now) - Date.parse(item.lastAt) < 86_400_000;
  const rowsOf = (parent: string | null, depth: number): React.ReactNode[] => [
    ...folders
      .filter((folder) => folder.parent === parent)
      .flatMap((folder) => {
        const inside = new Set(below(folder.id));
        const own = items.filter((item) => item.folder !== null && inside.has(item.folder));
        if (own.length === 0) return [];
        const fresh = own.filter(isFresh).length;
        const isOpen = !closed.has(folder.id);
        return [
          <tr key={folder.id} className="folder-row">
            <td />
            <td colSpan={columns.length + (hasWarp ? 2 : 1)} style={{ paddingLeft: `${depth * 1.1}rem` }}>
              <button type="button" aria-expanded={isOpen} onClick={() => toggle(folder.id)}>
                <span aria-hidden="true" className="quiet">
                  {isOpen ? '– ' : '+ '}
                </span>
                {folder.name}
              </button>{' '}
              <span className="quiet">
                {countOf(inside, own.length).toLocaleString()} paper{countOf(inside, own.length) === 1 ? '' : 's'}
                {fresh > 0 && (
                  <>
                    , <span className="wash">{fresh} changed since yesterday</span>
                  </>
                )}
              </span>{' '}
              <Watchers people={eyes.get(folder.id) ?? []} />
              {hasWarp && !threads.some(({ rule }) => looksAt(rule, folder.id, null, byId)) && (
                <strong className="small"> nobody hears</strong>
              )}
              <span className="folder-acts">
                <Chip
                  label={`Keep an eye on ${folder.name}`}
                  className="is-quiet"
                  isPlain
                  editor={(close) => <EyeOn target={{ source, under: folder }} onDone={close} />}
                >
                  Keep an eye on it
                </Chip>
                <Link
                  to={`/rules/new?${new URLSearchParams({ source: source.id, under: folder.id, ...(sorting.asked.where ? { where: sorting.asked.where } : {}) })}`}
                >
                  Make a rule here
                </Link>
              </span>
            </td>
            {hasWarp && (
              <WarpCell
                threads={threads}
                looks={({ rule }) => looksAt(rule, folder.id, null, byId)}
                knots={isOpen ? [] : own.filter(isFresh).flatMap((item) => item.last?.caughtBy ?? [])}
              />
            )}
          </tr>,
          ...(isOpen ? rowsOf(folder.id, depth + 1) : []),
        ];
      }),
    ...items
      .filter((item) => item.folder === parent)
      .map((item) => (
        <Row
          key={item.id}
          item={item}
          source={source}
          names={names}
          columns={columns}
          isOpen={item.id === open}
          onOpen={onOpen}
          indent={depth}
          watchers={hasWarp ? <Watchers people={eyes.get(item.id) ?? []} /> : undefined}
          warp={
            hasWarp ? (
              <WarpCell
                threads={threads}
                looks={({ rule }) => looksAt(rule, item.folder, item.id, byId)}
                knots={item.last?.caughtBy ?? []}
              />
            ) : null
          }
        />
      )),
  ];
  return (
    <>
      {hasWarp && <WarpHead threads={threads} />}
      <table
        className={`item-table${hasWarp ? ' has-warp' : ''}`}
        style={{ '--threads': threads.length } as CSSProperties}
      >
        <Head
          source={source}
          columns={columns}
          more={
            hasWarp ? (
              <>
                <th className="watch-col" />
                <th className="warp" />
              </>
            ) : null
          }
          {...sorting}
        />
        <tbody>{rowsOf(null, 0)}</tbody>
      </table>
      {hasWarp && <WarpLegend others={others} source={source} />}
    </>
  );
}
