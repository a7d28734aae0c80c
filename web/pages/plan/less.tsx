import { Link, useSearchParams } from 'react-router';
import { rulePath } from '../../../core/messages/index.ts';
import { LessWays } from '../../parts/index.ts';
import { t } from '../../words/plan.ts';

/** The ways to hear less on a page of their own: where the link in an email leads. */
export function LessPageView() {
  const [search] = useSearchParams();
  const rule = search.get('rule') ?? '';
  return (
    <main className="page">
      <div className="page-head">
        <h1>{t('lessOfThis')}</h1>
      </div>
      <div style={{ maxWidth: '32rem' }} className="mt-2">
        <LessWays rule={rule} item={search.get('item')} />
      </div>
      <p className="mt-3">
        <Link to={rulePath(rule)}>{t('theRuleThatToldYou')}</Link>
      </p>
    </main>
  );
}
