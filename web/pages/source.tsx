import { useCallback, useDeferredValue, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { ItemRow } from '../../contract/api.ts';
import { type Field, formatValue, type Source } from '../../core/values/index.ts';
import { Empty, Loaded, Time, useListKeys, useReading, WhatHappened } from '../parts/index.ts';
import { type ItemList, useItems } from '../queries/index.ts';
import { ItemSheet } from './item-sheet.tsx';
import { NewItemSheet } from './new-item-sheet.tsx';

/** One source: its items with what happened last, the one in focus in the sheet beside them. */
export function SourcePage() {
  const { source: id = '', item: open = null } = useParams();
  const { source: sourceOf } = useReading();
  const source = sourceOf(id);
  if (!source) return <main className="page"><Empty title="Nothing is here that you may read"><p>The source may have been taken away, or is closed to you. A steward can open it.</p><Link to="/sources">All sources</Link></Empty></main>;
  return <Listed key={id} source={source} open={open} />;
}

function Listed({ source, open }: { source: Source; open: string | null }) {
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const text = search.get('text') ?? '';
  const items = useItems(source.id, { text: useDeferredValue(text) });
  const { directory } = useReading();
  const query = text ? `?${new URLSearchParams({ text })}` : '';
  const base = `/sources/${encodeURIComponent(source.id)}`;
  const onOpen = useCallback((item: string) => void navigate(`${base}/${encodeURIComponent(item)}${query}`), [navigate, base, query]);
  const onClose = useCallback(() => void navigate(`${base}${query}`), [navigate, base, query]);
  useListKeys(items.data?.items.map((item) => item.id) ?? [], open, onOpen);
  const about = directory.sources.find((one) => one.id === source.id)?.about;
  return (
    <div className={`with-sheet${open ? ' is-open' : ''}`}>
      <main className="page">
        <p className="crumbs"><Link to="/sources">Sources</Link> / {source.kind}</p>
        <div className="page-head">
          <h1>{source.name}</h1>
          <span className="quiet">{items.data ? `${items.data.total} ${text ? 'found' : 'items'}` : ' '}</span>
          <div className="acts">
            <Button variant="outline-primary" onClick={() => onOpen('new')}>Add {source.kind === 'folders' ? 'a paper' : 'an item'}</Button>
            <Link className="btn btn-primary" to={`/rules/new?source=${encodeURIComponent(source.id)}`}>Make a rule here</Link>
          </div>
        </div>
        <p className="quiet">{about}</p>
        <div className="filters">
          <Form.Control type="search" placeholder="Narrow by any word" aria-label={`Narrow ${source.name} by any word`} value={text}
            onChange={(event) => setSearch(event.target.value ? { text: event.target.value } : {}, { replace: true })} />
        </div>
        <Loaded query={items} what={source.name} rows={9}>
          {(list) => list.total === 0
            ? <Empty title={text ? `Nothing holds “${text}”` : 'Nothing is in here yet'}>{text ? <Button variant="outline-primary" onClick={() => setSearch({}, { replace: true })}>Show all</Button> : <p>What is added appears here, with what happened to it last.</p>}</Empty>
            : source.kind === 'folders' ? <FolderTable source={source} list={list} open={open} onOpen={onOpen} /> : <ItemTable source={source} list={list} open={open} onOpen={onOpen} />}
        </Loaded>
        {items.data && items.data.total > items.data.items.length && <p className="quiet mt-3">The {items.data.items.length} that changed last are shown. Narrow by a word to find others.</p>}
      </main>
      {open === 'new' ? <NewItemSheet source={source} onClose={onClose} onMade={onOpen} /> : open && <ItemSheet id={open} onClose={onClose} />}
    </div>
  );
}

interface TableParts {
  source: Source;
  list: ItemList;
  open: string | null;
  onOpen: (item: string) => void;
}

const COLUMN_TYPES = new Set(['choice', 'person', 'money', 'date', 'number']);

/** The fields worth a column: short values, the title left out. */
const columnsOf = (source: Source, isNarrow: boolean): Field[] => source.fields.filter((field) => COLUMN_TYPES.has(field.type) && field.id !== source.titleField).slice(0, isNarrow ? 1 : 4);

const lower = (name: string) => name.charAt(0).toLowerCase() + name.slice(1);

const isFigure = (field: Field) => field.type === 'money' || field.type === 'number';

function ItemTable({ source, list, open, onOpen }: TableParts) {
  const columns = columnsOf(source, open !== null);
  return (
    <table className="item-table">
      <Head source={source} columns={columns} />
      <tbody>{list.items.map((item) => <Row key={item.id} item={item} source={source} names={list.names} columns={columns} isOpen={item.id === open} onOpen={onOpen} />)}</tbody>
    </table>
  );
}

const Head = ({ source, columns }: { source: Source; columns: Field[] }) => (
  <thead>
    <tr>
      <th scope="col">last change</th>
      <th scope="col" className="title-col">{lower(source.fields.find((field) => field.id === source.titleField)?.name ?? 'item')}, and what happened last</th>
      {columns.map((field, at) => <th key={field.id} scope="col" className={`value-col${at === 0 ? ' is-first' : ''}${isFigure(field) ? ' num' : ''}`}>{lower(field.name)}</th>)}
    </tr>
  </thead>
);

function Row({ item, source, names, columns, isOpen, onOpen, indent = 0 }: { item: ItemRow; source: Source; names: Record<string, string>; columns: Field[]; isOpen: boolean; onOpen: (item: string) => void; indent?: number }) {
  const { me, names: namesFor, person } = useReading();
  const address = `/sources/${encodeURIComponent(source.id)}/${encodeURIComponent(item.id)}`;
  const isNew = Date.parse(me.now) - Date.parse(item.lastAt) < 86_400_000;
  return (
    <tr className={isOpen ? 'is-open' : ''} data-row={item.id} onClick={() => onOpen(item.id)}>
      <td><Time at={item.lastAt} /></td>
      <td style={{ paddingLeft: `${indent * 1.1}rem` }}>
        <Link className="title" to={address} aria-current={isOpen} onClick={(event) => event.stopPropagation()}>{item.title}</Link>
        {item.last && <div className="small"><WhatHappened row={item.last} source={source} names={names} isSeen={!isNew} most={2} /> <span className="quiet">by {person(item.lastBy)}</span></div>}
      </td>
      {columns.map((field, at) => <td key={field.id} className={`value-col${at === 0 ? ' is-first' : ''}${isFigure(field) ? ' num' : ''}`}>{formatValue(field, item.fields[field.id], me, namesFor(names))}</td>)}
    </tr>
  );
}

/** Folders stand as headings over what is in them, and close; what changed within a day is counted beside their names. */
function FolderTable({ source, list, open, onOpen }: TableParts) {
  const { directory, me } = useReading();
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const columns = columnsOf(source, open !== null);
  const folders = directory.folders.filter((folder) => folder.source === source.id);
  const below = (id: string): string[] => [id, ...folders.filter((one) => one.parent === id).flatMap((one) => below(one.id))];
  const toggle = (id: string) => setClosed((now) => (now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id])));
  const rowsOf = (parent: string | null, depth: number): React.ReactNode[] => [
    ...folders.filter((folder) => folder.parent === parent).flatMap((folder) => {
      const inside = new Set(below(folder.id));
      const own = list.items.filter((item) => item.folder !== null && inside.has(item.folder));
      if (own.length === 0) return [];
      const fresh = own.filter((item) => Date.parse(me.now) - Date.parse(item.lastAt) < 86_400_000).length;
      const isOpen = !closed.has(folder.id);
      return [
        <tr key={folder.id} className="folder-row">
          <td />
          <td colSpan={columns.length + 1} style={{ paddingLeft: `${depth * 1.1}rem` }}>
            <button type="button" aria-expanded={isOpen} onClick={() => toggle(folder.id)}><span aria-hidden="true" className="quiet">{isOpen ? '– ' : '+ '}</span>{folder.name}</button>{' '}
            <span className="quiet">{own.length} paper{own.length === 1 ? '' : 's'}{fresh > 0 && <>, <span className="wash">{fresh} changed since yesterday</span></>}</span>
          </td>
        </tr>,
        ...(isOpen ? rowsOf(folder.id, depth + 1) : []),
      ];
    }),
    ...list.items.filter((item) => item.folder === parent).map((item) => <Row key={item.id} item={item} source={source} names={list.names} columns={columns} isOpen={item.id === open} onOpen={onOpen} indent={depth} />),
  ];
  return (
    <table className="item-table">
      <Head source={source} columns={columns} />
      <tbody>{rowsOf(null, 0)}</tbody>
    </table>
  );
}
