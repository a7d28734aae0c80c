import { Button, Form } from 'react-bootstrap';
import { durationWords, paceWords } from '../../../core/messages/index.ts';
import type { Channel, Step } from '../../../core/people/index.ts';
import { DurationInput } from '../rules/editors/duration-input.tsx';
import { PaceEditor } from '../rules/editors/pace-editor.tsx';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/plan.ts';
import { byWhat } from '../../parts/index.ts';

const CHANNELS: Channel[] = ['inApp', 'email', 'text'];

/** One step of a plan in words: *email if unread after 15 minutes*. */
export function stepWords({ channel, after, when, pace }: Step): string {
  return [
    byWhat(channel),
    pace?.kind === 'digest' && t('inA', { pace: paceWords(pace, phrases()) }),
    after && t('ifUnreadAfter', { duration: durationWords(after, phrases()) }),
    when === 'away' && t('whileAway'),
  ]
    .filter(Boolean)
    .join(', ');
}

/** Edits one step: by what, after how long, only while away, gathered or not. */
export function StepEditor({ step, onChange }: { step: Step; onChange: (step: Step) => void }) {
  const put = (part: Partial<Step>) => {
    const next: Record<string, unknown> = { ...step, ...part };
    for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key];
    onChange(next as unknown as Step);
  };
  return (
    <>
      <Form.Select
        aria-label={t('byWhat')}
        value={step.channel}
        onChange={(event) => put({ channel: event.target.value as Channel })}
      >
        {CHANNELS.map((one) => (
          <option key={one} value={one}>
            {byWhat(one)}
          </option>
        ))}
      </Form.Select>
      <Form.Check
        id="step-after"
        label={t('onlyIfItIsStill')}
        checked={step.after !== undefined}
        onChange={(event) => put({ after: event.target.checked ? 'PT15M' : undefined })}
      />
      {step.after !== undefined && (
        <DurationInput
          label={t('after')}
          units={['minutes', 'hours', 'days']}
          value={step.after}
          onChange={(after) => put({ after })}
        />
      )}
      <Form.Check
        id="step-away"
        label={t('onlyWhileIAmNot')}
        checked={step.when === 'away'}
        onChange={(event) => put({ when: event.target.checked ? 'away' : undefined })}
      />
      <div className="small quiet">{t('ofRulesThatTellAt')}</div>
      <PaceEditor
        pace={step.pace ?? { kind: 'now' }}
        maySettle={false}
        onChange={(pace) => put({ pace: pace.kind === 'digest' ? pace : undefined })}
      />
    </>
  );
}

/** What one more step of a plan begins as. */
export const AddStep = ({ onAdd }: { onAdd: (step: Step) => void }) => (
  <Button variant="link" size="sm" className="quiet" onClick={() => onAdd({ channel: 'email', after: 'PT30M' })}>
    {t('step')}
  </Button>
);
