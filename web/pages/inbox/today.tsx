import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { Sample, TodayPage as Page } from '../../../contract/wire/index.ts';
import { CHANNEL_WORDS } from '../../../contract/words.ts';
import { itemPath, rulePath } from '../../../core/messages/index.ts';
import { instantOf, printInstant } from '../../../core/time/index.ts';
import { Loaded, shortTime, Time, UrgencyBar, useNotice, useViewer, WhatHappened } from '../../parts/index.ts';
import { useInboxAct, useRules, useToday } from '../../queries/index.ts';
import { headlineOf, nextWords } from './message-words.ts';
import { documentOf, troubleOf } from '../rules/list/troubles.ts';

const WEEK = 7 * 86_400_000;

/** When somebody was last on this page, in this browser; a week ago where nobody knows. */
function useLastHere(): string {
  const { me } = useViewer();
  const key = `ojo.today.${me.id}`;
  const [since] = useState(() => localStorage.getItem(key) ?? printInstant(instantOf(me.now) - WEEK));
  useEffect(() => {
    const leave = () => localStorage.setItem(key, printInstant(instantOf(me.now)));
    addEventListener('pagehide', leave);
    return () => {
      removeEventListener('pagehide', leave);
      leave();
    };
  }, [key, me.now]);
  return since;
}

/** The first page: what waits for one, what changed in what one keeps an eye on, the next digests, and rules that want somebody. */
export function TodayPage() {
  const { me } = useViewer();
  const since = useLastHere();
  const today = useToday(since);
  return (
    <main className="page">
      <div className="page-head">
        <h1>Today</h1>
        <span className="quiet">
          {me.unread === 0 ? 'all messages read' : <Link to="/inbox?show=unread">{me.unread} unread</Link>}
        </span>
      </div>
      <Loaded query={today} what="what is new" rows={8}>
        {(page) => (
          <div className="today">
            <div>
              <Waiting page={page} />
              <Changed page={page} />
            </div>
            <aside aria-label="What comes next">
              <Digests page={page} />
              <Wanting />
            </aside>
          </div>
        )}
      </Loaded>
    </main>
  );
}

function Waiting({ page }: { page: Page }) {
  const viewer = useViewer();
  const act = useInboxAct();
  const notice = useNotice();
  return (
    <section>
      <h2>Waits for you</h2>
      {page.waiting.length === 0 ? (
        <p className="quiet">Nothing has to be acknowledged.</p>
      ) : (
        <ol className="log">
          {page.waiting.map((message) => (
            <li key={message.id} className="log-row is-unread">
              <Time at={message.at} />
              <UrgencyBar urgency={message.urgency} />
              <div>
                <Link className="cover" to={`/inbox/${message.id}?show=waits`}>
                  <span className="headline">{headlineOf(message)}</span>
                </Link>
                <div className="below">
                  {message.content.entries.flatMap((entry) => entry.doNow).join(' ') ||
                    'Acknowledge it, and reminders stop.'}
                </div>
                {message.next.slice(0, 2).map((step) => (
                  <div key={`${step.what} ${step.at}`} className="below">
                    {nextWords(step, viewer)}
                  </div>
                ))}
              </div>
              <Button
                variant="outline-primary"
                size="sm"
                style={{ alignSelf: 'start' }}
                disabled={act.isPending}
                aria-label={`Acknowledge: ${headlineOf(message)}`}
                onClick={() =>
                  act.mutate({ acknowledge: [message.id] }, { onSuccess: () => notice({ words: 'You have it.' }) })
                }
              >
                Acknowledge
              </Button>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

/** What happened since, item by item, as one readable page. */
function Changed({ page }: { page: Page }) {
  const { source, person } = useViewer();
  const items = new Map<string, Sample[]>();
  for (const sample of page.changes.toReversed()) items.set(sample.item, [...(items.get(sample.item) ?? []), sample]);
  return (
    <section>
      <h2>
        Changed since <Time at={page.since} />, in what you keep an eye on
      </h2>
      {page.eyes === 0 && (
        <p className="quiet">
          You keep an eye on nothing yet. It takes one press on any item, folder or source.{' '}
          <Link to="/sources">Look at the sources</Link>
        </p>
      )}
      {page.eyes > 0 && items.size === 0 && (
        <p className="quiet">
          Nothing. <Link to="/trail">The Trail has everything else.</Link>
        </p>
      )}
      {[...items].map(([id, own]) => {
        const [newest] = own;
        const of = newest && source(newest.source);
        return (
          newest &&
          of && (
            <div key={id} className="today-item">
              <Link className="title" to={itemPath(id)}>
                {newest.title}
              </Link>{' '}
              <span className="quiet small">{of.name}</span>
              <ol className="plain-list">
                {own.slice(0, 5).map((sample) => (
                  <li key={sample.row.id}>
                    <Time at={sample.row.at} />
                    <span>
                      <WhatHappened row={sample.row} source={of} most={3} />{' '}
                      <span className="quiet">by {person(sample.row.actor)}</span>
                    </span>
                  </li>
                ))}
              </ol>
              {own.length > 5 && (
                <Link className="small" to={`/trail?item=${encodeURIComponent(id)}`}>
                  {own.length - 5} more
                </Link>
              )}
            </div>
          )
        );
      })}
      {page.isCut && (
        <p className="small quiet mt-2">
          Only the newest are shown. <Link to="/trail">The Trail has all.</Link>
        </p>
      )}
    </section>
  );
}

function Digests({ page }: { page: Page }) {
  const { me } = useViewer();
  return (
    <section>
      <h2>Next digests</h2>
      {page.digests.length === 0 ? (
        <p className="quiet">Nothing gathers for you now.</p>
      ) : (
        <ul className="plain-list">
          {page.digests.map(({ channel, at, items }) => (
            <li key={`${channel} ${at}`}>
              <strong>{shortTime(instantOf(at), instantOf(me.now), me)}</strong> {CHANNEL_WORDS[channel]}: {items} item
              {items === 1 ? '' : 's'} so far
            </li>
          ))}
        </ul>
      )}
      <p className="small mt-2">
        <Link to="/plan">How Ojo reaches you</Link>
      </p>
    </section>
  );
}

/** For those who look after rules: which want somebody. */
function Wanting() {
  const viewer = useViewer();
  const rules = useRules();
  const wanting = (rules.data ?? [])
    .filter((row) => row.mayEdit)
    .flatMap((row) => {
      const trouble = troubleOf(row, viewer);
      return trouble ? [{ row, trouble }] : [];
    });
  if (wanting.length === 0) return null;
  return (
    <section>
      <h2>Rules that want somebody</h2>
      <ul className="plain-list">
        {wanting.slice(0, 6).map(({ row, trouble }) => (
          <li key={row.id}>
            <Link to={rulePath(row.id)}>{documentOf(row).name}</Link>
            <div className="small">
              <strong>{trouble.head}</strong> {trouble.words}
            </div>
          </li>
        ))}
      </ul>
      {wanting.length > 6 && (
        <Link className="small" to="/rules?show=troubles">
          {wanting.length - 6} more
        </Link>
      )}
    </section>
  );
}
