import { Button, Form } from 'react-bootstrap';
import { durationWords, occasionWords } from '../../../../core/messages/index.ts';
import {
  type Burst,
  type Condition,
  type Due,
  type Idle,
  type Repeat,
  type Rule,
  type StateTest,
  isKind,
  isOpen,
} from '../../../../core/rules/index.ts';
import { CHANGE_KINDS, type ChangeKind } from '../../../../core/values/index.ts';
import { Several, joined, kindName } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { asGroup, fromGroup } from './condition-groups.ts';
import { ConditionTree } from './condition-tree.tsx';
import { DurationInput } from './duration-input.tsx';
import { datesOf, mark, Part, type PartProps } from './part.tsx';

/** What has to happen: a change, a date that comes near, or nothing for a while. */
export function WhatHappens(props: PartProps) {
  const { rule, isFixed, source } = props;
  if (rule.due) return <DateThat {...props} due={rule.due} />;
  if (rule.idle) return <StandstillThat {...props} idle={rule.idle} />;
  return (
    <ChangesThat
      {...props}
      when={rule.when ?? { kinds: [], if: { all: [] }, burst: null }}
      occasion={isFixed ? null : <OccasionChip {...props} words={<strong>a change</strong>} source={source} />}
    />
  );
}

const FIRST_WHEN: NonNullable<Rule['when']> = { kinds: [], if: { all: [] }, burst: null };
const FIRST_IDLE: Idle = { for: 'P5D', if: { all: [] }, repeat: null };

/** Which of the three occasions it is. Another one drops what cannot stand with it. */
function OccasionChip({ rule, source, edited, isFixed, onChange, words }: PartProps & { words: React.ReactNode }) {
  const [date] = datesOf(source);
  const kind = rule.due ? 'due' : rule.idle ? 'idle' : 'when';
  const choose = (next: string) => {
    if (next === 'when') return onChange({ ...rule, when: FIRST_WHEN, due: null, idle: null });
    const calm = {
      ...rule,
      when: null,
      by: { only: [], except: [] },
      pace: rule.pace.kind === 'settled' ? ({ kind: 'now' } as const) : rule.pace,
    };
    if (next === 'idle') return onChange({ ...calm, due: null, idle: FIRST_IDLE });
    if (date)
      onChange({
        ...calm,
        idle: null,
        due: { field: date.id, offset: '-P14D', at: '09:00', if: { all: [] }, repeat: null, late: 'now' },
      });
  };
  return (
    <Chip
      label="What it waits for"
      className={mark(edited, kind)}
      disabled={isFixed}
      editor={() => (
        <fieldset className="choices">
          <Form.Check
            type="radio"
            name="occasion"
            id="occasion-when"
            label="a change, when it is made"
            checked={kind === 'when'}
            onChange={() => choose('when')}
          />
          <Form.Check
            type="radio"
            name="occasion"
            id="occasion-due"
            label={date ? 'a date that comes near, or is past' : 'a date: this source has none'}
            disabled={!date}
            checked={kind === 'due'}
            onChange={() => choose('due')}
          />
          <Form.Check
            type="radio"
            name="occasion"
            id="occasion-idle"
            label="nothing, for a while: no change of any kind"
            checked={kind === 'idle'}
            onChange={() => choose('idle')}
          />
        </fieldset>
      )}
    >
      {words}
    </Chip>
  );
}

function ChangesThat({
  rule,
  when,
  source,
  faults,
  edited,
  isFixed,
  onChange,
  occasion,
}: PartProps & { when: NonNullable<Rule['when']>; occasion: React.ReactNode }) {
  const put = (part: Partial<typeof when>) => onChange({ ...rule, when: { ...when, ...part } });
  const className = mark(edited, 'when');
  const own = [...new Set([...CHANGE_KINDS, ...when.kinds])];
  const lasting = lastingTests(when.if);
  const hint = isOpen(when.if) ? (
    'Every change of these kinds is caught. Say what has to happen, and fewer people are disturbed.'
  ) : lasting > 0 ? (
    <>
      Holds at <strong>every save</strong> while it is so.{' '}
      {!isFixed && (
        <Button variant="link" size="sm" onClick={() => put({ if: becoming(when.if) })}>
          Tell once, when it becomes so
        </Button>
      )}
    </>
  ) : JSON.stringify(when.if).includes('"became"') ? (
    'Judged at the moment it becomes so, not at every later edit.'
  ) : null;
  return (
    <Part title="What happens" faults={faults} path={['when']} hint={hint}>
      {occasion}
      <Chip
        label="Kinds of change"
        className={className}
        disabled={isFixed}
        editor={() => (
          <>
            <p className="small quiet">None chosen means any kind.</p>
            <Several
              name="kinds"
              label="Kinds of change"
              options={own.map((kind) => [kind, kindName(kind)])}
              chosen={when.kinds}
              onChange={(kinds) => put({ kinds: own.filter((kind) => kinds.includes(kind)) })}
            />
            {source.kind === 'stream' && <OwnKinds kinds={when.kinds} onChange={(kinds) => put({ kinds })} />}
          </>
        )}
      >
        {when.kinds.length === 0 ? (
          'of any kind'
        ) : (
          <>
            it is <strong>{joined(when.kinds.map(kindName), 'or')}</strong>
          </>
        )}
      </Chip>
      {!isOpen(when.if) && 'and'}
      <ConditionTree
        node={when.if}
        source={source}
        className={className}
        isFixed={isFixed}
        isOfState={false}
        onChange={(next) => put({ if: next })}
        addWords={(joiner) => (joiner ? `+ ${joiner}` : '+ only if')}
      />
      {when.burst && (
        <BurstChip burst={when.burst} className={className} isFixed={isFixed} onChange={(burst) => put({ burst })} />
      )}
    </Part>
  );
}

/** How many tests of a mere state stand where they would hold at every save: of a whole condition, or beside nothing that happens. */
function lastingTests(node: Condition): number {
  const { kind, parts } = asGroup(node);
  const states = parts.filter((part) => isKind(part, 'test')).length;
  return kind === 'any' || states === parts.length ? states : 0;
}

function becoming(node: Condition): Condition {
  const { kind, parts } = asGroup(node);
  return fromGroup({ kind, parts: parts.map((part): Condition => (isKind(part, 'test') ? { became: part } : part)) });
}

/** Kinds that a stream's sender has made up, prefixed x-. */
function OwnKinds({ kinds, onChange }: { kinds: ChangeKind[]; onChange: (kinds: ChangeKind[]) => void }) {
  const own = kinds.filter((kind) => kind.startsWith('x-'));
  return (
    <Form.Control
      aria-label="The sender’s own kinds, parted by commas"
      placeholder="x-alarm, x-battery"
      defaultValue={own.join(', ')}
      onBlur={(event) => {
        const written = event.target.value
          .split(',')
          .map((one) => one.trim())
          .filter(Boolean)
          .map((one) => (one.startsWith('x-') ? one : `x-${one}`) as ChangeKind);
        onChange([...kinds.filter((kind) => !kind.startsWith('x-')), ...new Set(written)]);
      }}
    />
  );
}

const PER_WORDS = { item: 'to one item', actor: 'by one person', rule: 'in all' } as const;

function BurstChip({
  burst,
  className,
  isFixed,
  onChange,
}: {
  burst: Burst;
  className: string;
  isFixed: boolean;
  onChange: (burst: Burst | null) => void;
}) {
  return (
    <>
      {' '}
      and that
      <Chip
        label="How often within what time"
        className={className}
        disabled={isFixed}
        onRemove={() => onChange(null)}
        editor={() => (
          <>
            <div className="row-of">
              <Form.Control
                type="number"
                min={2}
                max={10_000}
                aria-label="How many times"
                value={burst.count}
                onChange={(event) =>
                  onChange({ ...burst, count: Math.max(2, Math.round(Number(event.target.value)) || 2) })
                }
              />
              <span className="beside">times</span>
            </div>
            <Form.Select
              aria-label="Counted"
              value={burst.per}
              onChange={(event) => onChange({ ...burst, per: event.target.value as Burst['per'] })}
            >
              {Object.entries(PER_WORDS).map(([per, words]) => (
                <option key={per} value={per}>
                  {words}
                </option>
              ))}
            </Form.Select>
            <div className="small quiet">within</div>
            <DurationInput label="Within" value={burst.within} onChange={(within) => onChange({ ...burst, within })} />
          </>
        )}
      >
        <strong>
          {burst.count} times {PER_WORDS[burst.per]} within {durationWords(burst.within)}
        </strong>
      </Chip>
    </>
  );
}

function DateThat(props: PartProps & { due: Due }) {
  const { rule, due, source, faults, edited, isFixed, onChange } = props;
  const put = (part: Partial<Due>) => onChange({ ...rule, due: { ...due, ...part } });
  const className = mark(edited, 'due');
  const isBefore = due.offset.startsWith('-');
  const isZero = /^-?PT?0+[A-Z]$/.test(due.offset);
  const way = isZero ? 'on' : isBefore ? 'before' : 'after';
  const field = source.fields.find((one) => one.id === due.field);
  const setWay = (next: string) =>
    put({
      offset:
        next === 'on' ? 'PT0S' : `${next === 'before' ? '-' : ''}${isZero ? 'P14D' : due.offset.replace(/^-/, '')}`,
    });
  return (
    <Part
      title="What happens"
      faults={faults}
      path={['due']}
      hint={
        due.late === 'now'
          ? 'A date set too late for that is told at once, as long as it is not past.'
          : 'A date set too late for that is not told.'
      }
    >
      <OccasionChip {...props} words={<strong>a date</strong>} />
      <Chip
        label="Which date, and how long before"
        className={className}
        disabled={isFixed}
        editor={() => (
          <>
            <Form.Select aria-label="Date" value={due.field} onChange={(event) => put({ field: event.target.value })}>
              {datesOf(source).map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Form.Select>
            <Form.Select aria-label="Before or after" value={way} onChange={(event) => setWay(event.target.value)}>
              <option value="before">before it</option>
              <option value="on">at the date itself</option>
              <option value="after">after it</option>
            </Form.Select>
            {!isZero && (
              <DurationInput
                label="How long"
                value={due.offset.replace(/^-/, '')}
                onChange={(offset) => put({ offset: isBefore ? `-${offset}` : offset })}
              />
            )}
            <div className="row-of">
              <span className="beside">at</span>
              <Form.Control
                type="time"
                aria-label="At this time of day"
                value={due.at ?? (field?.type === 'date' ? '09:00' : '')}
                onChange={(event) => put({ at: event.target.value || null })}
              />
            </div>
            <Form.Check
              id="due-late"
              label="told even if the date is set too late for that"
              checked={due.late === 'now'}
              onChange={(event) => put({ late: event.target.checked ? 'now' : 'skip' })}
            />
          </>
        )}
      >
        <strong>{occasionWords(rule, source)}</strong>
        {(due.at ?? (field?.type === 'date' ? '09:00' : null)) && `, at ${due.at ?? '09:00'}`}
      </Chip>
      <AsLongAs {...props} test={due.if} className={className} onPut={(test) => put({ if: test })} />
      <RepeatChip repeat={due.repeat} className={className} isFixed={isFixed} onChange={(repeat) => put({ repeat })} />
    </Part>
  );
}

function StandstillThat(props: PartProps & { idle: Idle }) {
  const { rule, idle, faults, edited, isFixed, onChange } = props;
  const put = (part: Partial<Idle>) => onChange({ ...rule, idle: { ...idle, ...part } });
  const className = mark(edited, 'idle');
  return (
    <Part
      title="What happens"
      faults={faults}
      path={['idle']}
      hint="Told once a standstill; any change begins the count anew."
    >
      <OccasionChip {...props} words={<strong>nothing</strong>} />
      <Chip
        label="For how long nothing changes"
        className={className}
        disabled={isFixed}
        editor={() => <DurationInput label="For" value={idle.for} onChange={(duration) => put({ for: duration })} />}
      >
        no change for <strong>{durationWords(idle.for)}</strong>
      </Chip>
      <AsLongAs {...props} test={idle.if} className={className} onPut={(test) => put({ if: test })} />
      <RepeatChip repeat={idle.repeat} className={className} isFixed={isFixed} onChange={(repeat) => put({ repeat })} />
    </Part>
  );
}

/** What has to be so of the item at the instant of a date or a standstill. */
function AsLongAs({
  test,
  source,
  className,
  isFixed,
  onPut,
}: PartProps & { test: StateTest; className: string; onPut: (test: StateTest) => void }) {
  return (
    <>
      {!isOpen(test) && 'while'}
      <ConditionTree
        node={test}
        source={source}
        className={className}
        isFixed={isFixed}
        isOfState
        onChange={(next) => onPut(next as StateTest)}
        addWords={(joiner) => (joiner ? `+ ${joiner}` : '+ only while')}
      />
    </>
  );
}

function RepeatChip({
  repeat,
  className,
  isFixed,
  onChange,
}: {
  repeat: Repeat | null;
  className: string;
  isFixed: boolean;
  onChange: (repeat: Repeat | null) => void;
}) {
  if (!repeat)
    return isFixed ? null : (
      <button type="button" className="chip is-adding" onClick={() => onChange({ every: 'P1D', times: 3 })}>
        + and again
      </button>
    );
  return (
    <Chip
      label="How often again"
      className={className}
      disabled={isFixed}
      onRemove={() => onChange(null)}
      editor={() => (
        <>
          <div className="small quiet">again every</div>
          <DurationInput label="Every" value={repeat.every} onChange={(every) => onChange({ ...repeat, every })} />
          <div className="row-of">
            <span className="beside">up to</span>
            <Form.Control
              type="number"
              min={1}
              max={1000}
              aria-label="How many times more"
              value={repeat.times}
              onChange={(event) =>
                onChange({ ...repeat, times: Math.max(1, Math.round(Number(event.target.value)) || 1) })
              }
            />
            <span className="beside">times more</span>
          </div>
        </>
      )}
    >
      again every <strong>{durationWords(repeat.every)}</strong>, up to {repeat.times} more
    </Chip>
  );
}
