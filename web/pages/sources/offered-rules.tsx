import { Link } from 'react-router';
import { areAlike, carriedOver, checkRule, hasRunOut } from '../../../core/rules/index.ts';
import { dateIn, instantOf } from '../../../core/time/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { useViewer, worldFrom } from '../../parts/index.ts';
import { useRules } from '../../queries/index.ts';
import { t } from '../../words/sources.ts';

/** So many are offered. */
const MOST = 8;

/** A source that no rule looks at yet is offered those that sources like it have, as far as they fit there as they are. */
export function OfferedRules({ source }: { source: Source }) {
  const viewer = useViewer();
  const rules = useRules();
  const live = (rules.data ?? []).flatMap((row) =>
    row.state === 'live' && row.live && !hasRunOut(row.live, dateIn(instantOf(viewer.me.now), row.live.zone))
      ? [row.live]
      : [],
  );
  if (!rules.data || live.some((rule) => rule.scope.sources.includes(source.id))) return null;
  const world = worldFrom(viewer.directory);
  const offers = live.flatMap((rule) => {
    const [only, ...others] = rule.scope.sources;
    const from = viewer.source(only ?? '');
    if (!from || others.length > 0 || !areAlike(from, source)) return [];
    const isFit = checkRule(carriedOver(rule, from, source), world).length === 0;
    return isFit ? [{ rule, from }] : [];
  });
  if (offers.length === 0) return null;
  return (
    <section className="offered-rules" aria-label={t('rulesOfSourcesLikeIt')}>
      <h2>{t('rulesOfSourcesLikeIt')}</h2>
      <ul className="plain-list">
        {offers.slice(0, MOST).map(({ rule, from }) => (
          <li key={rule.id}>
            <Link to={`/rules/new?${new URLSearchParams({ copy: rule.id, onto: source.id })}`}>{rule.name}</Link>{' '}
            <span className="quiet">{t('asInSource', { name: from.name })}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
