import { type ReactNode, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { PlanPage } from '../../../contract/wire/index.ts';
import { askForDesktop, desktopState, keepDesktop, ProblemNote, Time, useNotice, byWhat } from '../../parts/index.ts';
import { useAddressActs } from '../../queries/index.ts';
import { t } from '../../words/plan.ts';
import { AddAddress, Waiting } from './add-address.tsx';

/** Where somebody can be reached: each address is confirmed before it is used, and each channel can be tried. */
export const Addresses = ({ page }: { page: PlanPage }) => (
  <section>
    <h3>{t('whereYouCanBeReached')}</h3>
    <ul className="plain-list addresses">
      <li>
        <span>
          {t('inOjo2')} <Desktop />
        </span>
        <TryIt channel="inApp" />
      </li>
      <li>
        <span className="wrap-anywhere">
          {page.mailTo ?? page.email ?? <span className="fault">{t('noEmailAddress')}</span>}
          {page.mailTo && <small className="quiet">{t('inPlaceOf', { email: page.email ?? '' })}</small>}
        </span>
        {(page.mailTo ?? page.email) && <TryIt channel="email" isGone={page.cameBack.length > 0} />}
      </li>
      {page.cameBack.map(({ address, since, reply }) => (
        <li key={address} className="fault">
          <span>
            {t.rich('cameBackSince', { address, time: <Time at={since} /> })}{' '}
            <small className="quiet wrap-anywhere">{t('theServerSays', { reply })}</small>
          </span>
        </li>
      ))}
      <Another channel="email" page={page} words={t('sendMyEmailSomewhereElse')}>
        {page.mailTo && <Remove channel="email" words={t('backToTheFirst')} />}
      </Another>
      <li>
        <span>
          {page.phone ?? page.silenced ?? <span className="quiet">{t('noTelephoneTextsCannotReach')}</span>}
          {page.silenced && <small className="fault">{t('itAnsweredSTOPAnswerSTART')}</small>}
        </span>
        {page.phone && <TryIt channel="text" />}
      </li>
      <Another channel="text" page={page} words={page.phone ? t('anotherNumber') : t('giveANumber')}>
        {(page.phone || page.silenced) && <Remove channel="text" words={t('takeItAway')} />}
      </Another>
    </ul>
  </section>
);

/** Sends something to see whether it comes. */
function TryIt({ channel, isGone = false }: { channel: 'inApp' | 'email' | 'text'; isGone?: boolean }) {
  const { trial } = useAddressActs();
  const notice = useNotice();
  return (
    <>
      <Button
        variant="link"
        size="sm"
        disabled={trial.isPending}
        aria-label={t('sendMeOneNow', { way: byWhat(channel) })}
        onClick={() =>
          trial.mutate(channel, {
            onSuccess: ({ address }) =>
              notice({ words: channel === 'inApp' ? t('itIsInYourInbox') : t('itIsOnItsWay', { address }) }),
          })
        }
      >
        {isGone ? t('tryItAgain') : t('sendMeOneNow2')}
      </Button>
      {trial.error && <ProblemNote error={trial.error} />}
    </>
  );
}

/** Another address of a channel: asked for, waiting for its confirmation, or none. */
function Another({
  channel,
  page,
  words,
  children,
}: {
  channel: 'email' | 'text';
  page: PlanPage;
  words: string;
  children: ReactNode;
}) {
  const [isAdding, setAdding] = useState(false);
  const ask = page.asks.find((one) => one.channel === channel && !one.isFurther);
  if (ask) return <Waiting ask={ask} />;
  if (isAdding) return <AddAddress channel={channel} onDone={() => setAdding(false)} />;
  return (
    <li>
      <Button variant="link" size="sm" onClick={() => setAdding(true)}>
        {words}
      </Button>
      {children}
    </li>
  );
}

function Remove({ channel, words }: { channel: 'email' | 'text'; words: string }) {
  const { remove } = useAddressActs();
  return (
    <Button variant="link" size="sm" onClick={() => remove.mutate(channel)}>
      {words}
    </Button>
  );
}

/** What arrives may be shown on the desktop too, by the browser, on this machine. */
function Desktop() {
  const [state, setState] = useState(desktopState);
  if (state === 'impossible') return null;
  const turn = async (isOn: boolean) => setState(isOn ? await askForDesktop() : keepDesktop('off'));
  return (
    <small>
      <Form.Check
        id="desktop"
        label={t('onThisDesktopAsWell')}
        checked={state === 'on'}
        disabled={state === 'refused'}
        onChange={(event) => void turn(event.target.checked)}
      />
      {state === 'refused' && <span className="quiet">{t('thisBrowserWasToldNot')}</span>}
    </small>
  );
}
