import { lazy, Suspense, useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { Sample, TodayPage as Page } from '../../../contract/wire/index.ts';
import { itemPath } from '../../../core/messages/index.ts';
import { DAY_MS, instantOf, printInstant } from '../../../core/time/index.ts';
import { Loaded, shortTime, Time, UrgencyBar, useNotice, useViewer, WhatHappened, byWhat } from '../../parts/index.ts';
import { useInboxAct, useToday } from '../../queries/index.ts';
import { headlineOf, nextWords } from './message-words.ts';
import { t } from '../../words/today.ts';

// Only those who look after rules have any, and it takes much to word them.
const Wanting = lazy(() => import('../rules/list/wanting.tsx'));

const WEEK = 7 * DAY_MS;

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
        <h1>{t('today')}</h1>
        <span className="quiet">
          {me.unread === 0 ? (
            t('allMessagesRead')
          ) : (
            <Link to="/inbox?show=unread">{t('unread', { unread: me.unread })}</Link>
          )}
        </span>
      </div>
      <Loaded query={today} what={t('whatIsNew')} rows={8}>
        {(page) => (
          <div className="today">
            <div>
              <Waiting page={page} />
              <Changed page={page} />
            </div>
            <aside aria-label={t('whatComesNext')}>
              <Digests page={page} />
              <Suspense fallback={null}>
                <Wanting />
              </Suspense>
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
      <h2>{t('waitsForYou')}</h2>
      {page.waiting.length === 0 ? (
        <p className="quiet">{t('nothingHasToBeAcknowledged')}</p>
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
                    t('acknowledgeItAndRemindersStop')}
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
                aria-label={t('acknowledgeOne', { headline: headlineOf(message) })}
                onClick={() =>
                  act.mutate({ acknowledge: [message.id] }, { onSuccess: () => notice({ words: t('youHaveIt') }) })
                }
              >
                {t('acknowledge')}
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
  const items = new Map<string, Sample[]>();
  for (const sample of page.changes.toReversed()) items.set(sample.item, [...(items.get(sample.item) ?? []), sample]);
  return (
    <section>
      <h2>{t.rich('changedSinceInWhatYou', { time: <Time at={page.since} /> })}</h2>
      {page.eyes === 0 && (
        <p className="quiet">
          {t.rich('keepAnEyeOnNothing', { link: <Link to="/sources">{t('lookAtTheSources')}</Link> })}
        </p>
      )}
      {page.eyes > 0 && items.size === 0 && (
        <p className="quiet">
          {t.rich('nothing', { link: <Link to="/trail">{t('theTrailHasEverythingElse')}</Link> })}
        </p>
      )}
      {[...items].map(([id, own]) => (
        <ChangedItem key={id} id={id} samples={own} />
      ))}
      {page.isCut && (
        <p className="small quiet mt-2">
          {t.rich('onlyTheNewestAreShown', { link: <Link to="/trail">{t('theTrailHasAll')}</Link> })}
        </p>
      )}
    </section>
  );
}

/** One item with what happened to it, newest first. */
function ChangedItem({ id, samples }: { id: string; samples: Sample[] }) {
  const { source: sourceOf, person } = useViewer();
  const [newest] = samples;
  const source = newest && sourceOf(newest.source);
  if (!newest || !source) return null;
  return (
    <div className="today-item">
      <Link className="title" to={itemPath(id)}>
        {newest.title}
      </Link>{' '}
      <span className="quiet small">{source.name}</span>
      <ol className="plain-list">
        {samples.slice(0, 5).map((sample) => (
          <li key={sample.row.id}>
            <Time at={sample.row.at} />
            <span>
              <WhatHappened row={sample.row} source={source} most={3} />{' '}
              <span className="quiet">{t('by', { person: person(sample.row.actor) })}</span>
            </span>
          </li>
        ))}
      </ol>
      {samples.length > 5 && (
        <Link className="small" to={`/trail?item=${encodeURIComponent(id)}`}>
          {t('more', { count: samples.length - 5 })}
        </Link>
      )}
    </div>
  );
}

function Digests({ page }: { page: Page }) {
  const { me } = useViewer();
  return (
    <section>
      <h2>{t('nextDigests')}</h2>
      {page.digests.length === 0 ? (
        <p className="quiet">{t('nothingGathersForYouNow')}</p>
      ) : (
        <ul className="plain-list">
          {page.digests.map(({ channel, at, items }) => (
            <li key={`${channel} ${at}`}>
              {t.rich('itemsSoFar', {
                shortTime: shortTime(instantOf(at), instantOf(me.now), me),
                way: byWhat(channel),
                items,
              })}
            </li>
          ))}
        </ul>
      )}
      <p className="small mt-2">
        <Link to="/plan">{t('howOjoReachesYou')}</Link>
      </p>
    </section>
  );
}
