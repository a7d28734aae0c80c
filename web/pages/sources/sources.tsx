import { Link } from 'react-router';
import { sourcePath } from '../../../core/messages/index.ts';
import { Empty, Loaded, Time, useViewer } from '../../parts/index.ts';
import { useSources } from '../../queries/index.ts';

const KINDS = { folders: 'folders', list: 'a list', records: 'records', stream: 'an outside stream' };

/** Everything that can be watched, with how much there is and how many rules look at it. */
export function SourcesPage() {
  const { directory } = useViewer();
  const sources = useSources();
  return (
    <main className="page">
      <div className="page-head">
        <h1>Sources</h1>
        <span className="quiet">what can be watched</span>
      </div>
      <Loaded query={sources} what="the sources">
        {(rows) =>
          rows.length === 0 ? (
            <Empty title="No source you may read">
              <p>A steward connects sources and says who may read them.</p>
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
                          {KINDS[source.kind]}
                        </span>
                      </h2>
                      <p className="quiet">{source.about}</p>
                    </div>
                    <span className="num">
                      {row.items.toLocaleString(undefined)} item{row.items === 1 ? '' : 's'}
                    </span>
                    <span className="quiet num">
                      {row.rules === 0 ? 'no rule looks here' : `${row.rules} rule${row.rules === 1 ? '' : 's'}`}
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
