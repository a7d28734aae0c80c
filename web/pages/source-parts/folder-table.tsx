import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { ItemRow } from '../../../contract/api.ts';
import type { Source } from '../../../core/values/index.ts';
import { useReading } from '../../parts/index.ts';
import { EyeEditor } from '../eye.tsx';
import { Chip } from '../rule-parts/chip.tsx';
import { columnsOf, Head, Row, type Sorting } from './item-table.tsx';

interface FolderProps extends Sorting {
  source: Source;
  items: ItemRow[];
  total: number;
  names: Record<string, string>;
  open: string | null;
  /** A sheet stands beside the table. */
  isNarrow: boolean;
  onOpen: (item: string) => void;
  onMore: () => void;
}

/** Folders stand as headings over what is in them, and close; what changed within a day is counted beside their names. */
export function FolderTable({ source, items, total, names, open, isNarrow, onOpen, onMore, ...sorting }: FolderProps) {
  const { directory, me } = useReading();
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  // A tree is shown whole: what is not here yet is fetched without waiting to be asked.
  useEffect(() => {
    if (items.length < total) onMore();
  }, [items.length, total, onMore]);
  const columns = columnsOf(source, isNarrow);
  const folders = directory.folders.filter((folder) => folder.source === source.id);
  const below = (id: string): string[] => [id, ...folders.filter((one) => one.parent === id).flatMap((one) => below(one.id))];
  const toggle = (id: string) => setClosed((now) => (now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id])));
  const isFresh = (item: ItemRow) => Date.parse(me.now) - Date.parse(item.lastAt) < 86_400_000;
  const rowsOf = (parent: string | null, depth: number): React.ReactNode[] => [
    ...folders.filter((folder) => folder.parent === parent).flatMap((folder) => {
      const inside = new Set(below(folder.id));
      const own = items.filter((item) => item.folder !== null && inside.has(item.folder));
      if (own.length === 0) return [];
      const fresh = own.filter(isFresh).length;
      const isOpen = !closed.has(folder.id);
      return [
        <tr key={folder.id} className="folder-row">
          <td />
          <td colSpan={columns.length + 1} style={{ paddingLeft: `${depth * 1.1}rem` }}>
            <button type="button" aria-expanded={isOpen} onClick={() => toggle(folder.id)}><span aria-hidden="true" className="quiet">{isOpen ? '– ' : '+ '}</span>{folder.name}</button>{' '}
            <span className="quiet">{own.length} paper{own.length === 1 ? '' : 's'}{fresh > 0 && <>, <span className="wash">{fresh} changed since yesterday</span></>}</span>
            <span className="folder-acts">
              <Chip label={`Keep an eye on ${folder.name}`} className="is-quiet" isPlain editor={(close) => <EyeEditor target={{ source, under: folder }} onDone={close} />}>Keep an eye on it</Chip>
              <Link to={`/rules/new?source=${encodeURIComponent(source.id)}&under=${encodeURIComponent(folder.id)}`}>Make a rule here</Link>
            </span>
          </td>
        </tr>,
        ...(isOpen ? rowsOf(folder.id, depth + 1) : []),
      ];
    }),
    ...items.filter((item) => item.folder === parent).map((item) => <Row key={item.id} item={item} source={source} names={names} columns={columns} isOpen={item.id === open} onOpen={onOpen} indent={depth} />),
  ];
  return (
    <table className="item-table">
      <Head source={source} columns={columns} {...sorting} />
      <tbody>{rowsOf(null, 0)}</tbody>
    </table>
  );
}
