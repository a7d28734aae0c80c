import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import {
  Empty,
  Loaded,
  ProblemNote,
  useKeys,
  useListKeys,
  useNotice,
  useViewer,
  useSettled,
  useTyped,
} from '../../parts/index.ts';
import { type InboxAsked, useInbox, useInboxAct } from '../../queries/index.ts';
import { MessageList } from './list.tsx';
import { NARROWED, Narrow } from './narrow.tsx';
import { MessageSheet } from './message-sheet.tsx';
import { t } from '../../words/inbox.ts';

const shown = () =>
  [
    ['', t('all')],
    ['unread', t('unread')],
    ['waits', t('toAcknowledge')],
  ] as const;

/** A person's messages by day, the one in focus in the sheet beside them. */
export function InboxPage() {
  const { message: open = null } = useParams();
  const [search, setSearch] = useSearchParams();
  const show = search.get('show') ?? '';
  const asked: InboxAsked = {
    ...(show === 'unread' ? { unread: '1' } : show === 'waits' ? { waits: '1' } : {}),
    ...Object.fromEntries(NARROWED.flatMap((key) => (search.get(key) ? [[key, search.get(key)]] : []))),
  };
  const put = (key: string, value: string) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const navigate = useNavigate();
  const inbox = useInbox(useSettled({ ...asked, text: useTyped(asked.text ?? '') || undefined }));
  const act = useInboxAct();
  const { mutate } = act;
  const { me } = useViewer();
  const notice = useNotice();
  const messages = useMemo(() => inbox.data?.pages.flatMap((page) => page.messages) ?? [], [inbox.data]);
  const query = search.size > 0 ? `?${search}` : '';
  const isNarrowed = Object.keys(asked).length > (asked.unread ? 1 : 0);
  const onOpen = useCallback((id: string) => void navigate(`/inbox/${id}${query}`), [navigate, query]);
  const onClose = useCallback(() => void navigate(`/inbox${query}`), [navigate, query]);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const choose = useCallback(
    (id: string) =>
      setChosen((now) => (now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id]))),
    [],
  );

  const reveal = useRef<(id: string) => void>(() => undefined);
  const onReveal = useCallback((own: (id: string) => void) => {
    reveal.current = own;
  }, []);
  useListKeys(
    messages.map((one) => one.id),
    open,
    onOpen,
    (id) => reveal.current(id),
  );
  useKeys(
    useMemo(() => {
      const ids = chosen.size > 0 ? [...chosen] : open ? [open] : [];
      const run = (what: Parameters<typeof mutate>[0], words: string, then?: () => void) =>
        ids.length > 0 &&
        mutate(what, {
          onSuccess: () => {
            notice({ words });
            setChosen(new Set());
            then?.();
          },
        });
      return {
        e: () => run({ acknowledge: ids }, ids.length === 1 ? t('youHaveIt') : t('acknowledged', { ids: ids.length })),
        u: () => run({ unread: ids }, t('unreadAgain', { ids: ids.length }), chosen.size === 0 ? onClose : undefined),
        x: () => open && choose(open),
      };
    }, [open, chosen, choose, mutate, notice, onClose]),
  );

  // A message is read once it is opened; opening the same one again after marking it unread reads it again.
  const opened = useRef<string | null>(null);
  const focused = messages.find((one) => one.id === open);
  useEffect(() => {
    if (opened.current === open) return;
    if (!focused) return;
    opened.current = open;
    if (focused.readAt === null) mutate({ read: [focused.id] });
  }, [open, focused, mutate]);
  useEffect(() => {
    if (open === null) opened.current = null;
  }, [open]);

  const { fetchNextPage, hasNextPage, isFetchingNextPage } = inbox;
  const onMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  return (
    <div className={`with-sheet${open ? ' is-open' : ''}`}>
      <main className="page">
        <div className="page-head">
          <h1>{t('inbox')}</h1>
          <span className="quiet">{me.unread === 0 ? t('allRead') : t('unread2', { unread: me.unread })}</span>
          <div className="acts">
            <ul className="tabs">
              {shown().map(([value, words]) => (
                <li key={value}>
                  <button
                    type="button"
                    className={show === value ? 'active' : ''}
                    aria-pressed={show === value}
                    onClick={() => put('show', value)}
                  >
                    {words}
                  </button>
                </li>
              ))}
            </ul>
            <Button
              variant="quiet"
              disabled={me.unread === 0}
              onClick={() => mutate({ read: 'all' }, { onSuccess: () => notice({ words: t('allOfYourMessagesAre') }) })}
            >
              {t('markAllRead')}
            </Button>
          </div>
        </div>
        <Narrow asked={asked} onPut={put} />
        {act.error && <ProblemNote error={act.error} />}
        <Loaded query={inbox} what={t('yourMessages')} rows={10}>
          {() =>
            messages.length === 0 ? (
              <NoMessages show={show} isNarrowed={isNarrowed} onAll={() => setSearch({}, { replace: true })} />
            ) : (
              <MessageList
                messages={messages}
                open={open}
                query={query}
                chosen={chosen}
                onChoose={choose}
                onMore={hasNextPage && !isFetchingNextPage ? onMore : null}
                onReveal={onReveal}
              />
            )
          }
        </Loaded>
        {isFetchingNextPage && (
          <p className="quiet small mt-2" role="status">
            {t('earlierMessagesAreOnTheir')}
          </p>
        )}
        {chosen.size > 0 && (
          <section className="chosen-bar" aria-label={t('theChosenMessages')}>
            <p>
              <strong>{t('messagesChosen', { chosen: chosen.size })}</strong>
            </p>
            <div className="acts">
              <Button
                variant="outline-light"
                onClick={() =>
                  mutate(
                    { acknowledge: [...chosen] },
                    {
                      onSuccess: () => {
                        notice({ words: t('acknowledged2', { chosen: chosen.size }) });
                        setChosen(new Set());
                      },
                    },
                  )
                }
              >
                {t('acknowledge')}
              </Button>
              <Button
                variant="outline-light"
                onClick={() =>
                  mutate(
                    { read: [...chosen] },
                    {
                      onSuccess: () => {
                        notice({
                          words: t('read', { chosen: chosen.size }),
                          undo: () => mutate({ unread: [...chosen] }),
                        });
                        setChosen(new Set());
                      },
                    },
                  )
                }
              >
                {t('markRead')}
              </Button>
              <Button
                variant="outline-light"
                onClick={() =>
                  mutate(
                    { unread: [...chosen] },
                    {
                      onSuccess: () => {
                        notice({
                          words: t('unreadAgain2', { chosen: chosen.size }),
                          undo: () => mutate({ read: [...chosen] }),
                        });
                        setChosen(new Set());
                      },
                    },
                  )
                }
              >
                {t('unreadAgain3')}
              </Button>
              <Button
                variant="outline-light"
                onClick={() => setChosen(new Set(messages.slice(0, 500).map((one) => one.id)))}
              >
                {t('chooseAllShown', { min: Math.min(500, messages.length) })}
              </Button>
              <Button variant="link" className="on-ink" onClick={() => setChosen(new Set())}>
                {t('clear')}
              </Button>
            </div>
          </section>
        )}
      </main>
      {open && (
        <MessageSheet
          id={open}
          onClose={onClose}
          onUnread={() => {
            mutate({ unread: [open] });
            onClose();
          }}
        />
      )}
    </div>
  );
}

function NoMessages({ show, isNarrowed, onAll }: { show: string; isNarrowed: boolean; onAll: () => void }) {
  const all = (
    <Button variant="outline-primary" onClick={onAll}>
      {t('lookAtAllMessages')}
    </Button>
  );
  if (show === 'waits')
    return (
      <Empty title={t('nothingWaitsForYou')}>
        <p>{t('whatSomebodyHasToTake')}</p>
        {all}
      </Empty>
    );
  if (isNarrowed) return <Empty title={t('noMessageIsLikeThat')}>{all}</Empty>;
  if (show === 'unread')
    return (
      <Empty title={t('nothingUnread')}>
        <p>{t('whatArrivesAppearsHereBy')}</p>
        {all}
      </Empty>
    );
  return (
    <Empty title={t('nothingHasReachedYouYet')}>
      <p>{t('hereYouWillReadWhat')}</p>
      <Link to="/sources" className="btn btn-primary">
        {t('lookAtTheSources')}
      </Link>
    </Empty>
  );
}
