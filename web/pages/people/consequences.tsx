import type { UseQueryResult } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Consequences } from '../../../contract/wire/index.ts';
import { rulePath } from '../../../core/messages/index.ts';
import { Loaded, useViewer } from '../../parts/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/accounts.ts';

/** So many are named, the others counted. */
const MOST_NAMED = 8;

/** What a change comes to, before it is kept: who could read something no more, and which rules would tell nobody. */
export function ComesTo({ preview }: { preview: UseQueryResult<Consequences> }) {
  const { person } = useViewer();
  if (!preview.isEnabled) return null;
  // What is wrong with the change stands at its fields once it is kept.
  if (preview.isError) return null;
  return (
    <Loaded query={preview} what={t('whatItComesTo')} rows={1}>
      {({ shutOut, silent }) => (
        <ul className="plain-list comes-to" aria-live="polite">
          {shutOut.slice(0, MOST_NAMED).map(({ person: id, places }) => (
            <li key={id} className="fault">
              {t('readsNoMore', { name: person(id), places: phrases().and(places) })}
            </li>
          ))}
          {shutOut.length > MOST_NAMED && (
            <li className="fault">{t('moreAreShutOut', { count: shutOut.length - MOST_NAMED })}</li>
          )}
          {silent.map(({ id, name }) => (
            <li key={id} className="fault">
              <Link to={rulePath(id)}>{name}</Link> {t('wouldTellNobody')}
            </li>
          ))}
          {shutOut.length + silent.length === 0 && <li className="quiet">{t('nobodyIsShutOut')}</li>}
        </ul>
      )}
    </Loaded>
  );
}
