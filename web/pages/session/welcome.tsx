import { Button } from 'react-bootstrap';
import { choiceSchema } from '../../../contract/wire/index.ts';
import { Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { Loaded, Logo } from '../../parts/index.ts';
import { problemOf, useChoosePassword, useSignIn, useWelcomed } from '../../queries/index.ts';
import { t } from '../../words/session.ts';

/** Somebody chooses the password that they sign in with, on a page that opens once, and is signed in. */
export function WelcomePage({ token }: { token: string }) {
  const welcomed = useWelcomed(token);
  return (
    <main className="sign-in is-narrow">
      <Logo />
      <Loaded query={welcomed} what={t('yourPage')} rows={3}>
        {({ name, signsInAs }) => <Choose token={token} name={name} signsInAs={signsInAs} />}
      </Loaded>
    </main>
  );
}

function Choose({ token, name, signsInAs }: { token: string; name: string; signsInAs: string }) {
  const choose = useChoosePassword(token);
  const signIn = useSignIn();
  const sending = useSending({
    start: { password: '' },
    shape: choiceSchema,
    send: async ({ password }) => {
      await choose.mutateAsync({ password });
      // Whoever has a second factor signs in on the page that asks for its code.
      await signIn.mutateAsync({ name: signsInAs, password }).catch((error: unknown) => {
        if (problemOf(error).code !== 'codeNeeded') throw error;
      });
    },
    // The address is good for nothing any more: it shall not stand in the way back.
    onSent: () => window.location.replace('/today'),
  });
  return (
    <>
      <h1>{t('welcome', { name })}</h1>
      <p>{t('youSignInAs', { signsInAs })}</p>
      <SendForm sending={sending}>
        <input type="text" name="username" autoComplete="username" value={signsInAs} readOnly hidden />
        <TextField
          sending={sending}
          name="password"
          label={t('chooseAPassword')}
          type="password"
          autoComplete="new-password"
          hint={t('twelveAtLeast')}
          autoFocus
        />
        <Refused sending={sending} />
        <Button type="submit" disabled={sending.isPending}>
          {t('chooseIt')}
        </Button>
      </SendForm>
    </>
  );
}
