import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { type RefObject, useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import { Form } from 'react-bootstrap';
import { Link } from 'react-router';
import type { MessageRow } from '../../../contract/wire/index.ts';
import { atLocal, dateIn, instantOf } from '../../../core/time/index.ts';
import { ChangeMark, dayWords, Hour, useViewer, UrgencyBar } from '../../parts/index.ts';
import { headlineOf } from './message-words.ts';
import { t } from '../../words/inbox.ts';

type Line = { day: string } | { message: MessageRow };

export interface ListProps {
  messages: MessageRow[];
  open: string | null;
  query: string;
  chosen: ReadonlySet<string>;
  onChoose: (id: string) => void;
  onMore: (() => void) | null;
  /** Hands out how to bring a message into view that may not be drawn just now. */
  onReveal: (reveal: (id: string) => void) => void;
}

const keyOf = (line: Line | undefined) => line && ('day' in line ? line.day : line.message.id);

const ROW = 84;
const DAY = 64;

/** Messages by day. Only those in view are drawn, however many there are. */
export function MessageList({ messages, open, query, chosen, onChoose, onMore, onReveal }: ListProps) {
  const { me } = useViewer();
  const list = useRef<HTMLOListElement>(null);
  const lines = useMemo(() => linesOf(messages, me), [messages, me]);
  const rows = useWindowVirtualizer({
    count: lines.length,
    estimateSize: (at) => (lines[at] && 'day' in lines[at] ? DAY : ROW),
    overscan: 10,
    scrollMargin: list.current?.offsetTop ?? 0,
    getItemKey: (at) => keyOf(lines[at]) ?? at,
  });
  const shown = rows.getVirtualItems();
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => {
    if (onMore && last >= lines.length - 25) onMore();
  }, [last, lines.length, onMore]);
  useEffect(
    () =>
      onReveal((id) => {
        const at = lines.findIndex((line) => 'message' in line && line.message.id === id);
        const drawn = document.querySelector(`[data-row="${CSS.escape(id)}"]`);
        if (drawn) drawn.scrollIntoView({ block: 'nearest' });
        else if (at >= 0) rows.scrollToIndex(at);
      }),
    [lines, rows, onReveal],
  );
  const size = rows.getTotalSize();
  useKeptInView(messages, size, list);
  const margin = rows.options.scrollMargin;
  return (
    <ol
      className={`log${chosen.size > 0 ? ' is-choosing' : ''}`}
      ref={list}
      style={{ height: size, position: 'relative' }}
    >
      {shown.map((row) => {
        const line = lines[row.index] as Line;
        const place = {
          position: 'absolute',
          insetInline: 0,
          top: 0,
          transform: `translateY(${row.start - margin}px)`,
        } as const;
        return 'day' in line ? (
          <li key={row.key} ref={rows.measureElement} data-index={row.index} style={place}>
            <h2 className="day">{line.day}</h2>
          </li>
        ) : (
          <Row
            key={row.key}
            message={line.message}
            isOpen={line.message.id === open}
            isChosen={chosen.has(line.message.id)}
            onChoose={onChoose}
            query={query}
            at={row.index}
            measure={rows.measureElement}
            style={place}
          />
        );
      })}
    </ol>
  );
}

/** What arrives above what is being read must not move it. */
function useKeptInView(messages: MessageRow[], size: number, list: RefObject<HTMLOListElement | null>): void {
  const before = useRef({ first: messages[0]?.id, size: 0 });
  useLayoutEffect(() => {
    const { first, size: known } = before.current;
    const isPushed = first !== undefined && first !== messages[0]?.id && messages.some((one) => one.id === first);
    if (isPushed && size > known && window.scrollY > (list.current?.offsetTop ?? 0)) window.scrollBy(0, size - known);
    before.current = { first: messages[0]?.id, size };
  }, [messages, size, list]);
}

function linesOf(messages: MessageRow[], me: { now: string; zone: string; locale: string }): Line[] {
  const now = instantOf(me.now);
  // The newest come first: a day is worked out anew only where it begins, for civil time costs more than comparing.
  let begins = Number.POSITIVE_INFINITY;
  return messages.flatMap((message): Line[] => {
    const at = Date.parse(message.at);
    if (at >= begins) return [{ message }];
    begins = atLocal(dateIn(at, me.zone), '00:00', me.zone);
    return [{ day: dayWords(at, now, me) }, { message }];
  });
}

interface RowProps {
  message: MessageRow;
  isOpen: boolean;
  isChosen: boolean;
  onChoose: (id: string) => void;
  query: string;
  at: number;
  measure: (node: HTMLLIElement | null) => void;
  style: React.CSSProperties;
}

function Row({ message, isOpen, isChosen, onChoose, query, at, measure, style }: RowProps) {
  const isUnread = message.readAt === null;
  const headline = headlineOf(message);
  return (
    <li
      className={`log-row${isUnread ? ' is-unread' : ''}${isOpen ? ' is-open' : ''}`}
      data-row={message.id}
      data-index={at}
      ref={measure}
      style={style}
    >
      <Hour at={message.at} />
      <UrgencyBar urgency={message.urgency} />
      <div>
        <Link className="cover" to={`/inbox/${message.id}${query}`} aria-current={isOpen}>
          <span className="headline">
            {isUnread && <span className="visually-hidden">{t('unread3')} </span>}
            {headline}
          </span>
        </Link>
        <Below message={message} isUnread={isUnread} />
      </div>
      <Form.Check
        className="choose"
        aria-label={t('choose', { headline })}
        checked={isChosen}
        onChange={() => onChoose(message.id)}
      />
    </li>
  );
}

/** What a message tells, below its headline. */
function Below({ message, isUnread }: { message: MessageRow; isUnread: boolean }) {
  const { entries, lead } = message.content;
  const [first, ...others] = entries;
  if (!first || message.form === 'passed') return <div className="below">{lead}</div>;
  if (others.length > 0) return <DigestLines message={message} />;
  return (
    <>
      <div>
        {first.fields.length > 0 && <ChangeMark fields={first.fields.slice(0, 2)} isSeen={!isUnread} />}
        {first.fields.length > 2 && <span className="quiet">{t('andMore', { fields: first.fields.length - 2 })}</span>}
        {first.isBack && t('backWhereItWas')}
        {first.notes.join(', ')}{' '}
        {first.steps.length > 0 && <span className="quiet">{t('by', { actor: first.steps.at(-1)?.actor ?? '' })}</span>}
      </div>
      <div className="below">{first.rules.map((rule) => rule.name).join(', ')}</div>
    </>
  );
}

function DigestLines({ message }: { message: MessageRow }) {
  const { entries } = message.content;
  const titles = entries.map((entry) =>
    entry.steps.length > 1 ? t('times', { title: entry.item.title, steps: entry.steps.length }) : entry.item.title,
  );
  const rules = new Set(entries.flatMap((entry) => entry.rules.map((rule) => rule.name)));
  return (
    <>
      <div className="quiet">
        {titles.slice(0, 3).join(', ')}
        {titles.length > 3 && t('andMore2', { titles: titles.length - 3 })}
      </div>
      <div className="below">{rules.size === 1 ? [...rules][0] : t('fromRules', { rules: rules.size })}</div>
    </>
  );
}
