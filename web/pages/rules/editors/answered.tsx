import { Form } from 'react-bootstrap';
import { durationWords, plainWords } from '../../../../core/messages/index.ts';
import type { Acknowledging } from '../../../../core/people/index.ts';
import { becameOf } from '../../../../core/rules/index.ts';
import { Said, useViewer, selectorWords, Radios } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { Counted } from './counted.tsx';
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

interface AckProps extends PartProps {
  ack: Acknowledging;
  put: (part: Partial<Acknowledging>) => void;
}

/** Whether somebody has to say that they have it, and what follows while nobody does. */
export function Answered(props: PartProps) {
  const { rule, faults, isFixed, onChange } = props;
  const { ack } = rule;
  if (!ack) return null;
  const put = (part: Partial<Acknowledging>) => onChange({ ...rule, ack: { ...ack, ...part } });
  const own: AckProps = { ...props, ack, put };
  const closes = becameOf(rule) !== null && ack.closeWhenCeased;
  const closing = ack.allClear ? t('closesAndTells') : t('closesByItselfWhenIt');
  return (
    <Part title={t('answered')} faults={faults} path={['ack']} hint={closes ? closing : t('staysOpenUntilItIs')}>
      <WhoAcknowledges {...own} />
      {ack.remind && <Reminders {...own} remind={ack.remind} />}
      {ack.escalate.map((_, at) => (
        // Steps have no identity but their place.
        <ThenHears key={`${at} ${ack.escalate.length}`} {...own} at={at} />
      ))}
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

function WhoAcknowledges({ rule, ack, put, edited, isFixed, onChange }: AckProps) {
  const ceases = becameOf(rule) !== null;
  return (
    <Chip
      label={t('whoAcknowledges')}
      className={mark(edited, 'ack')}
      disabled={isFixed}
      onRemove={() => onChange({ ...rule, ack: null })}
      editor={() => (
        <>
          <Radios
            name="ack"
            options={[
              ['anyone', t('oneOfThoseToldIs')],
              ['everyone', t('eachOfThoseToldHas')],
            ]}
            chosen={ack.by}
            onChange={(by) => put({ by })}
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
  );
}

const Reminders = ({ remind, put, edited, isFixed }: AckProps & { remind: NonNullable<Acknowledging['remind']> }) => (
  <Chip
    label={t('reminders')}
    className={mark(edited, 'ack')}
    disabled={isFixed}
    onRemove={() => put({ remind: null })}
    editor={() => (
      <>
        <div className="small quiet">{t('remindedAfter')}</div>
        <DurationInput
          label={t('after')}
          value={remind.after}
          onChange={(after) => put({ remind: { ...remind, after } })}
        />
        <Counted
          label={t('howManyTimes')}
          value={remind.times}
          before={t('upTo')}
          after={t('times')}
          max={100}
          onChange={(times) => put({ remind: { ...remind, times } })}
        />
      </>
    )}
  >
    {t.rich('remindedEveryUpToTimes', { duration: durationWords(remind.after, phrases()), times: remind.times })}
  </Chip>
);

/** Who hears where nobody has it after so long. */
function ThenHears({ rule, source, ack, put, at, edited, isFixed }: AckProps & { at: number }) {
  const viewer = useViewer();
  const step = ack.escalate[at];
  if (!step) return null;
  const putStep = (part: Partial<typeof step>) =>
    put({ escalate: ack.escalate.map((one, index) => (index === at ? { ...one, ...part } : one)) });
  const words = step.to.map((selector) => selectorWords(selector, viewer, source));
  return (
    <Chip
      label={t('whoHearsIfNobodyDoes')}
      className={mark(edited, 'ack')}
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
}
