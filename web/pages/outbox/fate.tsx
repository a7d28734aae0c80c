import { Button } from 'react-bootstrap';
import type { OutboxRow } from '../../../contract/wire/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import { refusalWords, replyWords, shortTime, useViewer } from '../../parts/index.ts';
import { useSendAgain } from '../../queries/index.ts';
import { isFault, reasonWords } from '../../../contract/words/refusals.ts';
import { locale } from '../../words/index.ts';
import { t } from '../../words/outbox.ts';

/** What a message waits for: its turn, the end of its reader's quiet hours, or to be tried again. */
function waitingWords(tries: number, hour: string | null): string {
  if (hour === null) return t('onItsWay');
  return tries === 0 ? t('heldUntil', { hour }) : t('triedTimesAgain', { tries, hour });
}

/** What became of a message, in words, and what can be done about it. */
export function FateWords({ row }: { row: OutboxRow }) {
  const { me } = useViewer();
  const hour = (at: string | null) => (at ? shortTime(instantOf(at), instantOf(me.now), me) : '');
  switch (row.fate) {
    case 'delivered':
      return (
        <span>
          <span className="good">{t('delivered2')}</span>
          {row.readAt ? (
            <span>{t('read', { hour: hour(row.readAt) })}</span>
          ) : (
            row.channel === 'inApp' && <span className="quiet">{t('unread')}</span>
          )}
          {row.reply && (
            <span className="small quiet" style={{ display: 'block' }}>
              {replyWords(row.reply, true)}
            </span>
          )}
        </span>
      );
    case 'withheld': {
      if (!row.reason) return <strong className="fault">{t('withheldAlone')}</strong>;
      const reason = (
        <strong className={isFault(row.reason) ? 'fault' : ''}>{reasonWords(row.reason, locale())}</strong>
      );
      return <span>{t.rich('withheld2', { reason })}</span>;
    }
    case 'failed':
      return (
        <span>
          <strong className="fault">{t('failedForGood')}</strong>
          <span className="small quiet" style={{ display: 'block' }}>
            {row.reply && replyWords(row.reply, false)}
          </span>
          <SendAgain row={row} />
        </span>
      );
    case 'gathering':
      return <span className="quiet">{t('gathersForTheDigest', { hour: hour(row.retryAt) })}</span>;
    case 'waiting':
    case 'sending':
      return (
        <span>
          {waitingWords(row.tries, row.retryAt && hour(row.retryAt))}
          {row.reply && (
            <span className="small quiet" style={{ display: 'block' }}>
              {replyWords(row.reply, false)}
            </span>
          )}
          {row.tries > 0 && row.retryAt && <SendAgain row={row} />}
        </span>
      );
    default:
      return row.fate satisfies never;
  }
}

/** Tries at once what failed, or would be tried later. */
function SendAgain({ row }: { row: OutboxRow }) {
  const { person } = useViewer();
  const again = useSendAgain();
  return (
    <span style={{ display: 'block' }}>
      <Button
        variant="link"
        size="sm"
        className="p-0"
        disabled={again.isPending}
        aria-label={t('sendAgainTo', { subject: row.subject, person: person(row.person) })}
        onClick={() => again.mutate(row.id)}
      >
        {t('sendAgain')}
      </Button>
      {again.isError && (
        <span role="alert" className="small fault" style={{ display: 'block' }}>
          {refusalWords(again.error)}
        </span>
      )}
    </span>
  );
}
