import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { TodayPage as Page } from '../../../contract/wire/index.ts';
import { DAY_MS, instantOf, printInstant } from '../../../core/time/index.ts';
import { byWhat, Empty, Loaded, shortTime, useViewer } from '../../parts/index.ts';
import { useToday } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/today.ts';
import { DaysLine } from './days-line.tsx';
import { Moved } from './moved.tsx';
import { Waiting } from './waiting.tsx';

// Only those who look after rules have any, and it takes much to word them.
const Looking = lazy(() => import('./looking.tsx'));
const Gathering = lazy(() => import('./gathering.tsx'));

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

/** The first page, which one leaves open: what waits, what comes, what moved since, what gathers, and rules that want somebody. */
export function TodayPage() {
  const { me } = useViewer();
  const since = useLastHere();
  const today = useToday(since);
  const [search, setSearch] = useSearchParams();
  const digest = search.get('digest');
  const day = new Intl.DateTimeFormat(me.locale, { weekday: 'long', day: 'numeric', month: 'long', timeZone: me.zone });
  return (
    <div className={`with-sheet${digest === null ? '' : ' is-open'}`}>
      <main className="page">
        <div className="page-head">
          <h1>{day.format(instantOf(me.now)).replace(',', '')}</h1>
          <p className="quiet">{today.data && <Summary page={today.data} />}</p>
        </div>
        <Loaded query={today} what={t('whatIsNew')} rows={8}>
          {(page) => (page.hears ? <Day page={page} /> : <Beginning />)}
        </Loaded>
      </main>
      {digest !== null && (
        <Suspense fallback={null}>
          <Gathering at={digest} onClose={() => setSearch({})} />
        </Suspense>
      )}
    </div>
  );
}

const Day = ({ page }: { page: Page }) => (
  <>
    <DaysLine coming={page.coming} />
    <div className="today">
      <div>
        {page.waiting.length > 0 && <Waiting waiting={page.waiting} />}
        <Moved page={page} />
      </div>
      <aside aria-label={t('whatComesNext')}>
        <Digests page={page} />
        <Suspense fallback={null}>
          <Looking />
        </Suspense>
      </aside>
    </div>
  </>
);

/** All of it in a line: how much waits, how much moved, and how much of what happened was not for one. */
function Summary({ page: { since, waiting, moved, more, others, hears } }: { page: Page }) {
  const { me } = useViewer();
  if (!hears) return null;
  const time = shortTime(instantOf(since), instantOf(me.now), me);
  return t('sinceYouWereHere', { time, waiting: waiting.length, moved: moved.length + more, others });
}

/** For somebody whom nothing reaches: how to begin; and what waits of them all the same, where they look after rules. */
function Beginning() {
  const { directory } = useViewer();
  if (directory.coordinates.length === 0) return <HowToBegin />;
  return (
    <div className="today">
      <HowToBegin />
      <aside aria-label={t('whatComesNext')}>
        <Suspense fallback={null}>
          <Looking />
        </Suspense>
      </aside>
    </div>
  );
}

function HowToBegin() {
  const { directory } = useViewer();
  return (
    <Empty title={t('nothingReachesYou')}>
      <p>{t('keepAnEyeOnNothing')}</p>
      <div className="acts">
        <Link className="btn btn-primary" to="/sources">
          {t('lookAtTheSources')}
        </Link>
        {directory.coordinates.length > 0 && (
          <Link className="btn btn-outline-primary" to="/rules/new">
            {t('makeARule')}
          </Link>
        )}
      </div>
    </Empty>
  );
}

/** What gathers for the next digests, each to be read now. */
function Digests({ page: { digests } }: { page: Page }) {
  const { me } = useViewer();
  if (digests.length === 0) return null;
  return (
    <section>
      {digests.slice(0, 3).map(({ at, channels, items, first }) => (
        <div key={at}>
          <h2>{t('gathersFor', { time: shortTime(instantOf(at), instantOf(me.now), me) })}</h2>
          <p className="today-line">
            <span>
              {t.rich('itemsFirst', { items, first })}{' '}
              <span className="quiet small">{phrases().and(channels.map(byWhat))}</span>
            </span>
            <Link to={`/today?digest=${encodeURIComponent(at)}`}>{t('readItNow')}</Link>
          </p>
        </div>
      ))}
    </section>
  );
}
