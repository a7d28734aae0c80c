import { Link } from 'react-router';
import { sourcePath } from '../../../core/messages/index.ts';
import { Empty, Loaded, Time, useViewer, sourceKind } from '../../parts/index.ts';
import { useSources } from '../../queries/index.ts';
import { t } from '../../words/sources.ts';

/** Everything that can be watched, with how much there is and how many rules look at it. */
export function SourcesPage() {
  const { directory } = useViewer();
  const sources = useSources();
  return (
    <main className="page">
      <div className="page-head">
        <h1>{t('sources')}</h1>
        <span className="quiet">{t('whatCanBeWatched')}</span>
      </div>
      <Loaded query={sources} what={t('theSources')}>
        {(rows) =>
          rows.length === 0 ? (
            <Empty title={t('noSourceYouMayRead')}>
              <p>{t('aStewardConnectsSourcesAnd')}</p>
            </Empty>
          ) : (
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
                          {sourceKind(source.kind)}
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
          )
        }
      </Loaded>
    </main>
  );
}
