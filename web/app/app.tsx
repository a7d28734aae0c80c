import { lazy, Suspense } from 'react';
import { Navigate, Route, Routes, useParams } from 'react-router';
import { InboxPage } from '../pages/inbox.tsx';
import { SignInPage } from '../pages/sign-in.tsx';
import { Loaded, Notices, ReadingProvider, Waiting } from '../parts/index.ts';
import { useDirectory, useItem, useMe } from '../queries/index.ts';
import { Frame } from './frame.tsx';

const SourcesPage = lazy(() => import('../pages/sources.tsx').then((page) => ({ default: page.SourcesPage })));
const SourcePage = lazy(() => import('../pages/source.tsx').then((page) => ({ default: page.SourcePage })));
const RulesPage = lazy(() => import('../pages/rules.tsx').then((page) => ({ default: page.RulesPage })));
const RulePage = lazy(() => import('../pages/rule.tsx').then((page) => ({ default: page.RulePage })));
const OutboxPage = lazy(() => import('../pages/outbox.tsx').then((page) => ({ default: page.OutboxPage })));
const PeoplePage = lazy(() => import('../pages/people.tsx').then((page) => ({ default: page.PeoplePage })));
const WordingsPage = lazy(() => import('../pages/wordings.tsx').then((page) => ({ default: page.WordingsPage })));
const PlanPage = lazy(() => import('../pages/plan.tsx').then((page) => ({ default: page.PlanPage })));
const LessPage = lazy(() => import('../pages/less.tsx').then((page) => ({ default: page.LessPageView })));
const TodayPage = lazy(() => import('../pages/today.tsx').then((page) => ({ default: page.TodayPage })));
const TrailPage = lazy(() => import('../pages/trail.tsx').then((page) => ({ default: page.TrailPage })));
const StandInsPage = lazy(() => import('../pages/stand-ins.tsx').then((page) => ({ default: page.StandInsPage })));

export function App() {
  const me = useMe();
  if (me.data === null) return <SignInPage />;
  return <Loaded query={me} what="Ojo">{(known) => known && <SignedIn me={known} />}</Loaded>;
}

function SignedIn({ me }: { me: NonNullable<ReturnType<typeof useMe>['data']> }) {
  const directory = useDirectory();
  return (
    <Loaded query={directory} what="Ojo">
      {(known) => (
        <ReadingProvider me={me} directory={known}>
          <Notices>
            <Frame>
              <Suspense fallback={<div className="page"><Waiting what="the page" /></div>}>
                <Routes>
                  <Route path="/" element={<Navigate to="/today" replace />} />
                  <Route path="/today" element={<TodayPage />} />
                  <Route path="/inbox/:message?" element={<InboxPage />} />
                  <Route path="/sources" element={<SourcesPage />} />
                  <Route path="/sources/:source/:item?" element={<SourcePage />} />
                  <Route path="/items/:item" element={<ItemAddress />} />
                  <Route path="/rules" element={<RulesPage />} />
                  <Route path="/rules/:rule" element={<RulePage />} />
                  <Route path="/people/:person?" element={<PeoplePage />} />
                  <Route path="/wordings" element={<WordingsPage />} />
                  <Route path="/plan" element={<PlanPage />} />
                  <Route path="/less" element={<LessPage />} />
                  <Route path="/trail" element={<TrailPage />} />
                  <Route path="/outbox" element={<OutboxPage />} />
                  {me.isDemo && <Route path="/stand-ins/:kind/:box?/:mail?" element={<StandInsPage />} />}
                  <Route path="*" element={<NothingHere />} />
                </Routes>
              </Suspense>
            </Frame>
          </Notices>
        </ReadingProvider>
      )}
    </Loaded>
  );
}

/** An item's own address leads to it among its kind. */
function ItemAddress() {
  const { item: id = '' } = useParams();
  const item = useItem(id);
  return (
    <div className="page">
      <Loaded query={item} what="the item">{({ item: found }) => <Navigate to={`/sources/${encodeURIComponent(found.source)}/${encodeURIComponent(id)}`} replace />}</Loaded>
    </div>
  );
}

const NothingHere = () => (
  <main className="page"><div className="empty"><h1>Nothing is at this address</h1><p>It may have been moved or deleted, or you may not read it.</p></div></main>
);
