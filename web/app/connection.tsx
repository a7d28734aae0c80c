import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { formatTime } from '../../core/values/index.ts';
import { useViewer } from '../parts/index.ts';
import { call, noteBack, useLost } from '../queries/index.ts';
import { t } from '../words/app.ts';

const AGAIN_MS = 2000;

/** Says that the connection is lost, and since when; asks again until it is back, and then asks for everything anew. */
export function ConnectionNote() {
  const { me } = useViewer();
  const lost = useLost();
  const client = useQueryClient();
  const isLost = lost !== null;
  useEffect(() => {
    if (!isLost) return;
    const timer = setInterval(() => {
      call('session.me')
        .then(() => {
          noteBack();
          return client.invalidateQueries();
        })
        .catch(() => undefined);
    }, AGAIN_MS);
    return () => clearInterval(timer);
  }, [isLost, client]);
  return (
    <div role="status" className={lost ? 'connection-note' : 'visually-hidden'}>
      {lost &&
        t.rich('sinceWhatYouTypeStays', {
          what: <strong>{lost.isDatabase ? t('ojosDatabaseCannotBeReached') : t('noConnectionToOjo')}</strong>,
          time: formatTime(lost.since, me),
        })}
    </div>
  );
}
