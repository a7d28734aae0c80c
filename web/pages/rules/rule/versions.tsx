import { Button, Form } from 'react-bootstrap';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { LIMITS } from '../../../../contract/limits.ts';
import { faultWords } from '../../../../contract/words/faults.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import {
  faultId,
  Loaded,
  Time,
  useViewer,
  editedParts,
  partName,
  partWords,
  type RulePart,
  useTitles,
} from '../../../parts/index.ts';
import { useCost, useVersions } from '../../../queries/index.ts';
import { locale } from '../../../words/index.ts';
import { t } from '../../../words/rule.ts';

/** The edits beside what is live, part by part and by their count; below them every version there was. */
export function Versions({
  row,
  rule,
  edited,
  why,
  onWhy,
  onBringBack,
}: {
  row: RuleRow;
  rule: Rule;
  edited: RulePart[];
  why: string;
  onWhy: (why: string) => void;
  onBringBack?: (document: Rule) => void;
}) {
  const viewer = useViewer();
  const versions = useVersions(row.id);
  const isLong = why.trim().length > LIMITS.why;
  return (
    <section className="versions">
      {row.live && edited.length > 0 && <Compared live={row.live} rule={rule} edited={edited} />}
      {edited.length > 0 && (
        <div className="mt-2">
          <Form.Label htmlFor="why-live">{t('whyKeptWithTheVersion')}</Form.Label>
          <Form.Control
            id="why-live"
            value={why}
            isInvalid={isLong}
            aria-describedby={isLong ? faultId('why-live') : undefined}
            placeholder={t('theLoansOfficeAskedFor')}
            onChange={(event) => onWhy(event.target.value)}
          />
          {isLong && (
            <p id={faultId('why-live')} className="fault small mt-1" role="alert">
              {faultWords({ code: 'longText', params: { most: LIMITS.why } }, locale())}
            </p>
          )}
        </div>
      )}
      <h3 className="mt-3">{t('versions')}</h3>
      <Loaded query={versions} what={t('theVersions')} rows={2}>
        {(list) => (
          <ul className="plain-list">
            {list.map((one, at) => {
              const before = list[at + 1]?.document;
              const parts = before ? editedParts(one.document, before).map((part) => partName(part)) : [];
              return (
                <li key={one.version} className="version">
                  <Time at={one.from} />
                  <span>
                    <strong>{one.version}</strong>
                    {one.until === null && row.state === 'live' && t('live')}{' '}
                    <span className="quiet">
                      {t('by', { person: viewer.person(one.by) })}
                      {one.approvedBy && `, ${t('lookedAtBy', { person: viewer.person(one.approvedBy) })}`}
                      {parts.length > 0 && `: ${parts.join(', ')}`}
                      {before && parts.length === 0 && t('asBefore')}
                    </span>
                    {one.why && <div>“{one.why}”</div>}
                  </span>
                  {onBringBack && one.version !== row.version && (
                    <Button variant="link" size="sm" onClick={() => onBringBack(one.document)}>
                      {t('bringItBack')}
                    </Button>
                  )}
                </li>
              );
            })}
          </ul>
        )}
      </Loaded>
    </section>
  );
}

function Compared({ live, rule, edited }: { live: Rule; rule: Rule; edited: RulePart[] }) {
  const viewer = useViewer();
  const [before, after] = [useCost(live, 30, true), useCost(rule, 30, true)];
  const titles = useTitles([...new Set([...live.scope.items, ...rule.scope.items])]);
  return (
    <>
      <h3>{t('notLiveYet')}</h3>
      <table className="compared">
        <thead>
          <tr>
            <th scope="col" />
            <th scope="col">{t('live2')}</th>
            <th scope="col">{t('edited')}</th>
          </tr>
        </thead>
        <tbody>
          {edited.map((part) => (
            <tr key={part}>
              <th scope="row">{partName(part)}</th>
              <td>
                <s>{partWords(live, part, viewer, titles)}</s>
              </td>
              <td>
                <mark>{partWords(rule, part, viewer, titles)}</mark>
              </td>
            </tr>
          ))}
          {before.data && after.data && (
            <tr>
              <th scope="row">{t('in30Days')}</th>
              <td>{t('alertsMessages', { caught: before.data.caught.length, messages: before.data.messages })}</td>
              <td>
                <strong>
                  {t('alertsMessages', { caught: after.data.caught.length, messages: after.data.messages })}
                </strong>
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </>
  );
}
