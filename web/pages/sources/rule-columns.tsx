import type { CSSProperties } from 'react';
import { Link } from 'react-router';
import type { RuleRow } from '../../../contract/wire/index.ts';
import { rulePath } from '../../../core/messages/index.ts';
import type { Folder } from '../../../core/people/index.ts';
import { eyeOf, type Rule } from '../../../core/rules/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { useViewer } from '../../parts/index.ts';
import { EyeMark } from './eyes.tsx';
import { t } from '../../words/sources.ts';

/** A rule as a column down through what it looks at. */
export interface RuleColumn {
  id: string;
  rule: Rule;
}

/** More columns than this are no picture any more. */
const MOST = 7;
const LINE = 21;
/** From below the names to the first row of the table. */
const HEAD = 31;

const isEye = (rule: Rule) => eyeOf(rule) !== null && rule.scope.items.length + rule.scope.under.length > 0;

/** The columns of a source, those that catch most; and how many others there are. */
export function ruleColumnsOf(rows: readonly RuleRow[], source: Source): { columns: RuleColumn[]; others: number } {
  const live = rows.flatMap((row) =>
    row.state === 'live' && row.live?.scope.sources.includes(source.id) && !isEye(row.live)
      ? [{ id: row.id, rule: row.live, alerts: row.alerts }]
      : [],
  );
  return { columns: live.sort((a, b) => b.alerts - a.alerts).slice(0, MOST), others: Math.max(0, live.length - MOST) };
}

/** Who keeps an eye on each folder and item of a source, by its id. */
export function eyesOf(rows: readonly RuleRow[], source: Source): Map<string, string[]> {
  const eyes = new Map<string, string[]>();
  for (const { state, live } of rows) {
    const person = state === 'live' && live ? eyeOf(live) : null;
    if (!live || person === null || !live.scope.sources.includes(source.id)) continue;
    for (const id of [...live.scope.under, ...live.scope.items])
      eyes.set(id, [...new Set([...(eyes.get(id) ?? []), person])]);
  }
  return eyes;
}

/** Whether a rule looks at what stands in a folder: it names the folder, or one above it, or none at all. */
export function looksAt(
  { scope }: Rule,
  folder: string | null,
  item: string | null,
  folders: ReadonlyMap<string, Folder>,
): boolean {
  if (scope.items.length > 0 && (item === null || !scope.items.includes(item))) return false;
  if (scope.under.length === 0) return true;
  for (let id = folder; id !== null; id = folders.get(id)?.parent ?? null) if (scope.under.includes(id)) return true;
  return false;
}

/** The names of the columns above the table, each with a line down to where it begins. */
export function RuleColumnHead({ columns }: { columns: RuleColumn[] }) {
  return (
    <div
      className="rule-column-head"
      style={{ '--columns': columns.length, height: columns.length * LINE } as CSSProperties}
      aria-hidden="true"
    >
      {columns.map(({ id, rule }, at) => (
        <span
          key={id}
          style={{ top: at * LINE, right: `calc(${at} * 1.5rem + 0.75rem)` }}
          className={`is-${rule.urgency}`}
        >
          <Link tabIndex={-1} to={rulePath(id)}>
            {rule.name}
          </Link>
          <i style={{ height: (columns.length - at) * LINE - LINE / 2 + HEAD }} />
        </span>
      ))}
    </div>
  );
}

/** The columns as they pass one row: solid where the rule looks, dotted where it passes by, a knot where it caught something. */
export function RuleColumnCell({
  columns,
  looks,
  knots,
}: {
  columns: RuleColumn[];
  looks: (column: RuleColumn) => boolean;
  knots: readonly string[];
}) {
  const looking = columns.filter(looks);
  return (
    <td className="rule-column">
      <span className="visually-hidden">
        {looking.length === 0
          ? t('nobodyHears')
          : looking
              .map((column) => `${column.rule.name}${knots.includes(column.id) ? t('caughtSomething') : ''}`)
              .join('; ')}
      </span>
      {columns.toReversed().map((column) => (
        <i key={column.id} aria-hidden="true" className={looks(column) ? `is-${column.rule.urgency}` : 'is-by'}>
          {knots.includes(column.id) && <b />}
        </i>
      ))}
    </td>
  );
}

/** Who keeps an eye on something, in a few names. */
export function Watchers({ people }: { people: readonly string[] }) {
  const { me, person } = useViewer();
  if (people.length === 0) return null;
  const names = people
    .map((id) => (id === me.id ? 'you' : (person(id).split(' ')[0] ?? '')))
    .sort((a, b) => Number(b === 'you') - Number(a === 'you'));
  return (
    <span className="watchers">
      <EyeMark /> {names.slice(0, 2).join(', ')}
      {names.length > 2 && ` +${names.length - 2}`}
    </span>
  );
}

export const RuleColumnLegend = ({ others, source }: { others: number; source: Source }) => (
  <p className="rule-column-legend small quiet">
    <EyeMark /> {t('keepsAnEyeOnIt')} <i className="is-important" /> {t('theRuleLooksHere')} <i className="is-by" />{' '}
    {t('passesBy')} <b /> {t('caughtWhatHappenedLast')}
    {others > 0 && (
      <>
        ; <Link to={`/sources/${encodeURIComponent(source.id)}?see=hearing`}>{t('moreRule', { others })}</Link>
      </>
    )}
  </p>
);
