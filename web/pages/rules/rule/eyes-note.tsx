import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { LIMITS } from '../../../../contract/limits.ts';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { ProblemNote, Time, useNotice, useViewer } from '../../../parts/index.ts';
import { useApprove, useSendBack } from '../../../queries/index.ts';
import { t } from '../../../words/rule.ts';

/** That a rule's edits wait for a second pair of eyes: a steward's to let live or send back, and whoever asked may take it back. */
export function EyesNote({ row: { id, ask, version } }: { row: RuleRow }) {
  const { me, person } = useViewer();
  const [isSending, setSending] = useState(false);
  const approve = useApprove();
  const back = useSendBack();
  const notice = useNotice();
  if (!ask) return null;
  const isMine = ask.by === me.id;
  const mayLook = me.role === 'steward' && !isMine;
  const isBusy = approve.isPending || back.isPending;
  const take = () => back.mutate({ id, why: null }, { onSuccess: () => notice({ words: t('askTakenBack') }) });
  return (
    <div className="offer-note" role="status">
      <p className="mb-0">
        <strong>{mayLook ? t('asksForEyes', { by: person(ask.by) }) : t('waitsForEyes')}</strong>{' '}
        <span className="quiet">{t.rich('askedSince', { time: <Time at={ask.at} /> })}</span>
      </p>
      {ask.why && <p className="mb-0">“{ask.why}”</p>}
      {mayLook && <p className="small quiet mb-0">{version > 0 ? t('whatEyesSee') : t('whatEyesSeeFirst')}</p>}
      {(approve.error ?? back.error) && <ProblemNote error={approve.error ?? back.error} />}
      {isSending ? (
        <SendBack id={id} by={ask.by} back={back} onLeave={() => setSending(false)} />
      ) : (
        <div className="acts">
          {mayLook && (
            <>
              <Button
                size="sm"
                disabled={isBusy}
                onClick={() =>
                  approve.mutate({ id, revision: ask.revision }, { onSuccess: () => notice({ words: t('letLive') }) })
                }
              >
                {t('letItLive')}
              </Button>
              <Button size="sm" variant="quiet" disabled={isBusy} onClick={() => setSending(true)}>
                {t('sendItBack')}
              </Button>
            </>
          )}
          {isMine && (
            <Button size="sm" variant="quiet" disabled={isBusy} onClick={take}>
              {t('takeAskBack')}
            </Button>
          )}
        </div>
      )}
    </div>
  );
}

interface SendBackProps {
  id: string;
  by: string;
  back: ReturnType<typeof useSendBack>;
  onLeave: () => void;
}

/** The word that goes back with it. */
function SendBack({ id, by, back, onLeave }: SendBackProps) {
  const { person } = useViewer();
  const notice = useNotice();
  const [why, setWhy] = useState('');
  const [isTried, setTried] = useState(false);
  const isMissing = isTried && why.trim() === '';
  const send = () => {
    setTried(true);
    if (why.trim() !== '')
      back.mutate({ id, why }, { onSuccess: () => notice({ words: t('sentBack', { by: person(by) }) }) });
  };
  return (
    <Form
      className="mt-2"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <Form.Label htmlFor="send-back">{t('whyItGoesBack')}</Form.Label>
      <Form.Control
        id="send-back"
        value={why}
        maxLength={LIMITS.why}
        isInvalid={isMissing}
        aria-describedby={isMissing ? 'send-back-fault' : undefined}
        onChange={({ target }) => setWhy(target.value)}
      />
      {isMissing && (
        <p id="send-back-fault" className="fault small mb-0" role="alert">
          {t('sayWhyItGoesBack')}
        </p>
      )}
      <div className="acts">
        <Button size="sm" type="submit" disabled={back.isPending}>
          {t('sendItBackNow')}
        </Button>
        <Button size="sm" variant="quiet" onClick={onLeave}>
          {t('leaveIt')}
        </Button>
      </div>
    </Form>
  );
}
