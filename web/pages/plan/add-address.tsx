import { Button } from 'react-bootstrap';
import { addressSchema, codeSchema, type PlanPage } from '../../../contract/wire/index.ts';
import { Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { ProblemNote, Time, useNotice } from '../../parts/index.ts';
import { useAddressActs } from '../../queries/index.ts';
import { t } from '../../words/plan.ts';

type OwnChannel = 'email' | 'text';

interface AddAddressProps {
  channel: OwnChannel;
  /** Beside the usual one, for single rules and sources. */
  isFurther?: boolean;
  onDone: () => void;
}

/** An address to be typed; it is asked for a yes before it is used. */
export function AddAddress({ channel, isFurther = false, onDone }: AddAddressProps) {
  const { ask } = useAddressActs();
  const isText = channel === 'text';
  const sending = useSending({
    shape: addressSchema,
    start: isText
      ? { channel: 'text' as const, address: '+34 ' }
      : { channel: 'email' as const, address: '', isFurther },
    send: ask.mutateAsync,
    onSent: onDone,
  });
  return (
    <li className="is-form">
      <SendForm sending={sending}>
        <TextField
          sending={sending}
          name="address"
          label={isText ? t('yourNumberWithItsCountry') : t('anotherAddress')}
          isBare
          type={isText ? 'tel' : 'email'}
          autoFocus
          placeholder={isText ? '+34 600 555 014' : 'name@place.example'}
          hint={isText ? t('aCodeGoesThereThe') : t('aLinkGoesThereThe')}
        />
        <Refused sending={sending} />
        <div className="acts">
          <Button size="sm" type="submit" disabled={sending.isPending}>
            {isText ? t('sendTheCode') : t('sendTheLink')}
          </Button>
          <Button size="sm" variant="quiet" onClick={onDone}>
            {t('leaveIt')}
          </Button>
        </div>
      </SendForm>
    </li>
  );
}

/** An address that waits for its owner's yes. */
export function Waiting({ ask: waiting }: { ask: PlanPage['asks'][number] }) {
  const { ask, forget } = useAddressActs();
  const notice = useNotice();
  const { channel, address, isFurther } = waiting;
  return (
    <li className="is-form">
      <p className="mb-1 wrap-anywhere">
        <strong>{address}</strong>{' '}
        <span className="quiet small">{t.rich('notConfirmedYetAsked', { time: <Time at={waiting.askedAt} /> })}</span>
      </p>
      {channel === 'text' ? <Code address={address} /> : <p className="small quiet mb-1">{t('pressTheLinkInThe')}</p>}
      {ask.error && <ProblemNote error={ask.error} />}
      <Button
        variant="link"
        size="sm"
        disabled={ask.isPending}
        onClick={() =>
          ask.mutate(channel === 'text' ? { channel, address } : { channel, address, isFurther }, {
            onSuccess: () => notice({ words: t('itWasSentAgain') }),
          })
        }
      >
        {t('sendItAgain')}
      </Button>
      <Button
        variant="link"
        size="sm"
        disabled={forget.isPending}
        onClick={() => forget.mutate(channel, { onSuccess: () => notice({ words: t('isForgotten', { address }) }) })}
      >
        {t('forgetIt')}
      </Button>
    </li>
  );
}

/** The code that came by text, which confirms the number. */
function Code({ address }: { address: string }) {
  const { confirm } = useAddressActs();
  const notice = useNotice();
  const sending = useSending({
    start: { code: '' },
    shape: codeSchema,
    send: ({ code }) => confirm.mutateAsync(code),
    onSent: () => notice({ words: t('isConfirmed', { address }) }),
  });
  return (
    <SendForm sending={sending}>
      <div className="row-of">
        <TextField
          sending={sending}
          name="code"
          label={t('theCodeThatWasSent')}
          isBare
          inputMode="numeric"
          autoComplete="one-time-code"
          placeholder={t('sixFigures')}
        />
        <Button size="sm" type="submit" disabled={sending.isPending}>
          {t('confirm')}
        </Button>
      </div>
      <Refused sending={sending} />
    </SendForm>
  );
}
