import { Fragment, useCallback, useEffect, useMemo } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { MessageRow } from '../../contract/api.ts';
import { instantOf } from '../../core/time/index.ts';
import { ChangeMark, dayWords, Empty, Hour, Loaded, useKeys, useListKeys, useNotice, useReading, UrgencyBar } from '../parts/index.ts';
import { useInbox, useMarkRead } from '../queries/index.ts';
import { MessageSheet } from './message-sheet.tsx';
import { headlineOf } from './message-words.ts';

/** A person's messages by day, the one in focus in the sheet beside them. */
export function InboxPage() {
  const { message: open = null } = useParams();
  const [search] = useSearchParams();
  const unreadOnly = search.get('show') === 'unread';
  const navigate = useNavigate();
  const inbox = useInbox(unreadOnly);
  const { mutate: mark } = useMarkRead();
  const { me } = useReading();
  const notice = useNotice();
  const messages = useMemo(() => inbox.data?.pages.flatMap((page) => page.messages) ?? [], [inbox.data]);
  const query = unreadOnly ? '?show=unread' : '';
  const onOpen = useCallback((id: string) => void navigate(`/inbox/${id}${query}`), [navigate, query]);
  const onClose = useCallback(() => void navigate(`/inbox${query}`), [navigate, query]);
  useListKeys(messages.map((one) => one.id), open, onOpen);
  useKeys(useMemo(() => ({ u: () => {
    if (!open) return;
    mark({ unread: open });
    onClose();
  } }), [open, mark, onClose]));

  const focused = messages.find((one) => one.id === open);
  useEffect(() => {
    if (focused && focused.readAt === null) mark({ ids: [focused.id] });
  }, [focused?.id, focused?.readAt, mark, focused]);

  return (
    <div className={`with-sheet${open ? ' is-open' : ''}`}>
      <main className="page">
        <div className="page-head">
          <h1>Inbox</h1>
          <span className="quiet">{me.unread === 0 ? 'all read' : `${me.unread} unread`}</span>
          <div className="acts">
            <ul className="tabs">
              <li><Link to="/inbox" className={unreadOnly ? '' : 'active'} aria-current={!unreadOnly}>All</Link></li>
              <li><Link to="/inbox?show=unread" className={unreadOnly ? 'active' : ''} aria-current={unreadOnly}>Unread</Link></li>
            </ul>
            <Button variant="quiet" disabled={me.unread === 0} onClick={() => mark({ all: true }, { onSuccess: () => notice({ words: 'All of your messages are read.' }) })}>Mark all read</Button>
          </div>
        </div>
        <Loaded query={inbox} what="your messages" rows={10}>
          {() => messages.length === 0 ? <NoMessages unreadOnly={unreadOnly} /> : (
            <>
              <MessageList messages={messages} open={open} query={query} />
              {inbox.hasNextPage && <div className="mt-3" style={{ paddingLeft: '6rem' }}><Button variant="outline-primary" size="sm" disabled={inbox.isFetchingNextPage} onClick={() => inbox.fetchNextPage()}>{inbox.isFetchingNextPage ? 'Loading…' : 'Show earlier messages'}</Button></div>}
            </>
          )}
        </Loaded>
      </main>
      {open && <MessageSheet id={open} onClose={onClose} onUnread={() => { mark({ unread: open }); onClose(); }} />}
    </div>
  );
}

function NoMessages({ unreadOnly }: { unreadOnly: boolean }) {
  if (unreadOnly) return <Empty title="Nothing unread"><p>What arrives appears here by itself.</p><Link to="/inbox">Look at all messages</Link></Empty>;
  return <Empty title="Nothing has reached you yet"><p>Here you will read what changed in what concerns you, the moment it happens. A rule says what that is.</p><Link to="/sources" className="btn btn-primary">Look at the sources</Link></Empty>;
}

function MessageList({ messages, open, query }: { messages: MessageRow[]; open: string | null; query: string }) {
  const { me } = useReading();
  const now = instantOf(me.now);
  const days = new Map<string, MessageRow[]>();
  for (const message of messages) {
    const day = dayWords(instantOf(message.at), now, me);
    days.set(day, [...(days.get(day) ?? []), message]);
  }
  return [...days].map(([day, own]) => (
    <Fragment key={day}>
      <h2 className="day">{day}</h2>
      <ol className="log">
        {own.map((message) => <Row key={message.id} message={message} isOpen={message.id === open} query={query} />)}
      </ol>
    </Fragment>
  ));
}

function Row({ message, isOpen, query }: { message: MessageRow; isOpen: boolean; query: string }) {
  const isUnread = message.readAt === null;
  const [first] = message.content.entries;
  const isGathered = message.form === 'digest' || message.content.entries.length !== 1;
  return (
    <li className={`log-row${isUnread ? ' is-unread' : ''}${isOpen ? ' is-open' : ''}`} data-row={message.id}>
      <Hour at={message.at} />
      <UrgencyBar urgency={message.urgency} />
      <div>
        <Link className="cover" to={`/inbox/${message.id}${query}`} aria-current={isOpen}>
          <span className="headline">{isUnread && <span className="visually-hidden">Unread: </span>}{headlineOf(message)}</span>
        </Link>
        {message.form === 'notice' ? <div className="below">{message.content.lead}</div> : isGathered || !first ? <DigestLines message={message} /> : (
          <>
            <div>{first.fields.length > 0 && <ChangeMark fields={first.fields.slice(0, 2)} isSeen={!isUnread} />}{first.fields.length > 2 && <span className="quiet">, and {first.fields.length - 2} more</span>}{first.notes.join(', ')} {first.steps.length > 0 && <span className="quiet">by {first.steps.at(-1)?.actor}</span>}</div>
            <div className="below">{first.rules.map((rule) => rule.name).join(', ')}</div>
          </>
        )}
      </div>
    </li>
  );
}

function DigestLines({ message }: { message: MessageRow }) {
  const { entries } = message.content;
  const titles = entries.map((entry) => (entry.steps.length > 1 ? `${entry.item.title} ${entry.steps.length} times` : entry.item.title));
  const rules = new Set(entries.flatMap((entry) => entry.rules.map((rule) => rule.name)));
  return (
    <>
      <div className="quiet">{titles.slice(0, 3).join(', ')}{titles.length > 3 && `, and ${titles.length - 3} more`}</div>
      <div className="below">{rules.size === 1 ? [...rules][0] : `from ${rules.size} rules`}</div>
    </>
  );
}
