import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { CalendarFeedRow } from '../../../contract/wire/index.ts';
import { isTemporalType, type Source } from '../../../core/values/index.ts';
import { CopyLink, Loaded, ProblemNote, useNotice } from '../../parts/index.ts';
import { type ItemsAsked, useAddCalendar, useCalendars, useDropCalendar } from '../../queries/index.ts';
import { t } from '../../words/tables.ts';

/** Dated lists for calendar programs: what is listed now by one of its dates, and the addresses made before. */
export function Calendars({ source, asked, onDone }: { source: Source; asked: ItemsAsked; onDone: () => void }) {
  const calendars = useCalendars(source.id);
  const add = useAddCalendar(source.id);
  const dates = source.fields.filter(({ type }) => isTemporalType(type));
  const [field, setField] = useState(dates[0]?.id ?? '');
  const isNarrowed = Boolean(asked.text || asked.where);
  return (
    <section className="group-editor" aria-label={t('asACalendar')}>
      <h2>{t('asACalendar')}</h2>
      <p className="quiet">{t('whatACalendarIs')}</p>
      <div className="acts mt-2">
        <Form.Select
          className="w-auto"
          aria-label={t('byWhichDate')}
          value={field}
          onChange={(event) => setField(event.target.value)}
        >
          {dates.map(({ id, name }) => (
            <option key={id} value={id}>
              {t('byDate', { name })}
            </option>
          ))}
        </Form.Select>
        <Button
          autoFocus
          disabled={add.isPending}
          onClick={() => add.mutate({ field, asked: { text: asked.text, where: asked.where } })}
        >
          {isNarrowed ? t('makeTheAddressOfThese') : t('makeTheAddress')}
        </Button>
        <Button variant="quiet" onClick={onDone}>
          {t('leaveIt')}
        </Button>
      </div>
      {add.error && <ProblemNote error={add.error} />}
      <Loaded query={calendars} what={t('asACalendar')} rows={1}>
        {(rows) => (
          <ul className="plain-list">
            {rows.map((feed) => (
              <FeedLine key={feed.id} feed={feed} source={source} />
            ))}
          </ul>
        )}
      </Loaded>
    </section>
  );
}

function FeedLine({ feed, source }: { feed: CalendarFeedRow; source: Source }) {
  const drop = useDropCalendar(source.id);
  const notice = useNotice();
  const date = source.fields.find(({ id }) => id === feed.field)?.name ?? feed.field;
  const isNarrowed = Boolean(feed.asked.text || feed.asked.where);
  const name = isNarrowed ? t('byDateNarrowed', { name: date }) : t('byDate', { name: date });
  return (
    <li className="mt-3">
      {name}{' '}
      <Button
        variant="link"
        size="sm"
        disabled={drop.isPending}
        aria-label={t('endCalendar', { name })}
        onClick={() => drop.mutate(feed.id, { onSuccess: () => notice({ words: t('calendarEnded') }) })}
      >
        {t('endIt')}
      </Button>
      <CopyLink link={feed.link} label={t('addressOfCalendar', { name })} />
      {drop.error && <ProblemNote error={drop.error} />}
    </li>
  );
}
