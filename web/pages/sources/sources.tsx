import { Link } from 'react-router';
import type { SourceRow } from '../../../contract/wire/index.ts';
import { sourcePath } from '../../../core/messages/index.ts';
import { Empty, Loaded, Time, useViewer, sourceKind } from '../../parts/index.ts';
import { useSources } from '../../queries/index.ts';
import { t as defining } from '../../words/defining.ts';
import { t } from '../../words/sources.ts';
import { t as tables } from '../../words/tables.ts';

/** Everything that can be watched, with how much there is and how many rules look at it. */
export function SourcesPage() {
  const { me, directory } = useViewer();
  const sources = useSources();
  const isSheet = (id: string) => directory.sources.find((one) => one.id === id)?.sheetOf !== undefined;
  return (
    <main className="page">
      <div className="page-head">
        <h1>{t('sources')}</h1>
        <span className="quiet">{t('whatCanBeWatched')}</span>
        {me.role === 'steward' && (
          <div className="acts">
            <Link className="btn btn-primary" to="/define">
              {defining('addASource')}
            </Link>
          </div>
        )}
      </div>
      <Loaded query={sources} what={t('theSources')}>
        {(rows) =>
          rows.length === 0 ? (
            <Empty title={t(me.role === 'steward' ? 'noSourceYet' : 'noSourceYouMayRead')}>
              <p>{t(me.role === 'steward' ? 'makeOneAndSayWhoReads' : 'aStewardConnectsSourcesAnd')}</p>
            </Empty>
          ) : (
            <>
              <SourceRows rows={rows.filter(({ id }) => !isSheet(id))} />
              {rows.some(({ id }) => isSheet(id)) && <h2 className="mt-4">{tables('rowsOfTables')}</h2>}
              <SourceRows rows={rows.filter(({ id }) => isSheet(id))} />
            </>
          )
        }
      </Loaded>
    </main>
  );
}

const SourceRows = ({ rows }: { rows: readonly SourceRow[] }) => {
  const { directory } = useViewer();
  return (
    <ul className="plain-list source-rows">
      {rows.map((row) => {
        const source = directory.sources.find((one) => one.id === row.id);
        if (!source) return null;
        return (
          <li key={row.id}>
            <span className="num">{row.lastAt && <Time at={row.lastAt} />}</span>
            <div>
              <h2>
                <Link to={sourcePath(row.id)}>{source.name}</Link>{' '}
                <span className="quiet small" style={{ fontWeight: 400 }}>
                  {source.sheetOf ? tables('rowsOfDocument') : sourceKind(source.kind)}
                </span>
              </h2>
              <p className="quiet">{source.about}</p>
            </div>
            <span className="num">{t('items2', { items: row.items })}</span>
            <span className="quiet num">
              {row.rules === 0 ? t('noRuleLooksHere') : t('rules', { rules: row.rules })}
            </span>
          </li>
        );
      })}
    </ul>
  );
};
