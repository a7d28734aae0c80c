import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { KEPT, type KeptFor, type RunningPage } from '../../../contract/wire/index.ts';
import { durationWords } from '../../../core/messages/index.ts';
import { formatDay } from '../../../core/values/index.ts';
import { ProblemNote, useNotice, useViewer } from '../../parts/index.ts';
import { useKeep } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/running.ts';

/** For how many days things may be kept, by sort; `null` is for ever. */
const CHOICES: Record<keyof KeptFor, readonly (number | null)[]> = {
  messages: [90, 180, 365, 730, 1825, null],
  trail: [366, 730, 1825, 3650, null],
  engine: [30, 90, 365, null],
  sessions: [1, 7, 14, 30, 90],
};

/** Days as people say them. */
function span(days: number | null): string {
  if (days === null) return t('forEver');
  return days >= 365 ? t('years', { count: Math.round(days / 365) }) : durationWords(`P${days}D`, phrases());
}

/** What is kept how long, as stewards choose, and what was taken away lately. */
export function Keeps({ page: { keeping } }: { page: RunningPage }) {
  const { me } = useViewer();
  const keep = useKeep();
  const notice = useNotice();
  const [chosen, setChosen] = useState<KeptFor | null>(null);
  const shown = chosen ?? keeping.days;
  const put = (what: keyof KeptFor, text: string) =>
    setChosen({ ...shown, [what]: text === '' ? null : Number(text) } as KeptFor);
  const save = () =>
    chosen &&
    keep.mutate(chosen, {
      onSuccess: () => {
        setChosen(null);
        notice({ words: t('isKeptSo') });
      },
    });
  return (
    <section>
      <h2>{t('whatIsKept')}</h2>
      <table className="people-table keeping">
        <tbody>
          {KEPT.map((what) => (
            <tr key={what}>
              <th scope="row">
                <label htmlFor={`keep-${what}`}>{t(`keeps.${what}`)}</label>
              </th>
              <td>
                <Form.Select
                  id={`keep-${what}`}
                  size="sm"
                  value={shown[what] ?? ''}
                  onChange={(event) => put(what, event.target.value)}
                >
                  {/* What was chosen elsewhere stands among what can be chosen here. */}
                  {[...new Set([...CHOICES[what], keeping.days[what]])].map((days) => (
                    <option key={days ?? ''} value={days ?? ''}>
                      {span(days)}
                    </option>
                  ))}
                </Form.Select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {chosen && (
        <div className="acts mt-2">
          <p className="small">{t('whatIsOlderGoes')}</p>
          <Button size="sm" disabled={keep.isPending} onClick={save}>
            {t('keepItSo')}
          </Button>
          <Button size="sm" variant="quiet" onClick={() => setChosen(null)}>
            {t('leaveIt')}
          </Button>
        </div>
      )}
      {keep.error && <ProblemNote error={keep.error} />}
      <p className="quiet">
        {keeping.cleaned.length === 0
          ? t('nothingTakenAway')
          : keeping.cleaned
              .map(({ day, what, count }) =>
                t('takenAway', { day: formatDay(day, me.locale), count, what: t(`taken.${what}`) }),
              )
              .join(' ')}
      </p>
    </section>
  );
}
