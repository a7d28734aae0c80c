import { useCallback, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { itemPath } from '../../../core/messages/index.ts';
import type { Folder } from '../../../core/people/index.ts';
import { LIMITS } from '../../../contract/limits.ts';
import { notedBy } from '../../../core/documents/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { Empty, Loaded, Sheet, useListKeys, useSettled, useTyped, useViewer, sourceKind } from '../../parts/index.ts';
import { type ItemsAsked, useItemPages, useMore } from '../../queries/index.ts';
import { EyeOn } from './eyes.tsx';
import { ItemSheet } from './item-sheet.tsx';
import { NewItemSheet } from './new-item-sheet.tsx';
import { FilterBar, stateAsked } from './filter-bar.tsx';
import { FolderTable } from './folder-table.tsx';
import { ItemTable } from './item-table.tsx';
import { ChosenItems } from '../documents/chosen-items.tsx';
import { Uploads } from '../documents/uploads.tsx';
import { Calendars } from '../tables/calendars.tsx';
import { AsFile } from '../tables/as-file.tsx';
import { WhoHearsWhat } from './who-hears-what.tsx';
import { OfferedRules } from './offered-rules.tsx';
import { Doors } from './doors.tsx';
import { seenOf, SourceTabs } from './source-tabs.tsx';
import { FormsBehindLinks } from './forms-behind-links.tsx';
import { WhoMay } from './who-may.tsx';
import { phrases } from '../../words/index.ts';
import { t as defining } from '../../words/defining.ts';
import { t as rights } from '../../words/access.ts';
import { t } from '../../words/sources.ts';
import { t as tables } from '../../words/tables.ts';

/** One source: its items with what happened last, the one in focus in the sheet beside them. */
export function SourcePage() {
  const { source: id = '', item: open = null } = useParams();
  const { source: sourceOf } = useViewer();
  const source = sourceOf(id);
  if (!source)
    return (
      <main className="page">
        <Empty title={t('nothingIsHereThatYou')}>
          <p>{t('theSourceMayHaveBeen')}</p>
          <Link to="/sources">{t('allSources')}</Link>
        </Empty>
      </main>
    );
  return <Listed key={id} source={source} open={open} />;
}

/** What is seen of a source: what it holds, who hears of it, or who may do what in it. */
const ASKED = ['text', 'where', 'sort', 'down'] as const;

/** What is asked of a source and which item is open, as the page's address has it, and the ways to another. */
function useAddress(source: Source) {
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const asked: ItemsAsked = Object.fromEntries(
    ASKED.flatMap((key) => (search.get(key) ? [[key, search.get(key)]] : [])),
  );
  const query = search.size > 0 ? `?${search}` : '';
  const base = `/sources/${encodeURIComponent(source.id)}`;
  const onAsk = useCallback(
    (next: ItemsAsked) =>
      setSearch(
        (now) => {
          const eye = now.get('eye');
          const kept = Object.entries({ ...next, eye }).filter((pair): pair is [string, string] => Boolean(pair[1]));
          return new URLSearchParams(kept);
        },
        { replace: true },
      ),
    [setSearch],
  );
  const onOpen = useCallback(
    (item: string) => void navigate(`${base}/${encodeURIComponent(item)}${query}`),
    [navigate, base, query],
  );
  const onClose = useCallback(() => void navigate(`${base}${query}`), [navigate, base, query]);
  const onEye = useCallback(
    (on: string | null) => {
      const next = new URLSearchParams(search);
      if (on === null) next.delete('eye');
      else next.set('eye', on);
      void navigate(`${base}${next.size > 0 ? `?${next}` : ''}`);
    },
    [navigate, base, search],
  );
  return {
    asked,
    base,
    see: seenOf(search.get('see')),
    eye: search.get('eye'),
    onAsk,
    onOpen,
    onClose,
    onEye,
  };
}

function Listed({ source, open }: { source: Source; open: string | null }) {
  const address = useAddress(source);
  const { me, directory } = useViewer();
  const { asked, base, see, eye, onOpen, onClose, onEye } = address;
  const items = useItemPages(source.id, useSettled({ ...asked, text: useTyped(asked.text ?? '') || undefined }));
  const all = items.data?.pages.flatMap((page) => page.items) ?? [];
  const total = items.data?.pages[0]?.total ?? 0;
  useListKeys(
    all.map((item) => item.id),
    open,
    onOpen,
  );
  const folder = directory.folders.find((one) => one.id === eye && one.source === source.id);
  const isSheetOpen = open !== null || eye !== null;
  const listed = directory.sources.find((one) => one.id === source.id);
  const sheetOf = listed?.sheetOf;
  const [isAdding, setAdding] = useState(false);
  const mayAdd = source.kind === 'folders' && listed?.onlyAddedBy === undefined;
  return (
    <div className={`with-sheet${isSheetOpen ? ' is-open' : ''}`}>
      <main
        className="page"
        onDragEnter={mayAdd ? ({ dataTransfer }) => dataTransfer.types.includes('Files') && setAdding(true) : undefined}
      >
        <p className="crumbs">
          <Link to="/sources">{t('sources')}</Link> /{' '}
          {sheetOf ? <Link to={itemPath(sheetOf)}>{tables('rowsOfDocument')}</Link> : sourceKind(source.kind)}
        </p>
        <SourceHead
          source={source}
          asked={asked}
          // What was found before is not what is asked for now.
          total={items.data && !items.isPlaceholderData ? total : null}
          onAdd={() => (source.kind === 'folders' ? setAdding(true) : onOpen('new'))}
          onEye={() => onEye(WHOLE)}
        />
        <SourceTabs
          source={source}
          base={base}
          see={see}
          hasForms={hasForms(source, sheetOf, directory.coordinates)}
          hasDoors={hasDoors(source, sheetOf, me.role)}
        />
        {isAdding && <Uploads source={source} onDone={() => setAdding(false)} />}
        {see === 'hearing' && <WhoHearsWhat source={source} />}
        {see === 'rights' && <WhoMay source={source} />}
        {see === 'forms' && <FormsBehindLinks source={source} />}
        {see === 'doors' && <Doors source={source} />}
        {see === 'items' && <Items source={source} items={items} open={open} isNarrow={isSheetOpen} {...address} />}
      </main>
      {open === 'new' && <NewItemSheet source={source} onClose={onClose} onMade={onOpen} />}
      {open !== null && open !== 'new' && <ItemSheet id={open} onClose={onClose} />}
      {open === null && eye !== null && (
        <EyeSheet source={source} folder={folder} asked={asked} total={total} onClose={() => onEye(null)} />
      )}
    </div>
  );
}

/** Whether the reader sets up forms by which people without an account add to it. */
const hasForms = ({ id, kind }: Source, sheetOf: string | undefined, coordinates: readonly string[]): boolean =>
  (kind === 'list' || kind === 'records') && sheetOf === undefined && coordinates.includes(id);

/** Whether the reader sets up doors by which other programs hand changes of it in. */
const hasDoors = ({ kind }: Source, sheetOf: string | undefined, role: string): boolean =>
  role === 'steward' && kind !== 'folders' && sheetOf === undefined;

/** Stands in the address for an eye on the source, or on what is asked of it, and on no folder. */
const WHOLE = 'whole';

interface EyeSheetProps {
  source: Source;
  /** What is below it is looked at; absent where it is the whole source, or what is asked of it. */
  folder: Folder | undefined;
  asked: ItemsAsked;
  total: number;
  onClose: () => void;
}

/** An eye to be kept on a folder, on what is asked of a source, or on all of it. */
function EyeSheet({ source, folder, asked, total, onClose }: EyeSheetProps) {
  const { directory } = useViewer();
  const where = folder ? null : stateAsked(asked, source, directory.people);
  const name = folder?.name ?? source.name;
  const folders = new Map(directory.folders.map((one) => [one.id, one]));
  const of = folder
    ? { under: { id: folder.id, name }, isNoted: notedBy(folder.id, folders) !== null }
    : { where: where ?? undefined };
  return (
    <Sheet label={t('keepAnEyeOnThe')} name="eye" onClose={onClose}>
      <h2>{where ? t('keepAnEyeOnThese', { total }) : t('keepAnEyeOn2', { name })}</h2>
      <EyeOn key={folder?.id ?? JSON.stringify(where)} target={{ source, ...of }} onDone={onClose} />
    </Sheet>
  );
}

interface HeadProps {
  source: Source;
  asked: ItemsAsked;
  /** How many there are; `null` until it is known. */
  total: number | null;
  onAdd: () => void;
  onEye: () => void;
}

/** Who adds here, where the reader may not. */
function whoAddsWords(listed: { sheetOf?: string | undefined; onlyAddedBy?: string[] | undefined }): string {
  if (listed.sheetOf) return rights('rowsFollow');
  return rights('onlyByThese', { who: phrases().and(listed.onlyAddedBy ?? []) || rights('nobody') });
}

/** The source's name, how many items are asked for, and what is done here: adding, an eye, a rule. */
function SourceHead({ source, asked, total, onAdd, onEye }: HeadProps) {
  const { me, directory } = useViewer();
  const listed = directory.sources.find((one) => one.id === source.id);
  const where = stateAsked(asked, source, directory.people);
  const ruleHere = `/rules/new?${new URLSearchParams({ source: source.id, ...(where ? { where: JSON.stringify(where) } : {}) })}`;
  const counted = asked.text || asked.where ? 'foundCount' : 'itemsCount';
  const [isCalendar, setCalendar] = useState(false);
  return (
    <>
      <div className="page-head">
        <h1>{source.name}</h1>
        <span className="quiet">{total === null ? ' ' : t(counted, { total })}</span>
        <div className="acts">
          {listed?.onlyAddedBy === undefined ? (
            <Button variant="quiet" onClick={onAdd}>
              {t('add')} {source.kind === 'folders' ? t('aDocument') : t('anItem')}
            </Button>
          ) : (
            <span className="quiet small">{whoAddsWords(listed)}</span>
          )}
          <AsFile
            source={source}
            asked={asked}
            mayTakeIn={listed?.sheetOf === undefined}
            onCalendar={() => setCalendar(true)}
          />
          {me.role === 'steward' && !listed?.sheetOf && (source.kind === 'list' || source.kind === 'records') && (
            <Link className="btn btn-quiet" to={`/define/${encodeURIComponent(source.id)}`}>
              {defining('changeFields')}
            </Link>
          )}
          <Button variant="outline-primary" onClick={onEye}>
            {t('keepAnEyeOnIt')}
          </Button>
          <Link className="btn btn-primary" to={ruleHere}>
            {where && total !== null ? t('makeARuleForThese', { total }) : t('makeARuleHere')}
          </Link>
        </div>
      </div>
      <p className="quiet">{listed?.about}</p>
      {isCalendar && <Calendars source={source} asked={asked} onDone={() => setCalendar(false)} />}
    </>
  );
}

interface ItemsProps extends Pick<ReturnType<typeof useAddress>, 'asked' | 'onAsk' | 'onOpen' | 'onEye'> {
  source: Source;
  items: ReturnType<typeof useItemPages>;
  open: string | null;
  isNarrow: boolean;
}

/** What is asked for of a source, to be narrowed and sorted: as a tree where it has folders, as a table otherwise. */
function Items({ source, items, open, isNarrow, asked, onAsk, onOpen, onEye }: ItemsProps) {
  const onMore = useMore(items);
  const Table = source.kind === 'folders' ? FolderTable : ItemTable;
  const { chosen, onChoose, put } = useChosen();
  const listed = items.data?.pages.flatMap((page) => page.items) ?? [];
  const rows = listed.filter(({ id }) => chosen.has(id));
  const total = items.data?.pages[0]?.total ?? 0;
  const most = Math.min(total, LIMITS.actItems);
  const [isComing, setComing] = useState(false);
  /** Those that are not here yet are fetched first. */
  const chooseAll = async () => {
    setComing(true);
    let all = listed;
    for (let next = items.hasNextPage; next && all.length < most; ) {
      const come = await items.fetchNextPage();
      all = come.data?.pages.flatMap((page) => page.items) ?? all;
      next = come.hasNextPage && !come.isError;
    }
    put(all.slice(0, most).map(({ id }) => id));
    setComing(false);
  };
  return (
    <>
      <FilterBar source={source} asked={asked} onAsk={onAsk} />
      <Loaded query={items} what={source.name} rows={9}>
        {({ pages }) =>
          pages[0]?.total === 0 ? (
            <>
              <NoItems isNarrowed={Boolean(asked.text || asked.where)} onAll={() => onAsk({})} />
              <OfferedRules source={source} />
            </>
          ) : (
            <Table
              source={source}
              items={pages.flatMap((page) => page.items)}
              total={pages[0]?.total ?? 0}
              names={Object.assign({}, ...pages.map((page) => page.names)) as Record<string, string>}
              open={open}
              isNarrow={isNarrow}
              onOpen={onOpen}
              onMore={onMore}
              onEye={onEye}
              chosen={chosen}
              onChoose={onChoose}
              asked={asked}
              onAsk={onAsk}
            />
          )
        }
      </Loaded>
      {rows.length > 0 && (
        <ChosenItems
          source={source}
          chosen={rows}
          all={rows.length < most ? { most, total, isComing, choose: () => void chooseAll() } : null}
          onClear={() => put([])}
        />
      )}
    </>
  );
}

/** The items that are ticked. */
function useChosen() {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const onChoose = useCallback(
    (id: string) =>
      setChosen((now) => (now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id]))),
    [],
  );
  return { chosen, onChoose, put: (ids: string[]) => setChosen(new Set(ids)) };
}

const NoItems = ({ isNarrowed, onAll }: { isNarrowed: boolean; onAll: () => void }) => (
  <Empty title={isNarrowed ? t('nothingIsLikeThatNow') : t('nothingIsInHereYet')}>
    {isNarrowed ? (
      <Button variant="outline-primary" onClick={onAll}>
        {t('showAll')}
      </Button>
    ) : (
      <p>{t('whatIsAddedAppearsHere')}</p>
    )}
  </Empty>
);
