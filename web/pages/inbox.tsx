import { Fragment, useCallback, useEffect, useMemo } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { MessageRow } from '../../contract/api.ts';
import { instantOf } from '../../core/time/index.ts';
import { ChangeMark, dayWords, Empty, Hour, Loaded, useKeys, useListKeys, useNotice, useReading, useSettled, UrgencyBar } from '../parts/index.ts';
import { type InboxAsked, useInbox, useMarkRead, useRules } from '../queries/index.ts';
import { MessageSheet } from './message-sheet.tsx';
import { headlineOf } from './message-words.ts';

/** A person's messages by day, the one in focus in the sheet beside them. */
export function InboxPage() {
  const { message: open = null } = useParams();
  const [search, setSearch] = useSearchParams();
  const show = search.get('show') ?? '';
  const asked: InboxAsked = { ...(show === 'unread' ? { unread: '1' } : show === 'waits' ? { waits: '1' } : {}), ...Object.fromEntries(NARROWED.flatMap((key) => (search.get(key) ? [[key, search.get(key)]] : []))) };
  const put = (key: string, value: string) => setSearch((now) => {
    const next = new URLSearchParams(now);
    if (value) next.set(key, value); else next.delete(key);
    return next;
  }, { replace: true });
  const navigate = useNavigate();
  const inbox = useInbox(useSettled(asked));
  const { mutate: mark } = useMarkRead();
  const { me } = useReading();
  const notice = useNotice();
  const messages = useMemo(() => inbox.data?.pages.flatMap((page) => page.messages) ?? [], [inbox.data]);
  const query = search.size > 0 ? `?${search}` : '';
  const isNarrowed = Object.keys(asked).length > (asked.unread ? 1 : 0);
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
              {SHOWN.map(([value, words]) => <li key={value}><button type="button" className={show === value ? 'active' : ''} aria-pressed={show === value} onClick={() => put('show', value)}>{words}</button></li>)}
            </ul>
            <Button variant="quiet" disabled={me.unread === 0} onClick={() => mark({ all: true }, { onSuccess: () => notice({ words: 'All of your messages are read.' }) })}>Mark all read</Button>
          </div>
        </div>
        <Narrow asked={asked} onPut={put} />
        <Loaded query={inbox} what="your messages" rows={10}>
          {() => messages.length === 0 ? <NoMessages show={show} isNarrowed={isNarrowed} onAll={() => setSearch({}, { replace: true })} /> : (
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

const NARROWED = ['text', 'rule', 'source', 'urgency'] as const;
const SHOWN = [['', 'All'], ['unread', 'Unread'], ['waits', 'To acknowledge']] as const;

/** Narrows the inbox by words, source, urgency and rule. */
function Narrow({ asked, onPut }: { asked: InboxAsked; onPut: (key: string, value: string) => void }) {
  const { directory } = useReading();
  const rules = useRules();
  const live = (rules.data ?? []).flatMap((row) => (row.live && row.state !== 'ended' ? [{ id: row.id, name: row.live.name }] : [])).sort((a, b) => a.name.localeCompare(b.name));
  return (
    <div className="filters in-one-row">
      <Form.Control type="search" aria-label="Narrow your messages by words" placeholder="Narrow by words" value={asked.text ?? ''} onChange={(event) => onPut('text', event.target.value)} />
      <Form.Select aria-label="Of which source" value={asked.source ?? ''} onChange={(event) => onPut('source', event.target.value)}><option value="">Every source</option>{directory.sources.map((one) => <option key={one.id} value={one.id}>{one.name}</option>)}</Form.Select>
      <Form.Select aria-label="By which rule" value={asked.rule ?? ''} onChange={(event) => onPut('rule', event.target.value)}><option value="">Every rule</option>{live.map((one) => <option key={one.id} value={one.id}>{one.name}</option>)}</Form.Select>
      <Form.Select aria-label="How urgent" value={asked.urgency ?? ''} onChange={(event) => onPut('urgency', event.target.value)}><option value="">Any urgency</option>{['critical', 'important', 'routine'].map((one) => <option key={one}>{one}</option>)}</Form.Select>
    </div>
  );
}

function NoMessages({ show, isNarrowed, onAll }: { show: string; isNarrowed: boolean; onAll: () => void }) {
  if (show === 'waits') return <Empty title="Nothing waits for you"><p>What somebody has to take on, and nobody has yet, stands here.</p><Button variant="outline-primary" onClick={onAll}>Look at all messages</Button></Empty>;
  if (isNarrowed) return <Empty title="No message is like that"><Button variant="outline-primary" onClick={onAll}>Look at all messages</Button></Empty>;
  if (show === 'unread') return <Empty title="Nothing unread"><p>What arrives appears here by itself.</p><Button variant="outline-primary" onClick={onAll}>Look at all messages</Button></Empty>;
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
