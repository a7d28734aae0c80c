import { useCallback, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { Source } from '../../../core/values/index.ts';
import { Empty, Loaded, Sheet, useListKeys, useSettled, useTyped, useViewer, sourceKind } from '../../parts/index.ts';
import { type ItemsAsked, useItemPages } from '../../queries/index.ts';
import { EyeOn } from './eye.tsx';
import { ItemSheet } from './item-sheet.tsx';
import { NewItemSheet } from './new-item-sheet.tsx';
import { FilterBar, readWhere } from './filter-bar.tsx';
import { FolderTable } from './folder-table.tsx';
import { ItemTable } from './item-table.tsx';
import { WhoHearsWhat } from './who-hears-what.tsx';
import { t } from '../../words/sources.ts';

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

const ASKED = ['text', 'where', 'sort', 'down'] as const;

function Listed({ source, open }: { source: Source; open: string | null }) {
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const { directory } = useViewer();
  const [isEyeing, setEyeing] = useState(false);
  const asked: ItemsAsked = Object.fromEntries(
    ASKED.flatMap((key) => (search.get(key) ? [[key, search.get(key)]] : [])),
  );
  const items = useItemPages(source.id, useSettled({ ...asked, text: useTyped(asked.text ?? '') || undefined }));
  const { fetchNextPage, isFetchingNextPage } = items;
  const query = search.size > 0 ? `?${search}` : '';
  const base = `/sources/${encodeURIComponent(source.id)}`;
  const onAsk = useCallback(
    (next: ItemsAsked) =>
      setSearch(Object.fromEntries(Object.entries(next).filter((pair): pair is [string, string] => Boolean(pair[1]))), {
        replace: true,
      }),
    [setSearch],
  );
  const onOpen = useCallback(
    (item: string) => void navigate(`${base}/${encodeURIComponent(item)}${query}`),
    [navigate, base, query],
  );
  const onClose = useCallback(() => void navigate(`${base}${query}`), [navigate, base, query]);
  const onMore = useCallback(() => {
    if (!isFetchingNextPage) void fetchNextPage();
  }, [fetchNextPage, isFetchingNextPage]);
  const all = items.data?.pages.flatMap((page) => page.items) ?? [];
  const total = items.data?.pages[0]?.total ?? 0;
  useListKeys(
    all.map((item) => item.id),
    open,
    onOpen,
  );
  const about = directory.sources.find((one) => one.id === source.id)?.about;
  const isNarrowed = Boolean(asked.text || asked.where);
  const ruleHere = `/rules/new?${new URLSearchParams({ source: source.id, ...(asked.where ? { where: asked.where } : {}) })}`;
  const isHearing = search.get('see') === 'hearing';
  const isSheetOpen = open !== null || isEyeing;
  return (
    <div className={`with-sheet${isSheetOpen ? ' is-open' : ''}`}>
      <main className="page">
        <p className="crumbs">
          <Link to="/sources">{t('sources')}</Link> / {sourceKind(source.kind)}
        </p>
        <div className="page-head">
          <h1>{source.name}</h1>
          <span className="quiet">{items.data ? t(isNarrowed ? 'foundCount' : 'itemsCount', { total }) : ' '}</span>
          <div className="acts">
            <Button variant="quiet" onClick={() => onOpen('new')}>
              {t('add')} {source.kind === 'folders' ? t('aDocument') : t('anItem')}
            </Button>
            <Button
              variant="outline-primary"
              onClick={() => {
                onClose();
                setEyeing(true);
              }}
            >
              {t('keepAnEyeOnIt')}
            </Button>
            <Link className="btn btn-primary" to={ruleHere}>
              {asked.where && items.data ? t('makeARuleForThese', { total }) : t('makeARuleHere')}
            </Link>
          </div>
        </div>
        <p className="quiet">{about}</p>
        <ul className="tabs mt-2">
          <li>
            <Link className={isHearing ? '' : 'active'} to={base}>
              {source.kind === 'folders' ? t('papers') : t('items')}
            </Link>
          </li>
          <li>
            <Link className={isHearing ? 'active' : ''} to={`${base}?see=hearing`}>
              {t('whoHearsWhat')}
            </Link>
          </li>
          <li>
            <Link to={`/trail?source=${encodeURIComponent(source.id)}`}>{t('trail')}</Link>
          </li>
        </ul>
        {isHearing ? (
          <WhoHearsWhat source={source} />
        ) : (
          <>
            <FilterBar source={source} asked={asked} onAsk={onAsk} />
            <Loaded query={items} what={source.name} rows={9}>
              {({ pages }) => {
                const names = Object.assign({}, ...pages.map((page) => page.names)) as Record<string, string>;
                if (total === 0)
                  return (
                    <Empty title={isNarrowed ? t('nothingIsLikeThatNow') : t('nothingIsInHereYet')}>
                      {isNarrowed ? (
                        <Button variant="outline-primary" onClick={() => onAsk({})}>
                          {t('showAll')}
                        </Button>
                      ) : (
                        <p>{t('whatIsAddedAppearsHere')}</p>
                      )}
                    </Empty>
                  );
                const table = {
                  source,
                  items: all,
                  total,
                  names,
                  open,
                  isNarrow: isSheetOpen,
                  onOpen,
                  onMore,
                  asked,
                  onAsk,
                };
                return source.kind === 'folders' ? <FolderTable {...table} /> : <ItemTable {...table} />;
              }}
            </Loaded>
          </>
        )}
      </main>
      {open === 'new' ? (
        <NewItemSheet source={source} onClose={onClose} onMade={onOpen} />
      ) : open ? (
        <ItemSheet id={open} onClose={onClose} />
      ) : (
        isEyeing && (
          <Sheet label={t('keepAnEyeOnThe')} name="eye" onClose={() => setEyeing(false)}>
            <h2>{asked.where ? t('keepAnEyeOnThese', { total }) : t('keepAnEyeOn2', { name: source.name })}</h2>
            <EyeOn
              key={asked.where ?? ''}
              target={{ source, ...(asked.where ? { where: readWhere(asked.where) } : {}) }}
              onDone={() => setEyeing(false)}
            />
          </Sheet>
        )
      )}
    </div>
  );
}
