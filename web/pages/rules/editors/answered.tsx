import { Form } from 'react-bootstrap';
import { durationWords, plainWords } from '../../../../core/messages/index.ts';
import type { Acknowledging } from '../../../../core/people/index.ts';
import { becameOf } from '../../../../core/rules/index.ts';
import { Said, useViewer, selectorWords } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { DurationInput } from './duration-input.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { PeopleEditor } from './people-editor.tsx';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';

export const FIRST_ACK: Acknowledging = {
  by: 'anyone',
  remind: { after: 'PT30M', times: 2 },
  escalate: [],
  closeWhenCeased: true,
  allClear: false,
};

/** Whether somebody has to say that they have it, and what follows while nobody does. */
export function Answered({ rule, source, faults, edited, isFixed, onChange }: PartProps) {
  const viewer = useViewer();
  const { ack } = rule;
  const className = mark(edited, 'ack');
  const put = (part: Partial<Acknowledging>) => onChange({ ...rule, ack: { ...(ack ?? FIRST_ACK), ...part } });
  if (!ack) return null;
  const ceases = becameOf(rule) !== null;
  return (
    <Part
      title={t('answered')}
      faults={faults}
      path={['ack']}
      hint={
        ceases && ack.closeWhenCeased
          ? t(ack.allClear ? 'closesAndTells' : 'closesByItselfWhenIt')
          : t('staysOpenUntilItIs')
      }
    >
      <Chip
        label={t('whoAcknowledges')}
        className={className}
        disabled={isFixed}
        onRemove={() => onChange({ ...rule, ack: null })}
        editor={() => (
          <>
            <Form.Check
              type="radio"
              name="ack-by"
              id="ack-anyone"
              label={t('oneOfThoseToldIs')}
              checked={ack.by === 'anyone'}
              onChange={() => put({ by: 'anyone' })}
            />
            <Form.Check
              type="radio"
              name="ack-by"
              id="ack-everyone"
              label={t('eachOfThoseToldHas')}
              checked={ack.by === 'everyone'}
              onChange={() => put({ by: 'everyone' })}
            />
            <Form.Check
              id="ack-close"
              label={t('closesByItselfWhenItIs')}
              disabled={!ceases}
              checked={ack.closeWhenCeased}
              onChange={(event) => put({ closeWhenCeased: event.target.checked })}
            />
            <Form.Check
              id="ack-clear"
              label={t('andThenTellsAllWho')}
              disabled={!ceases || !ack.closeWhenCeased}
              checked={ack.allClear}
              onChange={(event) => put({ allClear: event.target.checked })}
            />
          </>
        )}
      >
        {t.rich(`by.${ack.by}`)}
      </Chip>
      {ack.remind && (
        <Chip
          label={t('reminders')}
          className={className}
          disabled={isFixed}
          onRemove={() => put({ remind: null })}
          editor={() =>
            ack.remind && (
              <>
                <div className="small quiet">{t('remindedAfter')}</div>
                <DurationInput
                  label={t('after')}
                  value={ack.remind.after}
                  onChange={(after) => ack.remind && put({ remind: { ...ack.remind, after } })}
                />
                <div className="row-of">
                  <span className="beside">{t('upTo')}</span>
                  <Form.Control
                    type="number"
                    min={1}
                    max={100}
                    aria-label={t('howManyTimes')}
                    value={ack.remind.times}
                    onChange={(event) =>
                      ack.remind &&
                      put({
                        remind: { ...ack.remind, times: Math.max(1, Math.round(Number(event.target.value)) || 1) },
                      })
                    }
                  />
                  <span className="beside">{t('times')}</span>
                </div>
              </>
            )
          }
        >
          {t.rich('remindedEveryUpToTimes', {
            duration: durationWords(ack.remind.after, phrases()),
            times: ack.remind.times,
          })}
        </Chip>
      )}
      {ack.escalate.map((step, at) => {
        const putStep = (part: Partial<typeof step>) =>
          put({ escalate: ack.escalate.map((one, index) => (index === at ? { ...one, ...part } : one)) });
        const words = step.to.map((selector) => selectorWords(selector, viewer, source));
        return (
          // Steps have no identity but their place.
          <Chip
            key={`${at} ${ack.escalate.length}`}
            label={t('whoHearsIfNobodyDoes')}
            className={className}
            disabled={isFixed}
            onRemove={() => put({ escalate: ack.escalate.filter((_, index) => index !== at) })}
            editor={() => (
              <>
                <div className="small quiet">{t('notAcknowledgedAfter')}</div>
                <DurationInput label={t('after')} value={step.after} onChange={(after) => putStep({ after })} />
                <fieldset className="choices" aria-label={t('whoThenHears')}>
                  {step.to.map((selector, index) => (
                    <Form.Check
                      key={JSON.stringify(selector)}
                      id={`then-${at}-${index}`}
                      checked
                      disabled={step.to.length === 1}
                      label={<Said words={words[index] ?? []} />}
                      onChange={() => putStep({ to: step.to.filter((one) => one !== selector) })}
                    />
                  ))}
                </fieldset>
                <PeopleEditor
                  use="escalation"
                  source={source}
                  sources={rule.scope.sources}
                  chosen={step.to}
                  onAdd={(selector) => putStep({ to: [...step.to, selector] })}
                />
              </>
            )}
          >
            {t.rich('after2', {
              duration: durationWords(step.after, phrases()),
              words: phrases().and(words.map(plainWords)),
            })}
          </Chip>
        );
      })}
      {!isFixed && !ack.remind && (
        <button type="button" className="chip is-adding" onClick={() => put({ remind: { after: 'PT30M', times: 2 } })}>
          {t('remind')}
        </button>
      )}
      {!isFixed && (
        <button
          type="button"
          className="chip is-adding"
          onClick={() => put({ escalate: [...ack.escalate, { after: 'PT1H', to: [{ managerOf: { told: true } }] }] })}
        >
          {t('andIfNobodyDoes')}
        </button>
      )}
    </Part>
  );
}
