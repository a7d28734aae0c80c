import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { ItemPage } from '../../../contract/wire/index.ts';
import { DAY_MS } from '../../../core/time/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { ProblemNote, Time, useNotice, useViewer, WhatHappened, WhyLink } from '../../parts/index.ts';
import { useBringBack } from '../../queries/index.ts';
import { t } from '../../words/sources.ts';

/** So many changes are shown at first. */
const FIRST = 8;

/** What happened to an item, the newest first; the state after each can be brought back. */
export function ItemTrail({ page, source }: { page: ItemPage; source: Source }) {
  const { person, me } = useViewer();
  const back = useBringBack(page.item.id);
  const notice = useNotice();
  const [isWhole, setWhole] = useState(false);
  const shown = isWhole ? page.trail : page.trail.slice(0, FIRST);
  const isFresh = (at: string) => Date.parse(me.now) - Date.parse(at) < DAY_MS;
  const [newest] = page.trail;
  const mayBring = page.mayEdit && source.kind !== 'folders';
  const bring = (change: string) =>
    back.mutate(
      { from: page.item.version, change },
      {
        onSuccess: ({ version }) =>
          notice({
            words: t('isAsItWasThen'),
            ...(newest ? { undo: () => back.mutate({ from: version, change: newest.id }) } : {}),
          }),
      },
    );
  return (
    <>
      <ol className="plain-list trail">
        {shown.map((row, at) => (
          <li key={row.id}>
            <Time at={row.at} />
            <div className="small wrap-anywhere">
              <WhatHappened row={row} source={source} names={page.names} isSeen={!isFresh(row.at)} />{' '}
              <span className="quiet">{t('by', { person: person(row.actor) })}</span>{' '}
              <WhyLink source={page.item.source} change={row.id} />
              {mayBring &&
                at > 0 &&
                row.kind !== 'deleted' &&
                shown.slice(0, at).some(({ fields }) => fields.length > 0) && (
                  <>
                    {' '}
                    <Button
                      variant="link"
                      size="sm"
                      className="back"
                      disabled={back.isPending}
                      onClick={() => bring(row.id)}
                    >
                      {t('asItWasThen')}
                    </Button>
                  </>
                )}
            </div>
          </li>
        ))}
      </ol>
      {back.error && <ProblemNote error={back.error} />}
      {page.trail.length > FIRST && !isWhole && (
        <Button variant="link" className="mt-2" onClick={() => setWhole(true)}>
          {t('older', { trail: page.trail.length - FIRST })}
        </Button>
      )}
      {(isWhole || page.trail.length <= FIRST) && (
        <p className="small mt-2">
          <Link to={`/trail?item=${encodeURIComponent(page.item.id)}`}>{t('inTheTrail')}</Link>
        </p>
      )}
    </>
  );
}
