import { type CSSProperties, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { Cost } from '../../../../contract/wire/index.ts';
import { itemPath } from '../../../../core/messages/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { Timeline, Time, useViewer, WhatHappened } from '../../../parts/index.ts';
import type { Days } from '../../../queries/index.ts';
import { t } from '../../../words/trial.ts';
import { figure } from '../../../words/index.ts';

interface CostQuery {
  data: Cost | undefined;
  error: unknown;
  isFetching: boolean;
}

const DAYS: Days[] = [7, 30, 90];

/** Over how many past days it is counted. */
export function DaysChoice({ days, onChange }: { days: Days; onChange: (days: Days) => void }) {
  return (
    <fieldset className="tabs days" aria-label={t('countedOver')}>
      {DAYS.map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={one === days}
          className={one === days ? 'active' : ''}
          onClick={() => onChange(one)}
        >
          {t('days', { one })}
        </button>
      ))}
    </fieldset>
  );
}

type StepName = Cost['steps'][number]['step'];

interface FunnelRow {
  name: string;
  left: number;
  words: string;
  below: string;
  dropped: Cost['steps'][number]['dropped'];
}

/** The steps that a rule has, each with what is left after it; those that let everything through are left out. */
export function funnelRows(data: Cost, rule: Rule): FunnelRow[] {
  const known = Object.fromEntries(data.steps.map((one) => [one.step, one])) as Record<StepName, Cost['steps'][number]>;
  const found: FunnelRow[] = [];
  const add = (step: StepName, words: string, gone: string) => {
    const { left, dropped } = known[step];
    const before = found.at(-1)?.left ?? left;
    found.push({
      name: step,
      left,
      words,
      below: gone && before > left ? `${figure(before - left)} ${gone}` : '',
      dropped,
    });
  };
  if (rule.when) {
    add('changes', t('changesInDays', { days: data.days }), '');
    if (known.scope.left < known.changes.left) add('scope', t('lookedAt'), t('elsewhere'));
    if (rule.when.kinds.length > 0) add('kinds', t('ofTheseKinds'), t('ofOtherKinds'));
    if (rule.by.only.length + rule.by.except.length > 0) add('actor', t('causedByThem'), t('byOthers'));
    if (known.condition.left < known.actor.left) add('condition', t('whereItHappened'), t('otherEdits'));
    if (known.dates.left < known.condition.left) add('dates', t('atThatTime'), t('atOtherTimes'));
    if (rule.when.burst) add('burst', t('piledUp'), t('tooFewTogether'));
  }
  const alerts = known.limit.left;
  const before = found.at(-1)?.left ?? alerts;
  const parts = [
    [before - known.batch.left, t('inBulkChanges')],
    [known.batch.left - known.settling.left, t('settledOrMerged')],
    [known.settling.left - alerts, t('tooSoon')],
  ]
    .filter(([count]) => rule.when && Number(count) > 0)
    .map(([count, words]) => `${figure(Number(count))} ${words}`);
  found.push({
    name: 'alerts',
    left: alerts,
    words: t('alertsOf', { alerts }),
    below: parts.join(', '),
    dropped: [...known.settling.dropped, ...known.limit.dropped],
  });
  const digests = data.people.reduce((sum, one) => sum + one.digests, 0);
  const fate = [
    ...(digests > 0
      ? [
          digests === data.messages
            ? t('allInDigests')
            : t('inDigests', { share: Math.round((digests / data.messages) * 100) }),
        ]
      : []),
    ...(data.withheld > 0 ? [t('withheld', { withheld: data.withheld })] : []),
  ];
  found.push({
    name: 'messages',
    left: data.messages,
    words: t('messageToPeople', { messages: data.messages, people: data.people.length }),
    below: fate.join(', '),
    dropped: [],
  });
  return found;
}

/** What is left of the last days' changes after each step of the rule, down to messages; each step shows some of what it let go. */
export function CostFunnel({ cost, rule }: { cost: CostQuery; rule: Rule }) {
  const { data } = cost;
  const [open, setOpen] = useState<string | null>(null);
  if (!data)
    return (
      <p className="quiet" style={{ minHeight: '24rem' }}>
        {cost.error ? t('theCountCannotBeMade') : t('countingWhatTheLastDays')}
      </p>
    );
  const steps = funnelRows(data, rule);
  const most = Math.max(1, ...steps.map((step) => step.left));
  const width = (left: number) => `${(left / most) * 16}rem`;
  return (
    <div aria-live="polite" aria-busy={cost.isFetching}>
      <ol className="funnel">
        {steps.map((step, at) => (
          <li
            key={step.name}
            className={step.name}
            style={{ '--w': width(step.left), '--next': width(steps[at + 1]?.left ?? step.left) } as CSSProperties}
          >
            <b>{figure(step.left)}</b>
            <span>
              {step.words}
              <small>
                {step.dropped.length > 0 && step.below ? (
                  <button
                    type="button"
                    className="btn btn-link"
                    aria-expanded={open === step.name}
                    onClick={() => setOpen(open === step.name ? null : step.name)}
                  >
                    {step.below}
                  </button>
                ) : (
                  step.below
                )}
              </small>
            </span>
            {at < steps.length - 1 && <i />}
          </li>
        ))}
      </ol>
      {steps
        .filter((step) => step.name === open)
        .map((step) => (
          <Dropped key={step.name} row={step} onClose={() => setOpen(null)} />
        ))}
    </div>
  );
}

/** Some of the changes that a step let go. */
function Dropped({ row, onClose }: { row: FunnelRow; onClose: () => void }) {
  const { source, person } = useViewer();
  return (
    <section className="dropped">
      <div className="page-head">
        <h3>{t('letGo', { below: row.below })}</h3>
        <Button variant="quiet" size="sm" onClick={onClose}>
          {t('close')}
        </Button>
      </div>
      <ul className="plain-list small">
        {row.dropped.map((sample) => {
          const of = source(sample.source);
          return (
            <li key={sample.row.id}>
              <Time at={sample.row.at} /> <Link to={itemPath(sample.item)}>{sample.title}</Link>{' '}
              {of && <WhatHappened row={sample.row} source={of} most={2} />}{' '}
              <span className="quiet">{t('by', { person: person(sample.row.actor) })}</span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** The days along a line, and who would have heard how often. */
export function CostStrip({ cost }: { cost: CostQuery }) {
  const { me, person } = useViewer();
  const { data } = cost;
  if (!data) return null;
  const most = Math.max(1, ...data.people.map((one) => one.messages));
  const shown = data.people.slice(0, 6);
  const weekly = (messages: number) => (messages / data.days) * 7;
  return (
    <section className="under-bench">
      <div>
        <p className="small quiet" style={{ marginBottom: '0.8rem' }}>
          {t.rich('theLastDaysUnderThis', {
            days: data.days,
            alerts: <strong style={{ color: 'var(--ink)' }}>{t('alerts', { caught: data.caught.length })}</strong>,
          })}
        </p>
        <Timeline
          all={data.all}
          caught={data.caught}
          now={me.now}
          days={data.days}
          width={760}
          isWide
          height={38}
          label={t('theLastDaysChangesCaught', { days: data.days, all: data.all.length, caught: data.caught.length })}
        />
      </div>
      <div>
        <p className="small quiet">{t('whoItWouldHaveReached')}</p>
        {shown.length === 0 ? (
          <p className="quiet mt-2">{t('nobody')}</p>
        ) : (
          <div className="reach-bars">
            {shown.map((one) => (
              <div key={one.person} style={{ display: 'contents' }}>
                <span className="cut">{person(one.person)}</span>
                <span>
                  <i style={{ width: `${(one.messages / most) * 60}%` }} />
                  <span className="mono">{figure(weekly(one.messages), { maximumSignificantDigits: 2 })}</span>
                </span>
              </div>
            ))}
          </div>
        )}
        {data.people.length > shown.length && (
          <p className="small quiet mt-1">{t('andMore', { people: data.people.length - shown.length })}</p>
        )}
      </div>
    </section>
  );
}
