import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { passwordSchema } from '../../../contract/wire/index.ts';
import { Ends, Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { useNotice } from '../../parts/index.ts';
import { useChangePassword } from '../../queries/index.ts';
import { OwnPassword } from './own-password.tsx';
import { t } from '../../words/signing-in.ts';

/** One's own password, changed by whoever knows it. */
export function Password() {
  const [isChanging, setChanging] = useState(false);
  return (
    <section className="mt-4">
      <h2>{t('password')}</h2>
      <p className="reading quiet">{t('passwordSays')}</p>
      {isChanging ? (
        <Changing onDone={() => setChanging(false)} />
      ) : (
        <Button variant="outline-primary" size="sm" onClick={() => setChanging(true)}>
          {t('changePassword')}
        </Button>
      )}
    </section>
  );
}

function Changing({ onDone }: { onDone: () => void }) {
  const change = useChangePassword();
  const notice = useNotice();
  const sending = useSending({
    shape: passwordSchema,
    start: { old: '', password: '' },
    send: change.mutateAsync,
    onSent: () => {
      notice({ words: t('passwordIsChanged') });
      onDone();
    },
  });
  return (
    <SendForm sending={sending} className="group-editor">
      <OwnPassword sending={sending} />
      <TextField
        sending={sending}
        name="password"
        label={t('newPassword')}
        type="password"
        autoComplete="new-password"
        hint={t('newHint')}
      />
      <Refused sending={sending} />
      <Ends sending={sending} words={t('keepIt')} leave={t('leaveIt')} onLeave={onDone} />
    </SendForm>
  );
}
