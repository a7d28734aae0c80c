import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { keepersOf, Timeline, useViewer } from '../../../parts/index.ts';
import { t } from '../../../words/rule.ts';

/** Says of a rule that one may only read it, and who could change it. */
export function OnlyRead({ row, rule }: { row: RuleRow; rule: Rule }) {
  const viewer = useViewer();
  const owner = viewer.person(row.owner);
  return (
    <p className="mt-2">{t('youMayOnlyRead', { owner, keepers: keepersOf(rule.scope.sources, viewer) || owner })}</p>
  );
}

/** What a rule did in the last 30 days, for those who may only read it. */
export function WhatItDid({ row }: { row: RuleRow }) {
  const { me } = useViewer();
  return (
    <section>
      <h2 className="small quiet">{t('whatItDid')}</h2>
      <p>{t.rich('caughtToldRead', { alerts: row.alerts, told: row.told, read: row.read })}</p>
      <Timeline all={[]} caught={row.caught} now={me.now} width={368} isWide label={t('whatItDid')} />
    </section>
  );
}
