import { Button } from 'react-bootstrap';
import type { TryPage } from '../../../../contract/wire/index.ts';
import { isFault, reasonWords } from '../../../../contract/words/refusals.ts';
import type { WithheldReason } from '../../../../core/decide/index.ts';
import type { Reason } from '../../../../core/people/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { instantOf } from '../../../../core/time/index.ts';
import type { Source } from '../../../../core/values/index.ts';
import { shortTime, useViewer, reasonPhrase, byWhat } from '../../../parts/index.ts';
import { t } from '../../../words/trial.ts';
import { locale } from '../../../words/index.ts';

/** The reasons to withhold in the order in which they are asked, as what each lets through. */
const gates = (): [WithheldReason[], string][] => [
  [['excluded'], t('notLeftOut')],
  [['inactive'], t('stillHere')],
  [['noAccess'], t('mayReadIt')],
  [['notTheirs'], t('concernsThem')],
  [['ownChange'], t('notTheirOwn')],
  [['muted'], t('notMuted')],
  [['unconfirmed', 'unsubscribed'], t('addressHolds')],
  [['coolDown'], t('notTooSoon')],
  [['noChannel'], t('hasAChannel')],
];

interface Row {
  to: string;
  reasons: Reason[];
  withheld: WithheldReason | null;
  messages: TryPage['messages'];
}

function rowsOf({ explanation, messages, withheld }: TryPage): Row[] {
  const told = new Map<string, Row>();
  for (const { to, reasons, withheld: reason } of explanation?.recipients ?? [])
    told.set(to, { to, reasons, withheld: reason, messages: [] });
  for (const message of messages) {
    const row = told.get(message.to) ?? { to: message.to, reasons: [], withheld: null, messages: [] };
    told.set(message.to, { ...row, messages: [...row.messages, message] });
  }
  for (const { person, reason } of withheld) {
    const row = told.get(person) ?? { to: person, reasons: [], withheld: reason, messages: [] };
    if (row.messages.length === 0) told.set(person, { ...row, withheld: row.withheld ?? reason });
  }
  return [...told.values()].sort((a, b) => Number(a.withheld === null) - Number(b.withheld === null));
}

/** Everybody whom the rule reaches: the thread runs on to each through the reasons not to tell, and ends where it was stopped. */
export function Reached({
  rule,
  source,
  tried,
  chosen,
  onPerson,
  onLeaveOut,
}: {
  rule: Rule;
  source: Source;
  tried: TryPage;
  chosen: string | null;
  onPerson: (person: string) => void;
  onLeaveOut?: (person: string) => void;
}) {
  const viewer = useViewer();
  const rows = rowsOf(tried);
  const told = rows.filter((row) => row.messages.length > 0).length;
  const hour = (at: string) =>
    shortTime(instantOf(at), instantOf(tried.sample?.row.at ?? tried.messages[0]?.at ?? at), viewer.me);
  if (rows.length === 0)
    return (
      <p className="mt-3">
        {t('nobodyIsReached')} {rule.to.length === 0 ? t('sayWhoHears') : t('whoeverTheRuleNamesIs')}
      </p>
    );
  return (
    <section className="reached" aria-label={t('whoIsTold')}>
      <header>
        <h3>{t('ofWouldBeTold', { told, rows: rows.length })}</h3>
        {gates().map(([, words]) => (
          <span key={words} aria-hidden="true">
            {words}
          </span>
        ))}
        <span aria-hidden="true">{t('told')}</span>
      </header>
      <ul className="plain-list">
        {rows.map((row) => {
          const stop = row.withheld
            ? gates().findIndex(([reasons]) => row.withheld && reasons.includes(row.withheld))
            : gates().length;
          // The thread runs up to the gate that stopped it, or through all of them.
          const end = row.withheld ? stop + 3 : gates().length + 2;
          const fault = row.withheld && isFault(row.withheld);
          return (
            <li key={row.to} className={row.to === chosen ? 'is-chosen' : ''}>
              <span className="who">
                <button type="button" className="btn btn-link" onClick={() => onPerson(row.to)}>
                  {viewer.person(row.to)}
                </button>{' '}
                <span className="quiet">
                  {row.reasons.map((reason) => reasonPhrase(reason, viewer, source)).join(', ')}
                </span>
              </span>
              <span className="run" aria-hidden="true" style={{ gridColumn: `2 / ${end}` }}>
                {Array.from({ length: stop }, (_, at) => (
                  <i key={gates()[at]?.[1]} />
                ))}
                {row.withheld ? <b className={fault ? 'is-fault' : ''} /> : <u />}
              </span>
              <span className="fate" style={{ gridColumn: `${end} / -1` }}>
                {row.withheld ? (
                  <>
                    <strong className={fault ? 'fault' : ''}>{reasonWords(row.withheld, locale())}</strong>
                    {onLeaveOut &&
                      row.withheld !== 'excluded' &&
                      viewer.directory.people.some((one) => one.id === row.to) && (
                        <Button variant="link" size="sm" onClick={() => onLeaveOut(row.to)}>
                          {t('leaveThemOut')}
                        </Button>
                      )}
                  </>
                ) : row.messages.length > 0 ? (
                  <Told messages={row.messages} hour={hour} />
                ) : (
                  <span className="quiet">{rule.when?.burst ? t('onceItPilesUp') : t('nothingMore')}</span>
                )}
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** When what goes to somebody, and what follows while nobody answers. */
function Told({ messages, hour }: { messages: TryPage['messages']; hour: (at: string) => string }) {
  const first = messages.filter((message) => message.form !== 'reminder' && message.form !== 'escalation');
  const later = messages.filter((message) => !first.includes(message));
  const times = [...new Set(later.map((message) => hour(message.at)))];
  return (
    <>
      {first.map((message, at) => (
        <span key={`${message.channel} ${message.at}`}>
          {at > 0 && ', '}
          {byWhat(message.channel)} {hour(message.at)}
        </span>
      ))}
      {times.length > 0 && (
        <span className="quiet">
          {first.length > 0 && ', '}
          {later[0]?.form === 'escalation' ? t('ifNobodyHasIt') : t('again')} {times.slice(0, 3).join(', ')}
        </span>
      )}
    </>
  );
}
