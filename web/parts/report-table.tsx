import { Link } from 'react-router';
import { itemPath, type ReportTable as Table } from '../../core/messages/index.ts';
import { phrases } from '../words/index.ts';
import { t } from '../words/parts.ts';
import { MarkedLine } from './own-words.tsx';

/** A report as a table: each item by name with what its columns hold, what is new and changed since the last one marked in it. */
export function ReportTable({ table: { columns, rows, total, gone, doNow } }: { table: Table }) {
  const more = total - rows.length;
  return (
    <>
      {rows.length > 0 && (
        <div className="report-table">
          <table>
            <thead>
              <tr>
                <th scope="col">{t('reportItem')}</th>
                {columns.map((label) => (
                  <th key={label} scope="col">
                    {label}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map(({ item, values, mark }) => (
                <tr key={item.id}>
                  <th scope="row">
                    <Link to={itemPath(item.id)}>{item.title}</Link>
                    {mark && <mark className="small">{t(mark === 'new' ? 'reportNew' : 'reportChanged')}</mark>}
                  </th>
                  {values.map((value, at) => (
                    <td key={columns[at]} data-label={columns[at]}>
                      {value || <span className="quiet">{t('reportEmpty')}</span>}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {more > 0 && <p className="quiet">{t('reportMore', { more })}</p>}
      {gone.length > 0 && (
        <p className="quiet">{t('reportGone', { titles: phrases().and(gone.map(({ title }) => title)) })}</p>
      )}
      {doNow && (
        <p>
          <strong>{t('toDoNow')}</strong> <MarkedLine text={doNow} />
        </p>
      )}
    </>
  );
}
