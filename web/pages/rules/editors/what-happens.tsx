import type { ReactNode } from 'react';
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
import { Radios, Several, kindName, kindNames } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { asGroup, fromGroup } from './condition-groups.ts';
import { ConditionTree } from './condition-tree.tsx';
import { DurationInput } from './duration-input.tsx';
import { datesOf, mark, Part, type PartProps } from './part.tsx';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';

/** What has to happen: a change, a date that comes near, or nothing for a while. */
export function WhatHappens(props: PartProps) {
  const { rule, isFixed, source } = props;
  if (rule.due) return <DateThat {...props} due={rule.due} />;
  if (rule.idle) return <StandstillThat {...props} idle={rule.idle} />;
  return (
    <ChangesThat
      {...props}
      when={rule.when ?? { kinds: [], if: { all: [] }, burst: null }}
      occasion={isFixed ? null : <OccasionChip {...props} words={<strong>{t('aChange')}</strong>} source={source} />}
    />
  );
}

const FIRST_WHEN: NonNullable<Rule['when']> = { kinds: [], if: { all: [] }, burst: null };
const FIRST_IDLE: Idle = { for: 'P5D', if: { all: [] }, repeat: null };

type Happening = 'when' | 'due' | 'idle';

function happeningOf({ due, idle }: Rule): Happening {
  if (due) return 'due';
  return idle ? 'idle' : 'when';
}

/** Which of the three occasions it is. Another one drops what cannot stand with it. */
function OccasionChip({ rule, source, edited, isFixed, onChange, words }: PartProps & { words: React.ReactNode }) {
  const [date] = datesOf(source);
  const kind = happeningOf(rule);
  const choose = (next: Happening) => {
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
      label={t('whatItWaitsFor')}
      className={mark(edited, kind)}
      disabled={isFixed}
      editor={() => (
        <fieldset className="choices">
          <Radios
            name="occasion"
            chosen={kind}
            options={[
              ['when', t('aChangeWhenItIs')],
              ['due', date ? t('aDateThatComesNear') : t('aDateThisSourceHas'), !date],
              ['idle', t('nothingForAWhileNo')],
            ]}
            onChange={choose}
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
  return (
    <Part
      title={t('whatHappens')}
      faults={faults}
      path={['when']}
      hint={whenItHolds(when.if, isFixed ? null : () => put({ if: becoming(when.if) }))}
    >
      {occasion}
      <Chip
        label={t('kindsOfChange')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <>
            <p className="small quiet">{t('noneChosenMeansAnyKind')}</p>
            <Several
              name="kinds"
              label={t('kindsOfChange')}
              options={own.map((kind) => [kind, kindName(kind)])}
              chosen={when.kinds}
              onChange={(kinds) => put({ kinds: own.filter((kind) => kinds.includes(kind)) })}
            />
            {source.kind === 'stream' && <OwnKinds kinds={when.kinds} onChange={(kinds) => put({ kinds })} />}
          </>
        )}
      >
        {when.kinds.length === 0 ? t('ofAnyKind') : t.rich('itIs', { kinds: kindNames(when.kinds) })}
      </Chip>
      {!isOpen(when.if) && t('joiner.all')}
      <ConditionTree
        node={when.if}
        source={source}
        className={className}
        isFixed={isFixed}
        isOfState={false}
        onChange={(next) => put({ if: next })}
        addWords={(joiner) => (joiner ? t('addJoined', { joiner }) : t('onlyIf'))}
      />
      {when.burst && (
        <BurstChip burst={when.burst} className={className} isFixed={isFixed} onChange={(burst) => put({ burst })} />
      )}
    </Part>
  );
}

/** When such a condition holds: at every change, at every save while something is so, or once as it becomes so. */
function whenItHolds(condition: Condition, onBecoming: (() => void) | null): ReactNode {
  if (isOpen(condition)) return t('everyChangeOfTheseKinds');
  if (lastingTests(condition) === 0)
    return JSON.stringify(condition).includes('"became"') ? t('judgedAtTheMomentIt') : null;
  return (
    <>
      {t.rich('holdsAtEverySaveWhile')}{' '}
      {onBecoming && (
        <Button variant="link" size="sm" onClick={onBecoming}>
          {t('tellOnceWhenItBecomes')}
        </Button>
      )}
    </>
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
      aria-label={t('theSendersOwnKindsParted')}
      placeholder={t('xAlarmXBattery')}
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

const perWords = () => ({ item: t('toOneItem'), actor: t('byOnePerson'), rule: t('inAll') }) as const;

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
      {t('andThat')}
      <Chip
        label={t('howOftenWithinWhatTime')}
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
                aria-label={t('howManyTimes')}
                value={burst.count}
                onChange={(event) =>
                  onChange({ ...burst, count: Math.max(2, Math.round(Number(event.target.value)) || 2) })
                }
              />
              <span className="beside">{t('times')}</span>
            </div>
            <Form.Select
              aria-label={t('counted')}
              value={burst.per}
              onChange={(event) => onChange({ ...burst, per: event.target.value as Burst['per'] })}
            >
              {Object.entries(perWords()).map(([per, words]) => (
                <option key={per} value={per}>
                  {words}
                </option>
              ))}
            </Form.Select>
            <div className="small quiet">{t('within')}</div>
            <DurationInput
              label={t('within2')}
              value={burst.within}
              onChange={(within) => onChange({ ...burst, within })}
            />
          </>
        )}
      >
        <strong>
          {t(`counted.${burst.per}`, {
            count: burst.count,
            duration: durationWords(burst.within, phrases()),
          })}
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
  const side = isBefore ? 'before' : 'after';
  const way = isZero ? 'on' : side;
  const field = source.fields.find((one) => one.id === due.field);
  const setWay = (next: string) =>
    put({
      offset:
        next === 'on' ? 'PT0S' : `${next === 'before' ? '-' : ''}${isZero ? 'P14D' : due.offset.replace(/^-/, '')}`,
    });
  return (
    <Part
      title={t('whatHappens')}
      faults={faults}
      path={['due']}
      hint={due.late === 'now' ? t('aDateSetTooLate') : t('aDateSetTooLateFor')}
    >
      <OccasionChip {...props} words={<strong>{t('aDate')}</strong>} />
      <Chip
        label={t('whichDateAndHowLong')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <>
            <Form.Select
              aria-label={t('date')}
              value={due.field}
              onChange={(event) => put({ field: event.target.value })}
            >
              {datesOf(source).map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Form.Select>
            <Form.Select aria-label={t('beforeOrAfter')} value={way} onChange={(event) => setWay(event.target.value)}>
              <option value="before">{t('beforeIt')}</option>
              <option value="on">{t('atTheDateItself')}</option>
              <option value="after">{t('afterIt')}</option>
            </Form.Select>
            {!isZero && (
              <DurationInput
                label={t('howLong')}
                value={due.offset.replace(/^-/, '')}
                onChange={(offset) => put({ offset: isBefore ? `-${offset}` : offset })}
              />
            )}
            <div className="row-of">
              <span className="beside">{t('at')}</span>
              <Form.Control
                type="time"
                aria-label={t('atThisTimeOfDay')}
                value={due.at ?? (field?.type === 'date' ? '09:00' : '')}
                onChange={(event) => put({ at: event.target.value || null })}
              />
            </div>
            <Form.Check
              id="due-late"
              label={t('toldEvenIfTheDate')}
              checked={due.late === 'now'}
              onChange={(event) => put({ late: event.target.checked ? 'now' : 'skip' })}
            />
          </>
        )}
      >
        <strong>{occasionWords(rule, source, phrases())}</strong>
        {(due.at ?? (field?.type === 'date' ? '09:00' : null)) && t('at2', { at: due.at ?? '09:00' })}
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
    <Part title={t('whatHappens')} faults={faults} path={['idle']} hint={t('toldOnceAStandstillAny')}>
      <OccasionChip {...props} words={<strong>{t('nothing')}</strong>} />
      <Chip
        label={t('forHowLongNothingChanges')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <DurationInput label={t('for')} value={idle.for} onChange={(duration) => put({ for: duration })} />
        )}
      >
        {t.rich('noChangeFor', { duration: durationWords(idle.for, phrases()) })}
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
      {!isOpen(test) && t('while')}
      <ConditionTree
        node={test}
        source={source}
        className={className}
        isFixed={isFixed}
        isOfState
        onChange={(next) => onPut(next as StateTest)}
        addWords={(joiner) => (joiner ? t('addJoined', { joiner }) : t('onlyWhile2'))}
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
        {t('andAgain')}
      </button>
    );
  return (
    <Chip
      label={t('howOftenAgain')}
      className={className}
      disabled={isFixed}
      onRemove={() => onChange(null)}
      editor={() => (
        <>
          <div className="small quiet">{t('againEvery')}</div>
          <DurationInput label={t('every')} value={repeat.every} onChange={(every) => onChange({ ...repeat, every })} />
          <div className="row-of">
            <span className="beside">{t('upTo')}</span>
            <Form.Control
              type="number"
              min={1}
              max={1000}
              aria-label={t('howManyTimesMore')}
              value={repeat.times}
              onChange={(event) =>
                onChange({ ...repeat, times: Math.max(1, Math.round(Number(event.target.value)) || 1) })
              }
            />
            <span className="beside">{t('timesMore')}</span>
          </div>
        </>
      )}
    >
      {t.rich('againEveryUpToMore', { duration: durationWords(repeat.every, phrases()), times: repeat.times })}
    </Chip>
  );
}
