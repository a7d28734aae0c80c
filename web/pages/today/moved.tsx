import { lazy, Suspense, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { MovedItem, TodayPage } from '../../../contract/wire/index.ts';
import { itemPath, kindWords } from '../../../core/messages/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import { ChangeMark, shortTime, Time, UrgencyBar, useViewer } from '../../parts/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/today.ts';

const PassOn = lazy(() => import('../inbox/pass-on.tsx').then((part) => ({ default: part.PassOn })));

/** So many fields of an item are shown; its page has the rest. */
const FIELDS = 3;

/** What moved since in what one hears of: item by item, what counts now, the steps behind it. */
export function Moved({ page }: { page: TodayPage }) {
  const { me } = useViewer();
  const { moved, since, more } = page;
  const time = shortTime(instantOf(since), instantOf(me.now), me);
  return (
    <section>
      <h2>
        {t('movedSince', { time })} {moved.length > 0 && <span className="quiet small">{t('whatCountsNow')}</span>}
      </h2>
      {moved.length === 0 && (
        <p className="quiet">
          {t.rich('nothingMoved', { link: <Link to="/trail">{t('theTrailHasEverythingElse')}</Link> })}
        </p>
      )}
      <ol className="log">
        {moved.map((one) => (
          <MovedRow key={one.entry.item.id} moved={one} />
        ))}
      </ol>
      {more > 0 && (
        <p className="small quiet mt-2">
          {t.rich('moreMoved', { more, link: <Link to="/trail">{t('theTrailHasAll')}</Link> })}
        </p>
      )}
    </section>
  );
}

function MovedRow({ moved: { at, by, entry } }: { moved: MovedItem }) {
  const { person } = useViewer();
  const [isPassing, setPassing] = useState(false);
  const { item } = entry;
  const hidden = entry.fields.length - FIELDS;
  const who = phrases().and(by.slice(0, 3).map(person));
  return (
    <li className={`log-row${entry.isBack ? '' : ' is-unread'}`}>
      <Time at={at} />
      <UrgencyBar urgency={entry.urgency} />
      <div>
        <Link className="cover" to={itemPath(item.id)}>
          <span className="headline">{item.title}</span>
        </Link>{' '}
        <span className="quiet small">{item.folder.at(-1) ?? item.sourceName}</span>
        <div>
          <NetOf entry={entry} />{' '}
          {hidden > 0 && entry.kind !== 'created' && !entry.isBack && (
            <span className="quiet">{t('andMoreFields', { more: hidden })}</span>
          )}
        </div>
        <div className="below">{t('inSteps', { steps: entry.steps.length, who })}</div>
        {isPassing && (
          <Suspense fallback={null}>
            <PassOn item={item.id} onDone={() => setPassing(false)} />
          </Suspense>
        )}
      </div>
      <span className="row-acts">
        <Button variant="link" size="sm" aria-expanded={isPassing} onClick={() => setPassing(!isPassing)}>
          {t('passItOn')}
        </Button>
      </span>
    </li>
  );
}

/** What an item is now that it was not before; of one that is back, the way it went. */
function NetOf({ entry }: { entry: MovedItem['entry'] }) {
  const { fields, kind, isBack, steps, notes } = entry;
  if (isBack) {
    const [first] = steps.flatMap((step) => step.fields);
    const way = steps.flatMap((step) => step.fields.filter((field) => field.id === first?.id));
    const path = [first?.before, ...way.map((field) => field.after)].map((side) => side || t('empty')).join(' → ');
    return <span className="quiet">{first ? t('backWhereItWas', { path }) : t('back')}</span>;
  }
  if (fields.length > 0 && kind !== 'created') return <ChangeMark fields={fields.slice(0, FIELDS)} />;
  return (
    <>
      <mark>{kind === null ? notes.join(', ') : kindWords(kind, phrases())}</mark>
      {notes.length > 0 && kind !== null && <span className="cut"> {notes.at(-1)}</span>}
    </>
  );
}
