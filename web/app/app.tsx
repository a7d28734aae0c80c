import type { Me } from '../../contract/wire/index.ts';
import { type ComponentType, lazy, Suspense, useEffect } from 'react';
import { Navigate, Route, Routes, useMatch, useParams } from 'react-router';
import { Loaded, Notices, ViewerProvider, Waiting } from '../parts/index.ts';
import { useDirectory, useItem, useMe } from '../queries/index.ts';
import { Frame } from './frame.tsx';
import { PageBoundary } from './page-boundary.tsx';
import { t } from '../words/app.ts';
import { speak } from '../words/index.ts';

const loads: (() => Promise<unknown>)[] = [];

/** A page whose code comes when it is first opened, or before, when there is nothing else to do. */
function later(load: () => Promise<ComponentType>) {
  loads.push(load);
  return lazy(async () => ({ default: await load() }));
}

// Whoever is signed in already never sees it.
const SignInPage = lazy(() => import('../pages/session/sign-in.tsx').then((page) => ({ default: page.SignInPage })));
// It is opened once, by whoever comes new.
const WelcomePage = lazy(() => import('../pages/session/welcome.tsx').then((page) => ({ default: page.WelcomePage })));
const InboxPage = later(() => import('../pages/inbox/inbox.tsx').then((page) => page.InboxPage));
const SourcesPage = later(() => import('../pages/sources/sources.tsx').then((page) => page.SourcesPage));
const SourcePage = later(() => import('../pages/sources/source.tsx').then((page) => page.SourcePage));
const RowsInPage = later(() => import('../pages/tables/rows-in.tsx').then((page) => page.RowsInPage));
const AuditPage = later(() => import('../pages/audit/audit.tsx').then((page) => page.AuditPage));
const RunningPage = later(() => import('../pages/running/running.tsx').then((page) => page.RunningPage));
const DefineSourcePage = later(() =>
  import('../pages/defining/define-source.tsx').then((page) => page.DefineSourcePage),
);
const RulesPage = later(() => import('../pages/rules/list/rules.tsx').then((page) => page.RulesPage));
const RulePage = later(() => import('../pages/rules/rule/rule.tsx').then((page) => page.RulePage));
const OutboxPage = later(() => import('../pages/outbox/outbox.tsx').then((page) => page.OutboxPage));
const PeoplePage = later(() => import('../pages/people/people.tsx').then((page) => page.PeoplePage));
const WordingsPage = later(() => import('../pages/wordings/wordings.tsx').then((page) => page.WordingsPage));
const PlanPage = later(() => import('../pages/plan/plan.tsx').then((page) => page.PlanPage));
const LessPage = later(() => import('../pages/plan/less.tsx').then((page) => page.LessPageView));
const TodayPage = later(() => import('../pages/today/today.tsx').then((page) => page.TodayPage));
const TrailPage = later(() => import('../pages/trail/trail.tsx').then((page) => page.TrailPage));
const OutboxMessagePage = later(() => import('../pages/outbox/message.tsx').then((page) => page.OutboxMessagePage));
const SigningInPage = later(() => import('../pages/signing-in/signing-in.tsx').then((page) => page.SigningInPage));
const SecondFirst = later(() => import('../pages/signing-in/first.tsx').then((page) => page.SecondFirst));
const ProgramsPage = later(() => import('../pages/programs/programs.tsx').then((page) => page.ProgramsPage));
const WhyPage = later(() => import('../pages/why/why.tsx').then((page) => page.WhyPage));
const StandInsPage = later(() => import('../pages/stand-ins/stand-ins.tsx').then((page) => page.StandInsPage));

export function App() {
  const me = useMe();
  const token = useMatch('/welcome/:token')?.params.token;
  if (token !== undefined)
    return (
      <PageBoundary>
        <Suspense fallback={<Waiting what="Ojo" />}>
          <WelcomePage token={token} />
        </Suspense>
      </PageBoundary>
    );
  if (me.data === null)
    return (
      <PageBoundary>
        <Suspense fallback={<Waiting what="Ojo" />}>
          <SignInPage />
        </Suspense>
      </PageBoundary>
    );
  return (
    <Loaded query={me} what="Ojo">
      {(known) => known && (known.owesSecond ? <OwesSecond me={known} /> : <SignedIn me={known} />)}
    </Loaded>
  );
}

/** Whoever has to put on a second factor sees nothing else before. */
function OwesSecond({ me }: { me: Me }) {
  speak(me.locale);
  return (
    <Notices key={me.locale}>
      <PageBoundary>
        <Suspense fallback={<Waiting what={t('thePage')} />}>
          <SecondFirst />
        </Suspense>
      </PageBoundary>
    </Notices>
  );
}

function SignedIn({ me }: { me: Me }) {
  const directory = useDirectory();
  // So that pages open at once, and while Ojo is away too.
  useEffect(() => {
    const timer = setTimeout(() => void Promise.allSettled(loads.map((load) => load())), 2000);
    return () => clearTimeout(timer);
  }, []);
  // Whatever is drawn below speaks the person's language, anew when they choose another.
  speak(me.locale);
  return (
    <Loaded query={directory} what="Ojo">
      {(known) => (
        <ViewerProvider key={me.locale} me={me} directory={known}>
          <Notices>
            <Frame>
              <PageBoundary>
                <Suspense
                  fallback={
                    <div className="page">
                      <Waiting what={t('thePage')} />
                    </div>
                  }
                >
                  <Routes>
                    <Route path="/" element={<Navigate to="/today" replace />} />
                    <Route path="/today" element={<TodayPage />} />
                    <Route path="/inbox/:message?" element={<InboxPage />} />
                    <Route path="/sources" element={<SourcesPage />} />
                    <Route path="/sources/:source/:item?" element={<SourcePage />} />
                    <Route path="/define/:source?" element={<DefineSourcePage />} />
                    <Route path="/rows-in/:source" element={<RowsInPage />} />
                    <Route path="/items/:item" element={<ItemAddress />} />
                    <Route path="/rules" element={<RulesPage />} />
                    <Route path="/rules/:rule" element={<RulePage />} />
                    <Route path="/people/:person?" element={<PeoplePage />} />
                    <Route path="/wordings" element={<WordingsPage />} />
                    <Route path="/plan" element={<PlanPage />} />
                    <Route path="/less" element={<LessPage />} />
                    <Route path="/trail" element={<TrailPage />} />
                    <Route path="/audit" element={<AuditPage />} />
                    <Route path="/signing-in" element={<SigningInPage />} />
                    <Route path="/programs" element={<ProgramsPage />} />
                    <Route path="/running" element={<RunningPage />} />
                    <Route path="/outbox" element={<OutboxPage />} />
                    <Route path="/outbox/:message" element={<OutboxMessagePage />} />
                    <Route path="/why/:source/:change" element={<WhyPage />} />
                    {me.isDemo && <Route path="/stand-ins/:kind/:box?/:mail?" element={<StandInsPage />} />}
                    <Route path="*" element={<NothingHere />} />
                  </Routes>
                </Suspense>
              </PageBoundary>
            </Frame>
          </Notices>
        </ViewerProvider>
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
      <Loaded query={item} what={t('theItem')}>
        {({ item: found }) => (
          <Navigate to={`/sources/${encodeURIComponent(found.source)}/${encodeURIComponent(id)}`} replace />
        )}
      </Loaded>
    </div>
  );
}

const NothingHere = () => (
  <main className="page">
    <div className="empty">
      <h1>{t('nothingIsAtThisAddress')}</h1>
      <p>{t('itMayHaveBeenMoved')}</p>
    </div>
  </main>
);
