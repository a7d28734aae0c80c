import { Link } from 'react-router';
import type { RuleRow } from '../../../contract/wire/index.ts';
import { rulePath, paceWords } from '../../../core/messages/index.ts';
import { asKind, membersOfGroup, type Selector } from '../../../core/people/index.ts';
import { dateIn, instantOf } from '../../../core/time/index.ts';
import {
  hasRunOut,
  type Occurrence,
  occurrencesOf,
  type Rule,
  twinsOf,
  type Watch,
  watches,
} from '../../../core/rules/index.ts';
import { type Source, optionName } from '../../../core/values/index.ts';
import { Loaded, type Viewer, UrgencyBar, useViewer, kindName, whoWords } from '../../parts/index.ts';
import { useRules } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/sources.ts';
import { OfferedRules } from './offered-rules.tsx';

interface Line {
  occurrence: Occurrence;
  words: string;
  /** Below which other line it stands: an option below its field. */
  isBelow: boolean;
  hearers: { row: RuleRow; rule: Rule; watch: Watch; isTwice: boolean }[];
}

/** What can happen in a source against who would hear, by which rule and how soon; what nobody hears of and what somebody hears twice stand out. */
export function WhoHearsWhat({ source }: { source: Source }) {
  const viewer = useViewer();
  const rules = useRules();
  return (
    <Loaded query={rules} what={t('theRules')}>
      {(rows) => {
        const live = rows.flatMap((row) =>
          row.state === 'live' &&
          row.live?.scope.sources.includes(source.id) &&
          !hasRunOut(row.live, dateIn(instantOf(viewer.me.now), row.live.zone))
            ? [{ row, rule: row.live }]
            : [],
        );
        const lines = linesOf(source, live, viewer);
        const twins = twinsOf(live.filter(({ row }) => !row.isPaused).map(({ rule }) => rule));
        const gaps = lines.filter((line) => line.hearers.length === 0 && !line.isBelow).length;
        return (
          <>
            <p className="mt-3">
              <strong>{t('liveRule', { live: live.length })}</strong>{' '}
              <span className="quiet">{gaps > 0 && t('ofWhatCanHappenReach', { gaps })}</span>
            </p>
            <OfferedRules source={source} />
            <table className="hearers">
              <thead>
                <tr>
                  <th scope="col">{t('whatCanHappen')}</th>
                  <th scope="col">{t('whoHears')}</th>
                  <th scope="col">{t('byWhichRule')}</th>
                  <th scope="col">{t('howSoon')}</th>
                </tr>
              </thead>
              <tbody>
                {lines.map((line) => (
                  <Rows key={line.words} line={line} source={source} twins={twins} />
                ))}
              </tbody>
            </table>
          </>
        );
      }}
    </Loaded>
  );
}

function Rows({ line, source, twins }: { line: Line; source: Source; twins: ReturnType<typeof twinsOf> }) {
  const viewer = useViewer();
  const head = (
    <th scope="row" rowSpan={Math.max(1, line.hearers.length)} className={line.isBelow ? 'is-below' : ''}>
      {line.words}
    </th>
  );
  if (line.hearers.length === 0)
    return (
      <tr className="is-first">
        {head}
        <td colSpan={2} className="nobody">
          {line.isBelow ? <span className="quiet">–</span> : <strong>{t('nobodyHears')}</strong>}
        </td>
        <td>
          {!line.isBelow && <Link to={`/rules/new?source=${encodeURIComponent(source.id)}`}>{t('makeARule')}</Link>}
        </td>
      </tr>
    );
  return line.hearers.map(({ row, rule, watch, isTwice }, at) => (
    <tr key={row.id} className={at === 0 ? 'is-first' : ''}>
      {at === 0 && head}
      <td>
        {whoWords(rule, viewer)}
        {isTwice && (
          <>
            {' '}
            <mark>{t('twice')}</mark>
          </>
        )}
      </td>
      <td className="by-rule">
        <UrgencyBar urgency={rule.urgency} />
        <span>
          <Link to={rulePath(row.id)}>{rule.name}</Link>
          {twins.has(row.id) && ' '}
          {twins.has(row.id) && (
            <mark className="small">
              {t('twinOf', { names: phrases().and((twins.get(row.id) ?? []).map(({ name }) => `“${name}”`)) })}
            </mark>
          )}
          {watch === 'sometimes' && <span className="quiet small"> {t('notAlways')}</span>}
          {row.isPaused && <strong> {t('paused')}</strong>}
        </span>
      </td>
      <td>{paceWords(rule.pace, phrases())}</td>
    </tr>
  ));
}

function linesOf(source: Source, live: { row: RuleRow; rule: Rule }[], viewer: Viewer): Line[] {
  return occurrencesOf(source).flatMap((occurrence): Line[] => {
    const hearers = live.flatMap(({ row, rule }) => {
      const watch = watches(rule, source, occurrence);
      return watch === 'never' || isSaidElsewhere(rule, source, occurrence, watch) ? [] : [{ row, rule, watch }];
    });
    // A date without a rule is no gap: it is a field first. Options nobody waits for only make the table long.
    if (
      hearers.length === 0 &&
      (occurrence.what === 'date' || occurrence.what === 'option' || occurrence.what === 'standstill')
    )
      return [];
    const counts = new Map<string, number>();
    for (const { rule, watch } of hearers)
      if (watch === 'always') for (const key of keysOf(rule, viewer)) counts.set(key, (counts.get(key) ?? 0) + 1);
    return [
      {
        occurrence,
        words: wordsFor(occurrence, source),
        isBelow: occurrence.what === 'option',
        hearers: hearers.map((one) => ({
          ...one,
          isTwice: one.watch === 'always' && keysOf(one.rule, viewer).some((key) => (counts.get(key) ?? 0) > 1),
        })),
      },
    ];
  });
}

/** A rule that waits for single options stands below them; one that hears of every change of the field, at the field alone. */
function isSaidElsewhere(rule: Rule, source: Source, occurrence: Occurrence, watch: Watch): boolean {
  if (occurrence.what === 'option')
    return (
      watches(rule, source, { what: 'field', field: occurrence.field }) === watch &&
      !waitsForOptions(rule, source, occurrence.field)
    );
  return occurrence.what === 'field' && waitsForOptions(rule, source, occurrence.field);
}

const waitsForOptions = (rule: Rule, source: Source, field: string): boolean =>
  (source.fields.find((one) => one.id === field)?.options ?? []).some(
    (option) => watches(rule, source, { what: 'option', field, option }) === 'never',
  ) && watches(rule, source, { what: 'field', field }) !== 'never';

/** Whom a rule tells, as far as it says so itself: people by id, the rest by what names them. */
function keysOf(rule: Rule, { directory }: Viewer): string[] {
  const groups = new Map(directory.groups.map((group) => [group.id, group]));
  const keys = rule.to.flatMap((selector: Selector) => {
    const person = asKind(selector, 'person')?.person;
    if (person !== undefined) return [person];
    const group = asKind(selector, 'group')?.group;
    return group === undefined ? [JSON.stringify(selector)] : [...membersOfGroup(group, { groups })];
  });
  return [...new Set(keys)];
}

function wordsFor(occurrence: Occurrence, source: Source): string {
  const field = (id: string) => source.fields.find((one) => one.id === id);
  const name = (id: string) => field(id)?.name ?? id;
  switch (occurrence.what) {
    case 'kind':
      return t('itIs', { kind: kindName(occurrence.kind) });
    case 'field':
      return t('changes', { name: name(occurrence.field) });
    case 'option':
      return t('becomes', {
        name: name(occurrence.field),
        option: optionName(field(occurrence.field) ?? {}, occurrence.option),
      });
    case 'date':
      return t('comesNear', { name: name(occurrence.field) });
    case 'standstill':
      return t('nothingHappensForAWhile');
    default:
      return occurrence satisfies never;
  }
}
