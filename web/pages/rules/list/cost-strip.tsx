import type { CSSProperties } from 'react';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { documentOf } from './troubles.ts';
import { t } from '../../../words/rules.ts';

/** Width is messages, filling is what was read: what costs most and gives least is seen at once. */
export function CostStrip({ rows }: { rows: RuleRow[] }) {
  const sorted = rows.filter((row) => row.told > 0).sort((a, b) => b.told - a.told);
  const total = sorted.reduce((sum, row) => sum + row.told, 0);
  const named = sorted.slice(0, 4).filter((row) => row.told / total > 0.1);
  const rest = total - named.reduce((sum, row) => sum + row.told, 0);
  const share = (row: RuleRow) => `${Math.round((row.read / row.told) * 100)}%`;
  return (
    <div className="cost">
      <div className="names" aria-hidden="true">
        {named.map((row) => (
          <span key={row.id} style={{ flex: `${row.told} 0 0` }}>
            <b className="cut">{documentOf(row).name}</b>
            <span className="quiet">{t('toldRead', { told: row.told, share: share(row).replace('%', ' %') })}</span>
          </span>
        ))}
        {rest > 0 && (
          <span style={{ flex: `${rest} 0 0`, textAlign: 'right' }}>
            <b className="cut">{t('theOthers')}</b>
            <span className="quiet">{t('told', { rest })}</span>
          </span>
        )}
      </div>
      <div
        className="strip"
        role="img"
        aria-label={sorted
          .map((row) => t('toldRead2', { name: documentOf(row).name, told: row.told, share: share(row) }))
          .join('; ')}
      >
        {sorted.map((row) => (
          <i key={row.id} style={{ flex: `${row.told} 0 0`, '--share': share(row) } as CSSProperties} />
        ))}
      </div>
    </div>
  );
}
