import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import type { PlanPage } from '../../../contract/wire/index.ts';
import { rulePath } from '../../../core/messages/index.ts';
import { type Absence, asKind, laidOpen, membersOfGroup, type Plan } from '../../../core/people/index.ts';
import type { Rule } from '../../../core/rules/index.ts';
import { addDays, dateIn, instantOf } from '../../../core/time/index.ts';
import { formatDay } from '../../../core/values/index.ts';
import { DayInput, useViewer, type Viewer } from '../../parts/index.ts';
import { useRules } from '../../queries/index.ts';
import { t } from '../../words/plan.ts';

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
