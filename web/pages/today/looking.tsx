import { Link } from 'react-router';
import { rulePath } from '../../../core/messages/index.ts';
import { DAY_MS, instantOf } from '../../../core/time/index.ts';
import { useViewer } from '../../parts/index.ts';
import { useRules } from '../../queries/index.ts';
import { t } from '../../words/today.ts';
import Wanting from '../rules/list/wanting.tsx';
import { documentOf } from '../rules/list/troubles.ts';

/** So many rules of one's own are named. */
const MOST = 6;

/** What one looks after: rules that want somebody, and one's own with what they did this week. */
export default function Looking() {
  const { me } = useViewer();
  const rules = useRules();
  const from = instantOf(me.now) - 7 * DAY_MS;
  const own = (rules.data ?? [])
    .filter((row) => row.owner === me.id && row.state === 'live')
    .map((row) => ({ row, caught: row.caught.filter((at) => instantOf(at) >= from).length }))
    .sort((a, b) => b.caught - a.caught);
  return (
    <>
      <Wanting />
      {own.length > 0 && (
        <section>
          <h2>{t('yourOwnRules')}</h2>
          <ul className="plain-list">
            {own.slice(0, MOST).map(({ row, caught }) => (
              <li key={row.id} className="today-line">
                <Link to={rulePath(row.id)}>{documentOf(row).name}</Link>
                <span className="mono quiet">{row.isPaused ? t('paused') : t('caught', { caught })}</span>
              </li>
            ))}
          </ul>
          {own.length > MOST && (
            <Link className="small" to="/rules?show=mine">
              {t('more', { count: own.length - MOST })}
            </Link>
          )}
        </section>
      )}
    </>
  );
}
