import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import type { PlanPage, WeekPage } from '../../../contract/wire/index.ts';
import { rulePath } from '../../../core/messages/index.ts';
import { type Absence, asKind, laidOpen, membersOfGroup, type Plan } from '../../../core/people/index.ts';
import type { Rule } from '../../../core/rules/index.ts';
import { addDays, type CivilDate, dateIn, instantOf } from '../../../core/time/index.ts';
import { formatDay } from '../../../core/values/index.ts';
import { DayInput, useViewer, type Viewer } from '../../parts/index.ts';
import { useRules } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/plan.ts';
import { awayOn, type DrawnAway } from './away-days.ts';

/** On which days somebody is away, and who hears in their place; and in whose place they hear themselves. */
export function Away({
  plan,
  page,
  onChange,
}: {
  plan: Plan;
  page: Pick<PlanPage, 'standsInFor'>;
  onChange: (plan: Plan) => void;
}) {
  const { me, person } = useViewer();
  const today = dateIn(instantOf(me.now), me.zone);
  const { absent } = plan;
  const put = (next: Absence | undefined) => {
    const { absent: _, ...rest } = plan;
    onChange(next ? { ...rest, absent: next } : rest);
  };
  return (
    <section>
      <h2>{t('whenYouAreAway')}</h2>
      {absent ? (
        <AwayDays absent={absent} today={today} onChange={put} />
      ) : (
        <button
          type="button"
          className="chip is-adding"
          onClick={() => put({ from: today, until: addDays(today, 6), deputy: null })}
        >
          {t('somebodyInMyPlace')}
        </button>
      )}
      {page.standsInFor.length > 0 && (
        <ul className="plain-list mt-2">
          {page.standsInFor.map((one) => (
            <li key={one.person}>
              {t.rich('youHearInPlaceOf', {
                person: <strong>{person(one.person)}</strong>,
                from: formatDay(one.from, me.locale),
                until: formatDay(one.until, me.locale),
              })}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

interface DaysProps {
  absent: Absence;
  today: string;
  onChange: (absent: Absence | undefined) => void;
}

function AwayDays({ absent, today, onChange }: DaysProps) {
  const viewer = useViewer();
  const { me, directory } = viewer;
  const { from, until, deputy } = absent;
  const isOver = until < today;
  return (
    <>
      <div className="row-of away">
        <span className="beside">{t('awayFrom')}</span>
        <DayInput
          label={t('firstDayAway')}
          value={from}
          isNeeded
          onChange={(day) => day && onChange({ ...absent, from: day, until: laterOf(day, until) })}
        />
        <span className="beside">{t('awayUntil')}</span>
        <DayInput
          label={t('lastDayAway')}
          value={until}
          min={from}
          isNeeded
          onChange={(day) => day && onChange({ ...absent, until: day })}
        />
        <Form.Select
          aria-label={t('whoHearsInMyPlace')}
          value={deputy ?? ''}
          onChange={({ target }) => onChange({ ...absent, deputy: target.value || null })}
        >
          <option value="">{t('nobodyHearsInMyPlace')}</option>
          {directory.people
            .filter((one) => one.isActive && one.id !== me.id)
            .map((one) => (
              <option key={one.id} value={one.id}>
                {t('hearsInMyPlace', { person: one.name })}
              </option>
            ))}
        </Form.Select>
        <Button variant="link" size="sm" onClick={() => onChange(undefined)}>
          {t('iAmHere')}
        </Button>
      </div>
      {isOver && <p className="small quiet">{t('awayIsOver')}</p>}
      <p className="small quiet">{t('bothDaysCount')}</p>
      {deputy === null && !isOver && <Unheard viewer={viewer} />}
    </>
  );
}

/** What is drawn of the week: on which days somebody else hears, and on which one hears for others. */
export function useDrawnAway(
  { absent }: Plan,
  { standsInFor }: Pick<PlanPage, 'standsInFor'>,
  days: readonly CivilDate[],
  today: CivilDate,
): DrawnAway {
  const { person } = useViewer();
  const words = absent?.deputy ? t('hearsThen', { person: person(absent.deputy) }) : t('nobodyHearsThen');
  const forWhom = (day: CivilDate) =>
    standsInFor.filter((one) => awayOn(one, days, today).includes(day)).map((one) => person(one.person));
  return {
    away: new Map((absent ? awayOn(absent, days, today) : []).map((day) => [day, words])),
    also: new Map(
      days.flatMap((day) => {
        const names = forWhom(day);
        return names.length > 0 ? [[day, t('alsoFor', { people: phrases().and(names) })] as const] : [];
      }),
    ),
  };
}

/** What becomes of a week like the last one while somebody is away: who hears it, and what they may not read. */
export function InPlace({ absent, inPlace }: { absent: Absence; inPlace: WeekPage['inPlace'] }) {
  const { person } = useViewer();
  if (!inPlace || inPlace.person !== absent.deputy) return null;
  const who = person(inPlace.person);
  return (
    <div className="small mt-2" role="status">
      <p className="mb-0">
        {inPlace.unheard === 0
          ? t('allHeardInPlace', { person: who, told: inPlace.told })
          : t('someHeardInPlace', { person: who, told: inPlace.told })}
      </p>
      {inPlace.unheard > 0 && (
        <p className="fault mb-0">{t('unheardInPlace', { person: who, unheard: inPlace.unheard })}</p>
      )}
      {inPlace.isAway && <p className="fault mb-0">{t('deputyAway', { person: who })}</p>}
    </div>
  );
}

/** Of two civil days the later. */
const laterOf = (a: string, b: string): string => [a, b].sort().at(-1) ?? a;

/** The critical rules that would reach nobody, since they name this reader alone. */
function Unheard({ viewer }: { viewer: Viewer }) {
  const rules = useRules();
  const alone = (rules.data ?? []).flatMap(({ live, state }) =>
    live && state === 'live' && live.urgency === 'critical' && namesOnly(live, viewer) ? [live] : [],
  );
  if (!rules.data) return null;
  if (alone.length === 0) return <p className="small">{t('noCriticalRuleUnheard')}</p>;
  return (
    <div className="small fault" role="status">
      {t('criticalUnheard', { rules: alone.length })}
      <ul className="plain-list">
        {alone.map(({ id, name }) => (
          <li key={id}>
            <Link to={rulePath(id)}>{name}</Link>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Whether a rule names nobody but the reader: by themselves, or by a group that holds them alone. */
function namesOnly({ to }: Rule, { me, directory }: Viewer): boolean {
  const groups = new Map(directory.groups.map((one) => [one.id, one]));
  return laidOpen(to).every((selector) => {
    const group = asKind(selector, 'group');
    if (group) return [...membersOfGroup(group.group, { groups })].every((id) => id === me.id);
    return asKind(selector, 'person')?.person === me.id;
  });
}
