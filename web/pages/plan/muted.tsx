import { Button, Form } from 'react-bootstrap';
import type { Mute } from '../../../core/people/index.ts';
import { addDays, dateIn, instantOf } from '../../../core/time/index.ts';
import { formatValue } from '../../../core/values/index.ts';
import { useViewer } from '../../parts/index.ts';
import { useRules } from '../../queries/index.ts';
import { Chip } from '../rules/editors/chip.tsx';

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
  const said = (mute: Mute) =>
    [mute.item && (titles[mute.item] ?? 'an item'), mute.rule && ruleName(mute.rule)].filter(Boolean).join(', by ') ||
    'Everything';
  const today = dateIn(instantOf(me.now), me.zone);
  const day = (until: string) =>
    formatValue(
      { id: 'day', name: 'Day', type: /^\d{4}-\d\d-\d\d$/.test(until) ? 'date' : 'dateTime' },
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
      <h2>Muted</h2>
      {mutes.length === 0 && <p className="quiet small">Nothing is muted.</p>}
      {mutes.length > 0 && (
        <ul className="plain-list">
          {mutes.map((mute, at) => (
            <li key={JSON.stringify([mute.rule, mute.item])}>
              <span>
                <strong>{said(mute)}</strong>{' '}
                <Chip
                  label={`How long ${said(mute)} is muted`}
                  editor={() => (
                    <>
                      <Form.Check
                        type="radio"
                        name="mute-until"
                        id="mute-for-good"
                        label="for good"
                        checked={!mute.until}
                        onChange={() => put(at, undefined)}
                      />
                      <Form.Check
                        type="radio"
                        name="mute-until"
                        id="mute-until-day"
                        label="to the end of a day"
                        checked={!!mute.until}
                        onChange={() => put(at, addDays(today, 7))}
                      />
                      {mute.until && (
                        <Form.Control
                          type="date"
                          aria-label="To the end of"
                          min={today}
                          value={mute.until.slice(0, 10)}
                          onChange={(event) => event.target.value && put(at, event.target.value)}
                        />
                      )}
                    </>
                  )}
                >
                  {mute.until ? `to the end of ${day(mute.until)}` : 'for good'}
                </Chip>
              </span>
              <Button variant="link" size="sm" onClick={() => onChange(mutes.filter((_, index) => index !== at))}>
                hear again
              </Button>
            </li>
          ))}
        </ul>
      )}
      {!isAllOff && (
        <Chip
          label="Everything off until a day"
          className="is-adding"
          isPlain
          editor={(close) => (
            <>
              <p className="small quiet">
                Nothing at all reaches you until its end, critical rules neither. Others see that you muted them.
              </p>
              <Form.Control
                type="date"
                aria-label="Everything off to the end of"
                min={today}
                onChange={(event) => {
                  if (event.target.value) {
                    onChange([...mutes, { until: event.target.value }]);
                    close();
                  }
                }}
              />
              {[
                ['a week', 7],
                ['two weeks', 14],
              ].map(([words, days]) => (
                <Button
                  key={words}
                  variant="link"
                  size="sm"
                  onClick={() => {
                    onChange([...mutes, { until: addDays(today, Number(days)) }]);
                    close();
                  }}
                >
                  for {words}
                </Button>
              ))}
            </>
          )}
        >
          + everything off until a day
        </Chip>
      )}
    </section>
  );
}
