import type { MessagePage } from '../../../contract/wire/index.ts';
import type { Entry } from '../../../core/messages/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import { shortTime, Time, useViewer, WhatHappened } from '../../parts/index.ts';
import { t } from '../../words/inbox.ts';

type Since = MessagePage['since'][number];

/** What happened to an item after what the message tells, and whether that undid it. */
export function SinceThen({ since, entry }: { since: Since; entry: Entry }) {
  const { me, person, source: sourceOf } = useViewer();
  const source = sourceOf(entry.item.source);
  const last = since.rows.at(-1);
  const [field] = entry.fields;
  if (!source || !last) return null;
  const hour = shortTime(instantOf(last.at), instantOf(me.now), me);
  return (
    <>
      {since.isBack && (
        <p className="mb-1">
          <strong>
            {field && entry.fields.length === 1
              ? t('backToAt', { before: field.before || t('empty'), hour })
              : t('backWhereItWasAt', { hour })}
          </strong>
        </p>
      )}
      <ul className="plain-list trail">
        {since.rows.map((row) => (
          <li key={row.id}>
            <Time at={row.at} />
            <div className="small wrap-anywhere">
              <WhatHappened row={row} source={source} isSeen={since.isBack} most={3} />{' '}
              <span className="quiet">{t('by2', { person: person(row.actor) })}</span>
            </div>
          </li>
        ))}
      </ul>
    </>
  );
}
