import { Link } from 'react-router';
import { rulePath } from '../../../../core/messages/index.ts';
import { useViewer } from '../../../parts/index.ts';
import { useRules } from '../../../queries/index.ts';
import { t } from '../../../words/rules.ts';
import { Mend } from './mend.tsx';
import { documentOf, troubleOf, twinsAmong } from './troubles.ts';

/** For those who look after rules: which want somebody. */
export default function Wanting() {
  const viewer = useViewer();
  const rules = useRules();
  const twins = twinsAmong(rules.data ?? []);
  const wanting = (rules.data ?? [])
    .filter((row) => row.mayEdit)
    .flatMap((row) => {
      const trouble = troubleOf(row, viewer, twins.get(row.id));
      return trouble ? [{ row, trouble }] : [];
    })
    // Somebody waits for these.
    .sort((a, b) => Number(b.trouble.kind === 'eyes') - Number(a.trouble.kind === 'eyes'));
  if (wanting.length === 0) return null;
  return (
    <section>
      <h2>{t('rulesThatWantSomebody')}</h2>
      <ul className="plain-list">
        {wanting.slice(0, 6).map(({ row, trouble }) => (
          <li key={row.id}>
            <Link to={rulePath(row.id)}>{documentOf(row).name}</Link>
            <div className="small">
              <strong>{trouble.head}</strong> {trouble.words}
            </div>
            <div className="small">
              <Mend row={row} trouble={trouble} />
            </div>
          </li>
        ))}
      </ul>
      {wanting.length > 6 && (
        <Link className="small" to="/rules?show=troubles">
          {t('more', { count: wanting.length - 6 })}
        </Link>
      )}
    </section>
  );
}
