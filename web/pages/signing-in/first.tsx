import { Button } from 'react-bootstrap';
import { Loaded, Logo } from '../../parts/index.ts';
import { useSigningIn, useSignOut } from '../../queries/index.ts';
import { t } from '../../words/signing-in.ts';
import { SecondFactor } from './second-factor.tsx';

/** What somebody sees of whom a second factor is asked and who has none: that, and how it is put on. */
export function SecondFirst() {
  const signingIn = useSigningIn();
  const signOut = useSignOut();
  return (
    <main className="page programs">
      <Logo />
      <h1 className="mt-4">{t('firstTitle')}</h1>
      <p className="reading">{t('firstSays')}</p>
      <Loaded query={signingIn} what={t('howYouSignIn')} rows={4}>
        {({ second }) => <SecondFactor second={second} />}
      </Loaded>
      <Button className="mt-5" variant="quiet" size="sm" disabled={signOut.isPending} onClick={() => signOut.mutate()}>
        {t('signOut')}
      </Button>
    </main>
  );
}
