import { Button, Form } from 'react-bootstrap';
import type { Mute } from '../../../core/people/index.ts';
import { addDays, dateIn, instantOf } from '../../../core/time/index.ts';
import { formatValue } from '../../../core/values/index.ts';
import { useViewer } from '../../parts/index.ts';
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
                  editor={() => (
                    <>
                      <Form.Check
                        type="radio"
                        name="mute-until"
                        id="mute-for-good"
                        label={t('forGood')}
                        checked={!mute.until}
                        onChange={() => put(at, undefined)}
                      />
                      <Form.Check
                        type="radio"
                        name="mute-until"
                        id="mute-until-day"
                        label={t('toTheEndOfA')}
                        checked={!!mute.until}
                        onChange={() => put(at, addDays(today, 7))}
                      />
                      {mute.until && (
                        <Form.Control
                          type="date"
                          aria-label={t('toTheEndOf')}
                          min={today}
                          value={mute.until.slice(0, 10)}
                          onChange={(event) => event.target.value && put(at, event.target.value)}
                        />
                      )}
                    </>
                  )}
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
      {!isAllOff && (
        <Chip
          label={t('everythingOffUntilADay')}
          className="is-adding"
          isPlain
          editor={(close) => (
            <>
              <p className="small quiet">{t('nothingAtAllReachesYou')}</p>
              <Form.Control
                type="date"
                aria-label={t('everythingOffToTheEnd')}
                min={today}
                onChange={(event) => {
                  if (event.target.value) {
                    onChange([...mutes, { until: event.target.value }]);
                    close();
                  }
                }}
              />
              {OFF_FOR.map((weeks) => (
                <Button
                  key={weeks}
                  variant="link"
                  size="sm"
                  onClick={() => {
                    onChange([...mutes, { until: addDays(today, 7 * weeks) }]);
                    close();
                  }}
                >
                  {t('forWeeks', { weeks })}
                </Button>
              ))}
            </>
          )}
        >
          {t('everythingOffUntilADay2')}
        </Chip>
      )}
    </section>
  );
}
