import { useCallback, useMemo } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { Empty, Loaded, useListKeys, useNotice, useViewer, useSettled, useTyped } from '../../parts/index.ts';
import { type InboxActs, type InboxAsked, useInbox, useInboxAct, useMore } from '../../queries/index.ts';
import { MessageList } from './list.tsx';
import { NARROWED, Narrow } from './narrow.tsx';
import { MessageSheet } from './message-sheet.tsx';
import { t } from '../../words/inbox.ts';
import { ChosenMessages } from './chosen-messages.tsx';
import { useChosen, useInboxKeys, useReadOnOpen, useReveal } from './inbox-keys.ts';

const shown = () =>
  [
    ['', t('all')],
    ['unread', t('unread')],
    ['waits', t('toAcknowledge')],
  ] as const;

const SHOW: Record<string, InboxAsked> = { unread: { unread: '1' }, waits: { waits: '1' } };

/** What the address asks to see, and how to ask for something else. */
function useAsked() {
  const [search, setSearch] = useSearchParams();
  const show = search.get('show') ?? '';
  const asked: InboxAsked = {
    ...SHOW[show],
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
  return {
    show,
    asked,
    put,
    query: search.size > 0 ? `?${search}` : '',
    isNarrowed: Object.keys(asked).length > (asked.unread ? 1 : 0),
    onAll: () => setSearch({}, { replace: true }),
  };
}

/** A person's messages by day, the one in focus in the sheet beside them. */
export function InboxPage() {
  const { message: open = null } = useParams();
  const { show, asked, put, query, isNarrowed, onAll } = useAsked();
  const navigate = useNavigate();
  const inbox = useInbox(useSettled({ ...asked, text: useTyped(asked.text ?? '') || undefined }));
  const act = useInboxAct();
  const messages = useMemo(() => inbox.data?.pages.flatMap((page) => page.messages) ?? [], [inbox.data]);
  const onOpen = useCallback((id: string) => void navigate(`/inbox/${id}${query}`), [navigate, query]);
  const onClose = useCallback(() => void navigate(`/inbox${query}`), [navigate, query]);
  const { chosen, choose, setChosen } = useChosen();
  const { reveal, onReveal } = useReveal();
  const ids = messages.map((one) => one.id);
  useListKeys(ids, open, onOpen, reveal);
  useInboxKeys({ open, chosen, choose, act, onDone: () => setChosen(new Set()), onClose });
  useReadOnOpen(open, messages, act);
  const onMore = useMore(inbox);
  return (
    <div className={`with-sheet${open ? ' is-open' : ''}`}>
      <main className="page">
        <InboxHead show={show} onShow={(value) => put('show', value)} act={act} />
        <Narrow asked={asked} onPut={put} />
        <Loaded query={inbox} what={t('yourMessages')} rows={10}>
          {() =>
            messages.length === 0 ? (
              <NoMessages show={show} isNarrowed={isNarrowed} onAll={onAll} />
            ) : (
              <MessageList
                messages={messages}
                open={open}
                query={query}
                chosen={chosen}
                onChoose={choose}
                onMore={inbox.hasNextPage ? onMore : null}
                onReveal={onReveal}
              />
            )
          }
        </Loaded>
        {inbox.isFetchingNextPage && (
          <p className="quiet small mt-2" role="status">
            {t('earlierMessagesAreOnTheir')}
          </p>
        )}
        {chosen.size > 0 && <ChosenMessages shown={ids} chosen={chosen} onChoose={setChosen} act={act} />}
      </main>
      {open && (
        <MessageSheet
          id={open}
          onClose={onClose}
          onUnread={() => {
            act.mutate({ unread: [open] });
            onClose();
          }}
        />
      )}
    </div>
  );
}

function InboxHead({ show, onShow, act }: { show: string; onShow: (value: string) => void; act: InboxActs }) {
  const { me } = useViewer();
  const notice = useNotice();
  return (
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
                onClick={() => onShow(value)}
              >
                {words}
              </button>
            </li>
          ))}
        </ul>
        <Button
          variant="quiet"
          disabled={me.unread === 0}
          onClick={() => act.mutate({ read: 'all' }, { onSuccess: () => notice({ words: t('allOfYourMessagesAre') }) })}
        >
          {t('markAllRead')}
        </Button>
      </div>
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
