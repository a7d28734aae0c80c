import { useState } from 'react';
import { Button } from 'react-bootstrap';
import {
  addDays,
  dateIn,
  type Instant,
  instantOf,
  laterChoices,
  laterOn,
  printInstant,
} from '../../../core/time/index.ts';
import { formatInstant } from '../../../core/values/index.ts';
import { DayInput, Time, useViewer } from '../../parts/index.ts';
import { useTellAgain } from '../../queries/index.ts';
import { t } from '../../words/inbox.ts';

/** When a message shall come again: in an hour, this afternoon, tomorrow morning, or on the morning of a day. */
export function TellAgain({ message, onDone }: { message: string; onDone: () => void }) {
  const { me } = useViewer();
  const tell = useTellAgain();
  const now = instantOf(me.now);
  const tomorrow = addDays(dateIn(now, me.zone), 1);
  const [day, setDay] = useState<string | null>(null);
  const [isLacking, setLacking] = useState(false);
  const ask = (at: Instant) => tell.mutate({ id: message, when: printInstant(at) }, { onSuccess: onDone });
  const askDay = () => {
    if (day === null || day < tomorrow) return setLacking(true);
    ask(laterOn(day, me.zone));
  };
  return (
    <fieldset className="tell-again">
      <legend>{t('whenAgain')}</legend>
      <div className="acts">
        {laterChoices(now, me.zone).map(({ choice, at }) => (
          <Button key={choice} variant="outline-primary" disabled={tell.isPending} onClick={() => ask(at)}>
            {t(`again.${choice}`)} <span className="quiet">{formatInstant(at, me)}</span>
          </Button>
        ))}
      </div>
      <div className="row-of">
        <label htmlFor={`again-${message}`}>{t('againMorningOf')}</label>
        <DayInput
          id={`again-${message}`}
          value={day}
          min={tomorrow}
          onChange={(next) => {
            setLacking(false);
            setDay(next);
          }}
        />
        <Button variant="outline-primary" disabled={tell.isPending} onClick={askDay}>
          {t('againThen')}
        </Button>
      </div>
      {isLacking && (
        <p className="fault small" role="alert">
          {t('againLacking')}
        </p>
      )}
      <Button variant="link" size="sm" onClick={onDone}>
        {t('againLeave')}
      </Button>
    </fieldset>
  );
}

/** That it comes again, and when. */
export const ComesAgain = ({ at }: { at: string }) => (
  <p className="small">
    {t('comesAgain')} <Time at={at} full />
  </p>
);
