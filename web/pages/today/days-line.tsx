import type { CSSProperties } from 'react';
import { Link } from 'react-router';
import type { Coming } from '../../../contract/wire/index.ts';
import { itemPath, rulePath } from '../../../core/messages/index.ts';
import { addDays, type CivilDate, dateIn, instantOf, weekday } from '../../../core/time/index.ts';
import { formatTime } from '../../../core/values/index.ts';
import { UrgencyBar, useViewer, type Viewer } from '../../parts/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/today.ts';

const DAYS = 14;
/** A note is so many days wide, as far as there are days left. */
const WIDE = 3;
/** So many rows of notes there are; what finds no place in them is counted. */
const ROWS = 3;

const RANKS: Record<Coming['urgency'], number> = { critical: 0, important: 1, routine: 2 };

const wideAt = (day: number): number => Math.min(WIDE, DAYS - day);

/** Notes with the row in which each finds room, the most urgent first; what finds none is left out. In order of time. */
function placed<N extends { one: Coming; at: number }>(notes: readonly N[]): (N & { row: number })[] {
  const taken = Array.from({ length: ROWS }, () => new Set<number>());
  return notes
    .toSorted((a, b) => RANKS[a.one.urgency] - RANKS[b.one.urgency])
    .flatMap((note) => {
      const days = Array.from({ length: wideAt(note.at) }, (_, day) => note.at + day);
      const row = taken.findIndex((own) => days.every((day) => !own.has(day)));
      for (const day of row < 0 ? [] : days) taken[row]?.add(day);
      return row < 0 ? [] : [{ ...note, row: row + 1 }];
    })
    .sort((a, b) => a.one.at.localeCompare(b.one.at));
}

/** Two weeks as a line of days, and on it what comes: dates of one's own items, and what rules will tell. */
export function DaysLine({ coming }: { coming: readonly Coming[] }) {
  const viewer = useViewer();
  const { me } = viewer;
  const today = dateIn(instantOf(me.now), me.zone);
  const days = Array.from({ length: DAYS }, (_, at) => addDays(today, at));
  const all = coming
    .map((one) => ({ one, at: days.indexOf(dateIn(instantOf(one.at), me.zone)) }))
    .filter(({ at }) => at >= 0);
  const shown = placed(all);
  return (
    <section className="days-line" aria-label={t('nextTwoWeeks')}>
      <div className="days" aria-hidden="true">
        {days.map((day, at) => (
          <span key={day} className={weekday(day) > 5 ? 'is-weekend' : ''}>
            {at === 0 ? t('today') : dayWords(day, me.locale)}
          </span>
        ))}
      </div>
      {shown.length === 0 ? (
        <p className="quiet small">{t('nothingComes')}</p>
      ) : (
        <ol>
          {shown.map(({ one, at, row }) => (
            <li
              key={`${one.what} ${one.at} ${one.rule?.id ?? ''} ${one.field?.id ?? ''} ${one.items[0]?.id ?? ''}`}
              style={{ '--from': at + 1, '--wide': wideAt(at), '--row': row } as CSSProperties}
            >
              <UrgencyBar urgency={one.urgency} />
              <div>
                <span className="on-day">{at === 0 ? t('today') : dayWords(days[at] ?? today, me.locale)}: </span>
                <ComingWords coming={one} />
              </div>
            </li>
          ))}
        </ol>
      )}
      {all.length > shown.length && (
        <p className="small quiet">{t('moreComes', { more: all.length - shown.length })}</p>
      )}
    </section>
  );
}

const dayWords = (day: CivilDate, locale: string): string =>
  new Intl.DateTimeFormat(locale, { weekday: 'short', day: 'numeric', timeZone: 'UTC' })
    .format(Date.parse(`${day}T00:00:00Z`))
    .replace(',', '');

/** Where one goes from it: to the one item, else to the rule, else to its items of that day. */
function pathOf({ count, items, rule, field, at }: Coming, zone: string): string {
  const [item] = items;
  if (item && count === 1) return itemPath(item.id);
  if (rule) return rulePath(rule.id);
  if (!field) return '/inbox?show=waits';
  const where = JSON.stringify({ field: field.id, op: 'is', value: dateIn(instantOf(at), zone) });
  return `/sources/${encodeURIComponent(field.source)}?${new URLSearchParams({ where })}`;
}

function headOf(coming: Coming, { source, me }: Viewer): string {
  const { what, field, rule, at, isDay } = coming;
  const name = field && source(field.source)?.fields.find((one) => one.id === field.id)?.name;
  const hour = isDay ? '' : formatTime(instantOf(at), me);
  if (what === 'date') return [hour, name ?? ''].filter(Boolean).join(' ');
  if (what === 'report') return [hour, rule?.name ?? ''].join(' ');
  return what === 'due' || what === 'idle' ? (rule?.name ?? '') : hour;
}

function ComingWords({ coming }: { coming: Coming }) {
  const viewer = useViewer();
  const { me, person } = viewer;
  const { what, items, count, to } = coming;
  const titles = items.map((item) => item.title).join(', ');
  const more = count - items.length;
  const hears = phrases().and(to.map((id) => (id === me.id ? t('you') : person(id))));
  const below: Record<Coming['what'], string> = {
    date: titles,
    due: titles,
    idle: titles,
    report: t('aReport'),
    again: t('onceMore', { titles }),
    remind: t('reminded', { titles }),
    escalate: hears === '' ? titles : t('wouldHear', { hears, titles }),
  };
  return (
    <Link to={pathOf(coming, me.zone)}>
      <strong>{headOf(coming, viewer)}</strong>{' '}
      <span>
        {below[what]}
        {more > 0 && ` ${t('andMore', { more })}`}
      </span>
    </Link>
  );
}
