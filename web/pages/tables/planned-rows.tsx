import { useState } from 'react';
import { faultWords } from '../../../contract/words/faults.ts';
import type { PlannedRow, TablePlanned } from '../../../contract/wire/index.ts';
import { fieldOf, formatValue, type Source, type Value } from '../../../core/values/index.ts';
import { useViewer } from '../../parts/index.ts';
import { locale } from '../../words/index.ts';
import { t } from '../../words/tables.ts';

const SORTS = ['refused', 'changed', 'new', 'unchanged'] as const;
type Sort = (typeof SORTS)[number];

/** What a file would come to: how many rows of each sort, and the rows of the sort that is looked at. */
export function PlannedRows({ planned, source }: { planned: TablePlanned; source: Source }) {
  const { counts } = planned;
  const [wanted, setWanted] = useState<Sort | null>(null);
  const sort = wanted !== null && counts[wanted] > 0 ? wanted : SORTS.find((one) => counts[one] > 0);
  const rows = planned.rows.filter(({ outcome }) => outcome === sort);
  return (
    <>
      <ul className="tabs">
        {SORTS.map((one) => (
          <li key={one}>
            <button
              type="button"
              className={one === sort ? 'active' : ''}
              aria-pressed={one === sort}
              disabled={counts[one] === 0}
              onClick={() => setWanted(one)}
            >
              {t(`count.${one}`, { count: counts[one] })}
            </button>
          </li>
        ))}
      </ul>
      {counts.refused > 0 && counts.new + counts.changed > 0 && (
        <p className="quiet small">{t('refusedStay', { count: counts.refused })}</p>
      )}
      <ul className="plain-list planned-rows">
        {rows.map((row) => (
          <Row key={row.line} row={row} source={source} names={planned.names} />
        ))}
      </ul>
      {sort && rows.length > 0 && counts[sort] > rows.length && (
        <p className="quiet small">{t('ofThem', { shown: rows.length, count: counts[sort] })}</p>
      )}
    </>
  );
}

/** One row: what it is called, and each value that it gives, from what to what. */
function Row({ row, source, names: titles }: { row: PlannedRow; source: Source; names: TablePlanned['names'] }) {
  const { me, names } = useViewer();
  const say = (field: string, value: Value | undefined) => {
    const known = fieldOf(source, field);
    return known ? formatValue(known, value, me, names(titles)) || t('empty') : String(value);
  };
  const isChanged = row.outcome === 'changed';
  return (
    <li>
      <span className="quiet small planned-line">{t('line', { line: row.line })}</span>
      <div className="wrap-anywhere">
        <strong>{row.title}</strong>
        {row.faults.map((fault) => (
          <p key={`${fault.column} ${fault.code}`} className="fault small">
            {fault.column !== null && fault.column !== fault.params.field && <strong>{fault.column}: </strong>}
            {faultWords(fault, locale())}
          </p>
        ))}
        {row.outcome !== 'refused' && (
          <p className="small change">
            {Object.entries(row.set)
              .filter(([field, value]) => isChanged || (value !== null && field !== source.titleField))
              .map(([field, value], at) => (
                <span key={field}>
                  {at > 0 && ', '}
                  {fieldOf(source, field)?.name}{' '}
                  {isChanged && (
                    <>
                      <s>{say(field, row.before[field])}</s>{' '}
                    </>
                  )}
                  <mark>{say(field, value)}</mark>
                </span>
              ))}
          </p>
        )}
      </div>
    </li>
  );
}
