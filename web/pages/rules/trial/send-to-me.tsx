import { Button } from 'react-bootstrap';
import type { Rule } from '../../../../core/rules/index.ts';
import { byWhat, ProblemNote, useNotice } from '../../../parts/index.ts';
import { useSendTrial } from '../../../queries/index.ts';
import { t } from '../../../words/trial.ts';

const CHANNELS = ['inApp', 'email', 'text'] as const;

/** Sends the message that is shown to whoever looks at it, by one channel, as it would go out. */
export function SendToMe({ rule, change, person }: { rule: Rule; change: string | null; person: string | null }) {
  const send = useSendTrial();
  const notice = useNotice();
  return (
    <div className="send-to-me small">
      <span className="quiet">{t('sendItToMe')}</span>{' '}
      {CHANNELS.map((channel) => (
        <Button
          key={channel}
          variant="link"
          size="sm"
          disabled={send.isPending}
          onClick={() =>
            send.mutate(
              { document: rule, change, person, channel },
              { onSuccess: ({ address }) => notice({ words: t('isOnItsWayTo', { address, channel }) }) },
            )
          }
        >
          {byWhat(channel)}
        </Button>
      ))}
      {send.error && <ProblemNote error={send.error} />}
    </div>
  );
}
