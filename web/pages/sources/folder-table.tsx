import { DAY_MS } from '../../../core/time/index.ts';
import { type CSSProperties, type ReactNode, useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { ItemRow } from '../../../contract/wire/index.ts';
import type { Folder } from '../../../core/people/index.ts';
import { useViewer } from '../../parts/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { type ItemsAsked, useRules, useSources } from '../../queries/index.ts';
import { stateAsked } from './filter-bar.tsx';
import { type DropPlace, useMoveByDrag } from './move-by-drag.ts';
import { NotedHere } from './looks.tsx';
import { columnsOf, Head, Row, Space, type TableProps, useRowsInView } from './item-table.tsx';
import {
  eyesOf,
  looksAt,
  type RuleColumn,
  RuleColumnCell,
  RuleColumnHead,
  RuleColumnLegend,
  ruleColumnsOf,
  Watchers,
} from './rule-columns.tsx';
import { t } from '../../words/sources.ts';

/** A folder with what is in it and below it. */
interface Branch {
  folder: Folder;
  depth: number;
  /** Itself and all folders below it, by id. */
  inside: ReadonlySet<string>;
  /** The items that are here already. */
  items: ItemRow[];
  rows: Line[];
}
type Line = { branch: Branch } | { item: ItemRow; depth: number };

/** The folders with something in them, each followed by what it holds: folders first, then items. */
function linesOf(folders: readonly Folder[], items: readonly ItemRow[], parent: string | null, depth: number): Line[] {
  const below = (id: string): string[] => [
    id,
    ...folders.filter((one) => one.parent === id).flatMap((one) => below(one.id)),
  ];
  const branches = folders
    .filter((folder) => folder.parent === parent)
    .flatMap((folder): Line[] => {
      const inside = new Set(below(folder.id));
      const own = items.filter((item) => item.folder !== null && inside.has(item.folder));
      if (own.length === 0) return [];
      return [{ branch: { folder, depth, inside, items: own, rows: linesOf(folders, items, folder.id, depth + 1) } }];
    });
  return [...branches, ...items.filter((item) => item.folder === parent).map((item) => ({ item, depth }))];
}

/** The lines of a tree as it stands open: what is in closed folders is left out. */
const unfolded = (lines: readonly Line[], closed: ReadonlySet<string>): Line[] =>
  lines.flatMap((line) =>
    'branch' in line && !closed.has(line.branch.folder.id) ? [line, ...unfolded(line.branch.rows, closed)] : [line],
  );

/** A source of folders as its tree, with a column beside it for each rule that looks at a part of it. */
export function FolderTable({
  source,
  items,
  total,
  names,
  open,
  isNarrow,
  onOpen,
  onMore,
  onEye,
  chosen,
  onChoose,
  ...sorting
}: TableProps) {
  const { closed, toggle } = useClosed();
  // A tree is shown whole: what is not here yet is fetched without waiting to be asked.
  useEffect(() => {
    if (items.length < total) onMore();
  }, [items.length, total, onMore]);
  const { ruleColumns, others, eyes, byId, folders } = useLooks(source);
  // They take the place of fields; beside a sheet there is room for one or the other.
  const [hasColumns, columns] = [!isNarrow && ruleColumns.length > 0, columnsOf(source, true)];
  const countOf = useCounts(source.id, Boolean(sorting.asked.text || sorting.asked.where));
  const moving = useMoveByDrag(source.id, items, chosen);
  const lines = unfolded(linesOf(folders, items, null, 0), closed);
  const itemLine = ({ item, depth }: Extract<Line, { item: ItemRow }>, place: Place) => (
    <Row
      key={item.id}
      item={item}
      source={source}
      names={names}
      columns={columns}
      isOpen={item.id === open}
      onOpen={onOpen}
      isChosen={chosen.has(item.id)}
      onChoose={onChoose}
      onDrag={moving.drag(item.id)}
      {...place}
      indent={depth}
      watchers={hasColumns ? <Watchers people={eyes.get(item.id) ?? []} /> : undefined}
      ruleColumns={
        hasColumns && (
          <RuleColumnCell
            columns={ruleColumns}
            looks={({ rule }) => looksAt(rule, item.folder, item.id, byId)}
            knots={item.last?.caughtBy ?? []}
          />
        )
      }
    />
  );
  const folderLine = (branch: Branch, place: Place) => (
    <FolderRow
      {...place}
      key={branch.folder.id}
      drop={moving.drop(branch.folder.id)}
      branch={branch}
      source={source}
      isOpen={!closed.has(branch.folder.id)}
      count={countOf(branch)}
      span={columns.length + 1}
      ruleColumns={hasColumns ? ruleColumns : null}
      looks={({ rule }) => looksAt(rule, branch.folder.id, null, byId)}
      watchers={eyes.get(branch.folder.id) ?? []}
      asked={sorting.asked}
      onToggle={() => toggle(branch.folder.id)}
      onEye={() => onEye(branch.folder.id)}
    />
  );
  return (
    <>
      {hasColumns && <RuleColumnHead columns={ruleColumns} />}
      <table
        className={`item-table${hasColumns ? ' has-rule-columns' : ''}`}
        style={{ '--columns': ruleColumns.length } as CSSProperties}
      >
        <Head source={source} columns={columns} more={hasColumns ? <ColumnHeads /> : null} {...sorting} />
        <TreeBody
          lines={lines}
          draw={(line, place) => ('branch' in line ? folderLine(line.branch, place) : itemLine(line, place))}
        />
      </table>
      {hasColumns && <RuleColumnLegend others={others} source={source} />}
    </>
  );
}

/** The folders of a source, and the rules and eyes that look at them. */
function useLooks(source: Source) {
  const { directory } = useViewer();
  const rules = useRules().data ?? [];
  const { columns: ruleColumns, others } = ruleColumnsOf(rules, source);
  return {
    ruleColumns,
    others,
    eyes: eyesOf(rules, source),
    byId: new Map(directory.folders.map((folder) => [folder.id, folder])),
    folders: directory.folders.filter((folder) => folder.source === source.id),
  };
}

/** Where a line stands among all, and how its height is told. */
interface Place {
  at: number;
  measure: (node: HTMLTableRowElement | null) => void;
}

/** The lines of a tree that are in view, however many there are. */
function TreeBody({ lines, draw }: { lines: readonly Line[]; draw: (line: Line, place: Place) => ReactNode }) {
  const { body, shown, measure, above, below } = useRowsInView(lines, (line) =>
    'branch' in line ? `folder ${line.branch.folder.id}` : line.item.id,
  );
  return (
    <tbody ref={body}>
      <Space height={above} />
      {shown.map(({ index }) => draw(lines[index] as Line, { at: index, measure }))}
      <Space height={below} />
    </tbody>
  );
}

/** Which folders are closed; all stand open at first. */
function useClosed() {
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const toggle = (id: string) =>
    setClosed((now) => (now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id])));
  return { closed, toggle };
}

const ColumnHeads = () => (
  <>
    <th className="watch-col" />
    <th className="rule-column" />
  </>
);

/** How many items a folder holds: what is still being fetched counts already, as long as nothing narrows the list. */
function useCounts(source: string, isNarrowed: boolean): (branch: Branch) => number {
  const counts = useSources().data?.find((one) => one.id === source)?.byFolder;
  return ({ inside, items }) =>
    counts && !isNarrowed ? [...inside].reduce((sum, id) => sum + (counts[id] ?? 0), 0) : items.length;
}

interface FolderRowProps extends Place {
  drop: DropPlace;
  branch: Branch;
  source: Source;
  isOpen: boolean;
  count: number;
  span: number;
  ruleColumns: RuleColumn[] | null;
  looks: (column: RuleColumn) => boolean;
  watchers: readonly string[];
  /** To what the list is narrowed, which a rule made here begins with. */
  asked: ItemsAsked;
  onToggle: () => void;
  onEye: () => void;
}

/** A folder as a heading over what is in it; what changed within a day is counted beside its name. */
function FolderRow({ branch, source, isOpen, ruleColumns, looks, drop, ...more }: FolderRowProps) {
  const { isOver, ...onDrag } = drop;
  const { me } = useViewer();
  const { folder, depth, items } = branch;
  const fresh = items.filter((item) => Date.parse(me.now) - Date.parse(item.lastAt) < DAY_MS);
  const isUnheard = ruleColumns !== null && !ruleColumns.some(looks);
  return (
    <tr className={`folder-row${isOver ? ' is-over' : ''}`} {...onDrag} data-index={more.at} ref={more.measure}>
      <td />
      <td colSpan={more.span} style={{ paddingLeft: `${depth * 1.1}rem` }}>
        <button type="button" aria-expanded={isOpen} onClick={more.onToggle}>
          <span aria-hidden="true" className="quiet">
            {isOpen ? '– ' : '+ '}
          </span>
          {folder.name}
        </button>{' '}
        <span className="quiet">
          {t('documents', { count: more.count })}
          {fresh.length > 0 && (
            <>
              , <span className="wash">{t('changedSinceYesterday', { fresh: fresh.length })}</span>
            </>
          )}
        </span>{' '}
        <NotedHere folder={folder.id} /> <Watchers people={more.watchers} />
        {isUnheard && <strong className="small"> {t('nobodyHears')}</strong>}
        <FolderActs folder={folder} source={source} asked={more.asked} onEye={more.onEye} />
      </td>
      {ruleColumns && <td className="watch-col" />}
      {ruleColumns && (
        <RuleColumnCell
          columns={ruleColumns}
          looks={looks}
          knots={isOpen ? [] : fresh.flatMap((item) => item.last?.caughtBy ?? [])}
        />
      )}
    </tr>
  );
}

/** What can be begun at a folder. */
function FolderActs({
  folder,
  source,
  asked,
  onEye,
}: {
  folder: Folder;
  source: Source;
  asked: ItemsAsked;
  onEye: () => void;
}) {
  const { directory } = useViewer();
  const where = stateAsked(asked, source, directory.people);
  const search = new URLSearchParams({
    source: source.id,
    under: folder.id,
    ...(where ? { where: JSON.stringify(where) } : {}),
  });
  return (
    <span className="folder-acts">
      <Button variant="link" size="sm" aria-label={t('keepAnEyeOn2', { name: folder.name })} onClick={onEye}>
        {t('keepAnEyeOnIt')}
      </Button>
      <Link to={`/rules/new?${search}`}>{t('makeARuleHere')}</Link>
    </span>
  );
}
