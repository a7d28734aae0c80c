import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link, useSearchParams } from 'react-router';
import type { TrailEntry } from '../../../contract/wire/index.ts';
import { itemPath, sourcePath } from '../../../core/messages/index.ts';
import { dateIn, instantOf } from '../../../core/time/index.ts';
import { CHANGE_KINDS } from '../../../core/values/index.ts';
import {
  dayWords,
  Empty,
  Hour,
  Loaded,
  useViewer,
  WhatHappened,
  kindName,
  DayInput,
  WhyLink,
} from '../../parts/index.ts';
import { type TrailAsked, useMore, useTrail } from '../../queries/index.ts';
import { t } from '../../words/trail.ts';

const ASKED = ['source', 'person', 'kind', 'field', 'item', 'from', 'until'] as const;

/** The trail: every change, newest first, as who did what to which. */
export function TrailPage() {
  const [search, setSearch] = useSearchParams();
  const asked: TrailAsked = Object.fromEntries(
    ASKED.flatMap((key) => (search.get(key) ? [[key, search.get(key)]] : [])),
  );
  const trail = useTrail(asked);
  const onMore = useMore(trail);
  const put = (key: (typeof ASKED)[number], value: string) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        if (value) next.set(key, value);
        else next.delete(key);
        if (key === 'source') next.delete('field');
        return next;
      },
      { replace: true },
    );
  return (
    <main className="page">
      <div className="page-head">
        <h1>{t('trail')}</h1>
        <span className="quiet">{t('everyChangeNewestFirst')}</span>
      </div>
      <Filters asked={asked} onPut={put} onClear={() => setSearch({}, { replace: true })} />
      <Loaded query={trail} what={t('theTrail')} rows={10}>
        {({ pages }) => {
          const entries = pages.flatMap((page) => page.entries);
          const names = Object.assign({}, ...pages.map((page) => page.names)) as Record<string, string>;
          if (entries.length === 0)
            return (
              <Empty title={t('nothingHappenedLikeThat')}>
                {Object.keys(asked).length > 0 ? (
                  <Button variant="outline-primary" onClick={() => setSearch({}, { replace: true })}>
                    {t('showEverything')}
                  </Button>
                ) : (
                  <p>{t('whatHappensToItemsThat')}</p>
                )}
              </Empty>
            );
          return (
            <>
              <Days entries={entries} names={names} />
              {trail.hasNextPage && (
                <Button className="mt-3" variant="outline-primary" disabled={trail.isFetchingNextPage} onClick={onMore}>
                  {trail.isFetchingNextPage ? t('oneMoment') : t('showOlder')}
                </Button>
              )}
            </>
          );
        }}
      </Loaded>
    </main>
  );
}

function Filters({
  asked,
  onPut,
  onClear,
}: {
  asked: TrailAsked;
  onPut: (key: (typeof ASKED)[number], value: string) => void;
  onClear: () => void;
}) {
  const { directory, source } = useViewer();
  const fields = source(asked.source ?? '')?.fields ?? [];
  const systems = [...new Set(directory.systems.map((one) => one.name))];
  return (
    <div className="filters">
      <Form.Select
        aria-label={t('source')}
        value={asked.source ?? ''}
        onChange={(event) => onPut('source', event.target.value)}
      >
        <option value="">{t('everySource')}</option>
        {directory.sources.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </Form.Select>
      <Form.Select
        aria-label={t('byWhom')}
        value={asked.person ?? ''}
        onChange={(event) => onPut('person', event.target.value)}
      >
        <option value="">{t('byAnyone')}</option>
        {directory.people.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
        {systems.map((name) => (
          <option key={name} value={`system:${name}`}>
            {name}
          </option>
        ))}
      </Form.Select>
      <Form.Select
        aria-label={t('whatHappened')}
        value={asked.kind ?? ''}
        onChange={(event) => onPut('kind', event.target.value)}
      >
        <option value="">{t('whateverHappened')}</option>
        {CHANGE_KINDS.map((kind) => (
          <option key={kind} value={kind}>
            {kindName(kind)}
          </option>
        ))}
      </Form.Select>
      {fields.length > 0 && (
        <Form.Select
          aria-label={t('field')}
          value={asked.field ?? ''}
          onChange={(event) => onPut('field', event.target.value)}
        >
          <option value="">{t('anyField')}</option>
          {fields.map((field) => (
            <option key={field.id} value={field.id}>
              {field.name}
            </option>
          ))}
        </Form.Select>
      )}
      <span className="span-of">
        <DayInput label={t('fromThisDay')} value={asked.from ?? null} onChange={(day) => onPut('from', day ?? '')} />{' '}
        {t('to')}{' '}
        <DayInput label={t('untilThisDay')} value={asked.until ?? null} onChange={(day) => onPut('until', day ?? '')} />
      </span>
      {asked.from && asked.until && asked.from > asked.until && (
        <span className="fault small" role="alert">
          {t('endsBeforeItBegins')}
        </span>
      )}
      {asked.item && <span className="wash">{t('ofOneItem')}</span>}
      {Object.keys(asked).length > 0 && (
        <Button variant="link" onClick={onClear}>
          {t('clear')}
        </Button>
      )}
    </div>
  );
}

function Days({ entries, names }: { entries: TrailEntry[]; names: Record<string, string> }) {
  const { me } = useViewer();
  const days = new Map<string, TrailEntry[]>();
  for (const entry of entries) {
    const day = dateIn(instantOf(entry.row.at), me.zone);
    days.set(day, [...(days.get(day) ?? []), entry]);
  }
  return [...days].map(([day, own]) => (
    <section key={day}>
      <h2 className="day">{dayWords(instantOf(own[0]?.row.at ?? me.now), instantOf(me.now), me)}</h2>
      <ol className="log trail-log">
        {own.map((entry) => (
          <Entry key={`${entry.source}/${entry.row.id}`} entry={entry} names={names} />
        ))}
      </ol>
    </section>
  ));
}

function Entry({ entry, names }: { entry: TrailEntry; names: Record<string, string> }) {
  const { source: sourceOf, person } = useViewer();
  const [isOpen, setOpen] = useState(false);
  // Whoever came to ask about somebody goes on asking about them.
  const whose = useSearchParams()[0].get('why');
  const source = sourceOf(entry.source);
  if (!source) return null;
  const { row, batch } = entry;
  return (
    <li className={`log-row${whose ? ' is-asked' : ''}`}>
      <Hour at={row.at} />
      <span
        className={`bar${row.caughtBy.length > 0 ? ' is-caught' : ''}`}
        title={row.caughtBy.length > 0 ? t('aRuleCaughtIt') : undefined}
      />
      <div>
        {batch ? (
          <div>
            {t.rich('didThisTo', { person: person(row.actor) })}{' '}
            <button type="button" className="btn btn-link" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
              {t('itemsAtOnce', { count: batch.count })}
            </button>{' '}
            {t.rich('inSuchAs', {
              source: <Link to={sourcePath(source.id)}>{source.name}</Link>,
              item: <Link to={itemPath(entry.item)}>{entry.title}</Link>,
            })}{' '}
            <WhatHappened row={row} source={source} names={names} most={3} />
          </div>
        ) : (
          <div>
            <Link className="title" to={itemPath(entry.item)}>
              {entry.title}
            </Link>{' '}
            <WhatHappened row={row} source={source} names={names} most={4} />
          </div>
        )}
        <div className="below">
          {!batch && (
            <>
              {t.rich('byIn', {
                person: person(row.actor),
                source: <Link to={sourcePath(source.id)}>{source.name}</Link>,
              })}{' '}
            </>
          )}
          <WhyLink source={entry.source} change={row.id} person={whose} />
          <Link
            className="again"
            to={`/rules/new?source=${encodeURIComponent(entry.source)}&like=${encodeURIComponent(row.id)}`}
          >
            {t('tellMeWhenThisHappens')}
          </Link>
        </div>
        {isOpen && batch && <Batch id={batch.id} />}
      </div>
    </li>
  );
}

/** All changes of one bulk action. */
function Batch({ id }: { id: string }) {
  const { source: sourceOf } = useViewer();
  const trail = useTrail({ batch: id });
  const onMore = useMore(trail);
  return (
    <Loaded query={trail} what={t('theBatch')} rows={3}>
      {({ pages }) => (
        <ul className="plain-list batch">
          {pages
            .flatMap((page) => page.entries)
            .map((entry) => {
              const source = sourceOf(entry.source);
              return (
                source && (
                  <li key={entry.row.id}>
                    <Link to={itemPath(entry.item)}>{entry.title}</Link>{' '}
                    <WhatHappened row={entry.row} source={source} names={pages[0]?.names} most={3} />
                  </li>
                )
              );
            })}
          {trail.hasNextPage && (
            <li>
              <Button variant="link" onClick={onMore}>
                {t('moreOfIt')}
              </Button>
            </li>
          )}
        </ul>
      )}
    </Loaded>
  );
}
