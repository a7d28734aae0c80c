import { Button } from 'react-bootstrap';
import type { Mute } from '../../../core/people/index.ts';
import { addDays, dateIn, instantOf, type CivilDate } from '../../../core/time/index.ts';
import { formatValue } from '../../../core/values/index.ts';
import { useViewer, DayInput, Radios } from '../../parts/index.ts';
import { useRules } from '../../queries/index.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { t } from '../../words/plan.ts';

/** For so many weeks everything can be put off with one press. */
const OFF_FOR = [1, 2];

/** What somebody does not want to hear of, each until a day or for good; everything at once too. */
export function Muted({
  mutes,
  titles,
  onChange,
}: {
  mutes: Mute[];
  titles: Record<string, string>;
  onChange: (mutes: Mute[]) => void;
}) {
  const rules = useRules();
  const viewer = useViewer();
  const { me } = viewer;
  const ruleName = (id: string) => (rules.data ?? []).find((row) => row.id === id)?.live?.name ?? id;
  const said = ({ item, rule }: Mute) => {
    const title = item && (titles[item] ?? t('anItem'));
    if (title && rule) return t('mutedBy', { item: title, rule: ruleName(rule) });
    return title ?? (rule ? ruleName(rule) : t('everything'));
  };
  const today = dateIn(instantOf(me.now), me.zone);
  const day = (until: string) =>
    formatValue(
      { id: 'day', name: t('day'), type: /^\d{4}-\d\d-\d\d$/.test(until) ? 'date' : 'dateTime' },
      until,
      me,
      viewer.names(),
    );
  const put = (at: number, until: string | undefined) =>
    onChange(
      mutes.map((mute, index) => {
        if (index !== at) return mute;
        const { until: _old, ...rest } = mute;
        return until === undefined ? rest : { ...rest, until };
      }),
    );
  const isAllOff = mutes.some((mute) => !mute.rule && !mute.item);
  return (
    <section>
      <h2>{t('muted')}</h2>
      {mutes.length === 0 && <p className="quiet small">{t('nothingIsMuted')}</p>}
      {mutes.length > 0 && (
        <ul className="plain-list">
          {mutes.map((mute, at) => (
            <li key={JSON.stringify([mute.rule, mute.item])}>
              <span>
                <strong>{said(mute)}</strong>{' '}
                <Chip
                  label={t('howLongIsMuted', { said: said(mute) })}
                  editor={() => <HowLong mute={mute} today={today} onChange={(until) => put(at, until)} />}
                >
                  {mute.until ? t('toTheEndOf2', { day: day(mute.until) }) : t('forGood')}
                </Chip>
              </span>
              <Button variant="link" size="sm" onClick={() => onChange(mutes.filter((_, index) => index !== at))}>
                {t('hearAgain')}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {!isAllOff && <AllOff today={today} onOff={(until) => onChange([...mutes, { until }])} />}
    </section>
  );
}

/** How long something is muted: for good, or to the end of a day. */
const HowLong = ({
  mute: { until },
  today,
  onChange,
}: {
  mute: Mute;
  today: CivilDate;
  onChange: (until: CivilDate | undefined) => void;
}) => (
  <>
    <Radios
      name="mute-until"
      options={[
        [false, t('forGood')],
        [true, t('toTheEndOfA')],
      ]}
      chosen={until !== undefined}
      onChange={(isUntil) => onChange(isUntil ? addDays(today, 7) : undefined)}
    />
    {until !== undefined && (
      <DayInput
        label={t('toTheEndOf')}
        min={today}
        value={until.slice(0, 10)}
        isNeeded
        onChange={(day) => onChange(day ?? undefined)}
      />
    )}
  </>
);

/** Puts everything off to the end of a day. */
const AllOff = ({ today, onOff }: { today: CivilDate; onOff: (until: CivilDate) => void }) => (
  <Chip
    label={t('everythingOffUntilADay')}
    className="is-adding"
    isPlain
    editor={(close) => {
      const off = (until: CivilDate | null) => {
        if (until === null) return;
        onOff(until);
        close();
      };
      return (
        <>
          <p className="small quiet">{t('nothingAtAllReachesYou')}</p>
          <DayInput label={t('everythingOffToTheEnd')} min={today} value={null} onChange={off} />
          {OFF_FOR.map((weeks) => (
            <Button key={weeks} variant="link" size="sm" onClick={() => off(addDays(today, 7 * weeks))}>
              {t('forWeeks', { weeks })}
            </Button>
          ))}
        </>
      );
    }}
  >
    {t('everythingOffUntilADay2')}
  </Chip>
);
