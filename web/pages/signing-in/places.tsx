import { Button } from 'react-bootstrap';
import type { SessionRow } from '../../../contract/wire/index.ts';
import { ProblemNote, Time, useNotice } from '../../parts/index.ts';
import { useEndOtherSessions, useEndSession } from '../../queries/index.ts';
import { t } from '../../words/signing-in.ts';
import { browserName } from './browser-name.ts';

/** Where one is signed in; each place can be ended from here. */
export function Places({ sessions }: { sessions: readonly SessionRow[] }) {
  const endOthers = useEndOtherSessions();
  const notice = useNotice();
  return (
    <section className="mt-4">
      <h2>{t('places')}</h2>
      <ul className="plain-list group-rows">
        {sessions.map((session) => (
          <Place key={session.id} session={session} />
        ))}
      </ul>
      {endOthers.error && <ProblemNote error={endOthers.error} />}
      {sessions.length > 1 && (
        <Button
          variant="outline-primary"
          size="sm"
          className="mt-2"
          disabled={endOthers.isPending}
          onClick={() => endOthers.mutate(undefined, { onSuccess: () => notice({ words: t('othersEnded') }) })}
        >
          {t('endOthers')}
        </Button>
      )}
    </section>
  );
}

function Place({ session: { id, openedAt, seenAt, agent, origin, isThis } }: { session: SessionRow }) {
  const end = useEndSession();
  const notice = useNotice();
  const name = browserName(agent) ?? t('unknownBrowser');
  return (
    <li className="group-row">
      <div className="form-line">
        <strong title={agent}>{name}</strong>
        <div className="quiet small">
          {isThis ? t('here') : seenAt && t.rich('usedLast', { time: <Time at={seenAt} /> })}
          {openedAt && <>, {t.rich('since', { time: <Time at={openedAt} full /> })}</>}
          {origin && <>, {t('from', { origin })}</>}
        </div>
        {end.error && <ProblemNote error={end.error} />}
      </div>
      {!isThis && (
        <Button
          variant="quiet"
          size="sm"
          disabled={end.isPending}
          aria-label={t('endNamed', { agent: name })}
          onClick={() => end.mutate(id, { onSuccess: () => notice({ words: t('isEnded') }) })}
        >
          {t('end')}
        </Button>
      )}
    </li>
  );
}
