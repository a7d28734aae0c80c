import { lazy, type ReactNode, Suspense, useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import { problemOf } from '../queries/index.ts';
import { t } from '../words/parts.ts';
import { problemWords } from '../../contract/words/refusals.ts';
import { locale } from '../words/index.ts';

// Documents are seldom wrong, and there is much that can be wrong with one. Where its words do not come, nothing typed is lost by it.
const FaultList = lazy(() => import('./fault-list.tsx').catch(() => ({ default: () => <></> })));

/** A page with nothing in it says what will be here, and offers the first step. */
export const Empty = ({ title, children }: { title: string; children: ReactNode }) => (
  <div className="empty">
    <h2>{title}</h2>
    {children}
  </div>
);

/** Why something was refused, in one sentence, for a line that has no room for more. */
export function refusalWords(error: unknown): string {
  const { title, detail } = problemWords(problemOf(error), locale());
  return detail ?? `${title}.`;
}

/** What went wrong, with every fault, and a way on. */
export function ProblemNote({ error, onRetry }: { error: unknown; onRetry?: () => void }) {
  const problem = problemOf(error);
  const { title, detail } = problemWords(problem, locale());
  return (
    <div className="problem" role="alert">
      <strong>{title}.</strong>
      {detail && detail !== title && <> {detail}</>}
      {problem.faults && (
        <Suspense fallback={null}>
          <FaultList faults={problem.faults} />
        </Suspense>
      )}
      {onRetry && (
        <div className="mt-2">
          <Button variant="outline-primary" size="sm" onClick={onRetry}>
            {t('tryAgain')}
          </Button>
        </div>
      )}
    </div>
  );
}

/** Space kept for what loads; after a second it says so. */
export function Waiting({ rows = 6, what }: { rows?: number; what: string }) {
  const [isLong, setLong] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLong(true), 1000);
    return () => clearTimeout(timer);
  }, []);
  return (
    <div aria-busy="true" style={{ paddingTop: '1.2rem' }}>
      <p className="quiet small" role="status" style={{ visibility: isLong ? 'visible' : 'hidden' }}>
        {t('loading', { what })}
      </p>
      {Array.from({ length: rows }, (_, at) => (
        <div
          key={`row ${at + 1}`}
          className="waiting-bar"
          style={{ width: `${88 - ((at * 37) % 45)}%`, margin: '1.1rem 0' }}
        />
      ))}
    </div>
  );
}

/** A query's three states in one place: still loading, failed, or there. */
export function Loaded<T>({
  query,
  what,
  rows,
  isPage = false,
  children,
}: {
  query: { data: T | undefined; error: unknown; refetch: () => unknown };
  what: string;
  rows?: number;
  /** What comes is a page of its own: until then its place is held as one. */
  isPage?: boolean;
  children: (data: T) => ReactNode;
}) {
  if (query.data !== undefined) return children(query.data);
  const state = query.error ? (
    <div style={{ paddingTop: '1.5rem' }}>
      <ProblemNote error={query.error} onRetry={() => query.refetch()} />
    </div>
  ) : (
    <Waiting what={what} rows={rows} />
  );
  return isPage ? <main className="page">{state}</main> : state;
}

/** Says that what stands there was typed before and not kept, and offers to begin anew. */
export const FromBefore = ({ onGiveUp }: { onGiveUp: () => void }) => (
  <p className="from-before small" role="status">
    {t('typedBefore')}{' '}
    <Button variant="link" size="sm" onClick={onGiveUp}>
      {t('beginAnew')}
    </Button>
  </p>
);
