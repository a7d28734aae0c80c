import { Link, useParams } from 'react-router';
import type { OutboxMessage } from '../../../contract/wire/index.ts';
import { rulePath } from '../../../core/messages/index.ts';
import { MailFrame, byWhat, Loaded, replyWords, Time, useViewer, WhyLink } from '../../parts/index.ts';
import { useOutboxMessage } from '../../queries/index.ts';
import { t } from '../../words/outbox.ts';
import { FateWords } from './fate.tsx';

/** One message: to whom, by what, why, each try with the other side's own words, and how it looked. */
export function OutboxMessagePage() {
  const { message: id = '' } = useParams();
  const message = useOutboxMessage(id);
  return (
    <main className="page outbox-message">
      <p className="crumbs">
        <Link to="/outbox">{t('outbox')}</Link>
      </p>
      <Loaded query={message} what={t('theMessage')} rows={5}>
        {(page) => <Whole page={page} />}
      </Loaded>
    </main>
  );
}

function Whole({ page: { row, attempts, looked } }: { page: OutboxMessage }) {
  const { person } = useViewer();
  return (
    <>
      <h1>{row.subject}</h1>
      <p>
        {t.rich('toBy', {
          person: <strong>{person(row.person)}</strong>,
          way: row.channel ? byWhat(row.channel) : '',
          time: <Time at={row.at} full />,
        })}
        {row.channel !== 'inApp' && row.address && <span className="quiet wrap-anywhere"> {row.address}</span>}
      </p>
      <div className="outbox-whole">
        <section>
          <h2>{t('whatBecameOfIt')}</h2>
          <p>
            <FateWords row={attempts.length > 0 ? { ...row, reply: null } : row} />
          </p>
          <Attempts attempts={attempts} />
          <h2>{t('whyItWent')}</h2>
          {(looked?.why ?? []).map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
          <p>
            {row.rules.map((rule, at) => (
              <span key={rule.id}>
                {at > 0 && ', '}
                <Link to={rulePath(rule.id)}>{rule.name}</Link>
              </span>
            ))}
            {row.rules.length === 0 && <span className="quiet">{t('noRuleBroughtIt')}</span>}
          </p>
          {row.change && (
            <p>
              <WhyLink
                source={row.change.source}
                change={row.change.id}
                person={row.person}
                words={t('whoElseHeard')}
              />
            </p>
          )}
        </section>
        <section>
          <h2>{t('asItLooked')}</h2>
          {looked === null ? (
            <p className="quiet">{t('notForYouToRead')}</p>
          ) : (
            <Looked looked={looked} subject={row.subject} />
          )}
        </section>
      </div>
    </>
  );
}

const Attempts = ({ attempts }: { attempts: OutboxMessage['attempts'] }) =>
  attempts.length === 0 ? null : (
    <ol className="plain-list attempts">
      {attempts.map(({ at, outcome, reply }) => (
        <li key={`${at} ${outcome}`}>
          <Time at={at} full /> {t(`outcome.${outcome}`)}
          {reply && <span className="small quiet"> {replyWords(reply, outcome === 'taken')}</span>}
        </li>
      ))}
    </ol>
  );

function Looked({ looked, subject }: { looked: NonNullable<OutboxMessage['looked']>; subject: string }) {
  if (looked.html !== null) return <MailFrame title={t('theEmail', { subject })} html={looked.html} />;
  if (looked.segments === null) return <pre className="mail-source">{looked.text}</pre>;
  const { units, alphabet, count } = looked.segments;
  return (
    <>
      <div className="text-bubble">{looked.text}</div>
      <p className="small quiet mt-1">{t('signsInSegments', { units, alphabet, count })}</p>
    </>
  );
}
