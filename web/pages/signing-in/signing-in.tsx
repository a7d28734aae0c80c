import { Loaded, useViewer } from '../../parts/index.ts';
import { useSigningIn } from '../../queries/index.ts';
import { t } from '../../words/signing-in.ts';
import { AskedOf } from './asked-of.tsx';
import { Password } from './password.tsx';
import { Places } from './places.tsx';
import { SecondFactor } from './second-factor.tsx';

/** How one signs in oneself: the password, a second factor, and where one is signed in. */
export function SigningInPage() {
  const { me } = useViewer();
  const signingIn = useSigningIn();
  return (
    <main className="page programs">
      <div className="page-head">
        <h1>{t('title')}</h1>
        <span className="quiet">{t('about')}</span>
      </div>
      <Loaded query={signingIn} what={t('howYouSignIn')} rows={8}>
        {({ second, sessions }) => (
          <>
            <Places sessions={sessions} />
            <Password />
            <SecondFactor second={second} />
            {me.role === 'steward' && <AskedOf askedOf={second.askedOf} />}
          </>
        )}
      </Loaded>
    </main>
  );
}
