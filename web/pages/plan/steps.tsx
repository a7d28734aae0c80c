import { Button } from 'react-bootstrap';
import type { Step } from '../../../core/people/index.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { moved } from '../rules/editors/condition-groups.ts';
import { AddStep, StepEditor, stepWords } from './steps-editor.tsx';
import { t } from '../../words/plan.ts';

/** The steps of a plan, in their order; each a chip that opens its editor. `before` are the steps that are kept, to show what differs. */
export function Steps({
  steps,
  before,
  label,
  onChange,
}: {
  steps: Step[];
  before: Step[] | null;
  label: string;
  onChange: (steps: Step[]) => void;
}) {
  return (
    <>
      {steps.map((step, at) => (
        <Chip
          key={`${at} ${steps.length}`}
          label={t('step2', { label, at: at + 1 })}
          className={before && JSON.stringify(step) !== JSON.stringify(before[at]) ? 'is-edited' : ''}
          onRemove={steps.length > 1 ? () => onChange(steps.filter((_, index) => index !== at)) : undefined}
          editor={() => (
            <>
              <StepEditor
                step={step}
                onChange={(next) => onChange(steps.map((one, index) => (index === at ? next : one)))}
              />
              {at > 0 && (
                <Button variant="link" size="sm" onClick={() => onChange(moved(steps, at, at - 1))}>
                  {t('earlier')}
                </Button>
              )}
            </>
          )}
        >
          {stepWords(step)}
        </Chip>
      ))}
      <AddStep onAdd={(step) => onChange([...steps, step])} />
    </>
  );
}
