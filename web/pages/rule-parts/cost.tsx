import type { CSSProperties } from 'react';
import type { Cost } from '../../../contract/api.ts';
import type { Rule } from '../../../core/rules/index.ts';
import { Tape, useReading } from '../../parts/index.ts';

interface CostQuery {
  data: Cost | undefined;
  error: unknown;
  isFetching: boolean;
}

/** What is left of the last days' changes after each step of the rule, down to messages. */
export function CostFunnel({ cost, rule }: { cost: CostQuery; rule: Rule }) {
  const { data } = cost;
  if (!data) return <p className="quiet" style={{ minHeight: '24rem' }}>{cost.error ? 'The count cannot be made just now.' : 'Counting what the last 30 days would have brought…'}</p>;
  const lefts = Object.fromEntries(data.steps.map((one) => [one.step, one.left])) as Record<Cost['steps'][number]['step'], number>;
  const steps: { name: string; left: number; words: string; below: string }[] = [{ name: 'changes', left: lefts.changes, words: `changes in ${data.days} days`, below: '' }];
  const add = (name: string, left: number, words: string, gone: string) => steps.push({ name, left, words, below: gone && (steps.at(-1)?.left ?? 0) > left ? `${((steps.at(-1)?.left ?? 0) - left).toLocaleString()} ${gone}` : '' });
  if (rule.when) add('scope', lefts.scope, 'looked at', 'elsewhere');
  else steps.pop();
  if (rule.when && rule.when.kinds.length > 0) add('kinds', lefts.kinds, 'of these kinds', 'of other kinds');
  if (rule.by.only.length + rule.by.except.length > 0) add('actor', lefts.actor, 'caused by them', 'by others');
  add('alerts', lefts.limit, `alert${lefts.limit === 1 ? '' : 's'}`, rule.when ? 'other edits' : '');
  const people = data.people.length;
  steps.push({ name: 'messages', left: data.messages, words: `told to ${people} ${people === 1 ? 'person' : 'people'}`, below: data.withheld > 0 ? `${data.withheld} withheld` : rule.pace.kind === 'digest' ? 'gathered in digests' : '' });
  const most = Math.max(1, ...steps.map((step) => step.left));
  const width = (left: number) => `${(left / most) * 16}rem`;
  return (
    <div aria-live="polite" aria-busy={cost.isFetching}>
      <ol className="funnel">
        {steps.map((step, at) => (
          <li key={step.name} className={step.name} style={{ '--w': width(step.left), '--next': width(steps[at + 1]?.left ?? step.left) } as CSSProperties}>
            <b>{step.left.toLocaleString()}</b>
            <span>{step.words}<small>{step.below}</small></span>
            {at < steps.length - 1 && <i />}
          </li>
        ))}
      </ol>
    </div>
  );
}

/** The days along a line, and who would have heard how often. */
export function CostStrip({ cost }: { cost: CostQuery }) {
  const { me, person } = useReading();
  const { data } = cost;
  if (!data) return null;
  const most = Math.max(1, ...data.people.map((one) => one.messages));
  const shown = data.people.slice(0, 6);
  return (
    <section className="under-bench">
      <div>
        <p className="small quiet" style={{ marginBottom: '0.8rem' }}>The last {data.days} days under this rule: <strong style={{ color: 'var(--ink)' }}>{data.caught.length} alert{data.caught.length === 1 ? '' : 's'}</strong></p>
        <Tape all={data.all} caught={data.caught} now={me.now} width={760} isWide height={38} label={`The last ${data.days} days: ${data.all.length} changes, ${data.caught.length} caught`} />
      </div>
      <div>
        <p className="small quiet">Who it would have reached</p>
        {shown.length === 0 ? <p className="quiet mt-2">Nobody.</p> : (
          <div className="reach-bars">
            {shown.map((one) => (
              <div key={one.person} style={{ display: 'contents' }}>
                <span className="cut">{person(one.person)}</span>
                <span><i style={{ width: `${(one.messages / most) * 70}%` }} /><span className="mono">{one.messages}</span></span>
              </div>
            ))}
          </div>
        )}
        {data.people.length > shown.length && <p className="small quiet mt-1">and {data.people.length - shown.length} more</p>}
      </div>
    </section>
  );
}
