import { MarkedLine } from './own-words.tsx';
import type { Entry } from '../../core/messages/index.ts';
import { t } from '../words/parts.ts';

/** What a rule shows beside a change, and what is to be done now. */
export const ShownFields = ({ entry }: { entry: Entry }) => (
  <>
    {entry.show.length > 0 && (
      <dl className="field-list mt-2">
        {entry.show.map(({ label, value }) => (
          <div key={label} style={{ display: 'contents' }}>
            <dt>{label}</dt>
            <dd>{value || <span className="quiet">{t('empty')}</span>}</dd>
          </div>
        ))}
      </dl>
    )}
    {entry.doNow.map((line) => (
      <p key={line} className="mt-2">
        <strong>{t('toDoNow')}</strong> <MarkedLine text={line} />
      </p>
    ))}
  </>
);
