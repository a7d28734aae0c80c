import type { ReactNode } from 'react';
import { Button, Form } from 'react-bootstrap';
import { durationWords } from '../../../../core/messages/index.ts';
import { type Burst, type Condition, type Rule, isKind, isOpen } from '../../../../core/rules/index.ts';
import { CHANGE_KINDS, type ChangeKind } from '../../../../core/values/index.ts';
import { Several, kindName, kindNames } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { asGroup, fromGroup } from './condition-groups.ts';
import { ConditionTree } from './condition-tree.tsx';
import { Counted } from './counted.tsx';
import { DurationInput } from './duration-input.tsx';
import { LooksHint } from './looks-hint.tsx';
import { OccasionChip } from './occasion-chip.tsx';
import { ReportThat } from './report-that.tsx';
import { DateThat, StandstillThat } from './scheduled.tsx';
import { TallyThat } from './tally-that.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';

const FIRST: NonNullable<Rule['when']> = { kinds: [], if: { all: [] }, burst: null };

/** What has to happen: a change, a date that comes near, nothing for a while, a tally that passes its mark, the hour of a report. */
export function WhatHappens(props: PartProps) {
  const { rule, faults } = props;
  const { due, idle, tally, report } = rule;
  const when = rule.when ?? FIRST;
  const isOfChanges = !due && !idle && !tally && !report;
  return (
    <Part
      title={t('whatHappens')}
      faults={faults}
      path={['when', 'due', 'idle', 'tally', 'report']}
      hint={hintOf(props, when)}
    >
      {/* One chip for all of them, so that its editor stays where it is while one chooses among them. */}
      {!(props.isFixed && isOfChanges) && <OccasionChip {...props} words={<strong>{t(occasionOf(rule))}</strong>} />}
      {due && <DateThat {...props} due={due} />}
      {idle && <StandstillThat {...props} idle={idle} />}
      {tally && <TallyThat {...props} tally={tally} />}
      {report && <ReportThat {...props} report={report} />}
      {isOfChanges && <ChangesThat {...props} when={when} />}
    </Part>
  );
}

function occasionOf({ due, idle, tally, report }: Rule): 'aDate' | 'nothing' | 'aChange' | 'aTally' | 'aReport' {
  if (due) return 'aDate';
  if (tally) return 'aTally';
  if (report) return 'aReport';
  return idle ? 'nothing' : 'aChange';
}

/** When it is told, in a word beside it. */
function hintOf({ rule, isFixed, onChange }: PartProps, when: NonNullable<Rule['when']>): ReactNode {
  if (rule.due) return rule.due.late === 'now' ? t('aDateSetTooLate') : t('aDateSetTooLateFor');
  if (rule.idle) return t('toldOnceAStandstillAny');
  if (rule.tally) return t('toldAsItPasses');
  if (rule.report) return t('toldAsItStands');
  if (when.kinds.includes('opened')) return <LooksHint rule={rule} />;
  const onBecoming = () => onChange({ ...rule, when: { ...when, if: becoming(when.if) } });
  return whenItHolds(when.if, isFixed ? null : onBecoming);
}

function ChangesThat({
  rule,
  when,
  source,
  edited,
  isFixed,
  onChange,
}: PartProps & { when: NonNullable<Rule['when']> }) {
  const put = (part: Partial<typeof when>) => onChange({ ...rule, when: { ...when, ...part } });
  const className = mark(edited, 'when');
  const own = [...new Set([...CHANGE_KINDS, ...when.kinds])];
  return (
    <>
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
    </>
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
            <Counted
              label={t('howManyTimes')}
              value={burst.count}
              after={t('times')}
              min={2}
              max={10_000}
              onChange={(count) => onChange({ ...burst, count })}
            />
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
