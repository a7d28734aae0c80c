import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { TodayPage } from '../../../contract/wire/index.ts';
import { ChangeMark, Time, UrgencyBar, useNotice, useViewer } from '../../parts/index.ts';
import { useInboxAct } from '../../queries/index.ts';
import { t } from '../../words/today.ts';
import { headlineOf, nextWords } from '../inbox/message-words.ts';

/** So many are shown; the inbox has the rest. */
const MOST = 4;

/** What somebody is asked to take on, with what follows while nobody does. */
export function Waiting({ waiting }: { waiting: TodayPage['waiting'] }) {
  const viewer = useViewer();
  const act = useInboxAct();
  const notice = useNotice();
  return (
    <section>
      <h2>{t('waitsForYou')}</h2>
      <ol className="log">
        {waiting.slice(0, MOST).map((message) => {
          const [entry] = message.content.entries;
          const doNow = message.content.entries.flatMap((one) => one.doNow).join(' ');
          return (
            <li key={message.id} className="log-row is-unread">
              <Time at={message.at} />
              <UrgencyBar urgency={message.urgency} />
              <div>
                <Link className="cover" to={`/inbox/${message.id}?show=waits`}>
                  <span className="headline">{headlineOf(message)}</span>
                </Link>
                {entry && entry.fields.length > 0 && (
                  <div>
                    <ChangeMark fields={entry.fields.slice(0, 2)} />{' '}
                    <span className="quiet">{t('by', { person: entry.steps.at(-1)?.actor ?? '' })}</span>
                  </div>
                )}
                {doNow !== '' && <div>{doNow}</div>}
                {message.next.slice(0, 2).map((step) => (
                  <div key={`${step.what} ${step.at}`} className="below">
                    {nextWords(step, viewer)}
                  </div>
                ))}
              </div>
              <Button
                size="sm"
                style={{ alignSelf: 'start' }}
                disabled={act.isPending}
                aria-label={t('iHaveItOf', { headline: headlineOf(message) })}
                onClick={() =>
                  act.mutate({ acknowledge: [message.id] }, { onSuccess: () => notice({ words: t('youHaveIt') }) })
                }
              >
                {t('iHaveIt')}
              </Button>
            </li>
          );
        })}
      </ol>
      {waiting.length > MOST && (
        <Link className="small" to="/inbox?show=waits">
          {t('moreWait', { more: waiting.length - MOST })}
        </Link>
      )}
    </section>
  );
}
