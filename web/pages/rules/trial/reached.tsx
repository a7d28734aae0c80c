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
  const isPerson = (id: string) => viewer.directory.people.some((one) => one.id === id);
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
        {rows.map((row) => (
          <li key={row.to} className={row.to === chosen ? 'is-chosen' : ''}>
            <span className="who">
              <button type="button" className="btn btn-link" onClick={() => onPerson(row.to)}>
                {viewer.person(row.to)}
              </button>{' '}
              <span className="quiet">
                {row.reasons.map((reason) => reasonPhrase(reason, viewer, source)).join(', ')}
              </span>
            </span>
            <Run withheld={row.withheld} />
            <span className="fate" style={{ gridColumn: `${endOf(row.withheld)} / -1` }}>
              {row.withheld && (
                <Withheld
                  reason={row.withheld}
                  onLeaveOut={onLeaveOut && isPerson(row.to) ? () => onLeaveOut(row.to) : null}
                />
              )}
              {!row.withheld && row.messages.length > 0 && <Told messages={row.messages} hour={hour} />}
              {!row.withheld && row.messages.length === 0 && (
                <span className="quiet">{rule.when?.burst ? t('onceItPilesUp') : t('nothingMore')}</span>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The gate at which somebody was stopped; behind all of them where nobody stopped them. */
const stopOf = (withheld: WithheldReason | null): number =>
  withheld ? gates().findIndex(([reasons]) => reasons.includes(withheld)) : gates().length;
/** The line of the grid at which the thread to somebody ends. */
const endOf = (withheld: WithheldReason | null): number => (withheld ? stopOf(withheld) + 3 : gates().length + 2);

/** The thread to somebody: up to the gate that stopped it, or through all of them. */
const Run = ({ withheld }: { withheld: WithheldReason | null }) => (
  <span className="run" aria-hidden="true" style={{ gridColumn: `2 / ${endOf(withheld)}` }}>
    {Array.from({ length: stopOf(withheld) }, (_, at) => (
      <i key={gates()[at]?.[1]} />
    ))}
    {withheld ? <b className={isFault(withheld) ? 'is-fault' : ''} /> : <u />}
  </span>
);

/** Why somebody is not told, and a way never to reach them at all. */
const Withheld = ({ reason, onLeaveOut }: { reason: WithheldReason; onLeaveOut: (() => void) | null }) => (
  <>
    <strong className={isFault(reason) ? 'fault' : ''}>{reasonWords(reason, locale())}</strong>
    {onLeaveOut && reason !== 'excluded' && (
      <Button variant="link" size="sm" onClick={onLeaveOut}>
        {t('leaveThemOut')}
      </Button>
    )}
  </>
);

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
