import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { firstCodeSchema, provenSchema, type SecondBegun, type SigningInPage } from '../../../contract/wire/index.ts';
import { Ends, Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { CopyLink, Time, useCopy, useNotice } from '../../parts/index.ts';
import { useAfterSecond, useBeginSecond, useDropSecond, usePutOnSecond } from '../../queries/index.ts';
import { OwnPassword } from './own-password.tsx';
import { t } from '../../words/signing-in.ts';

/** How far somebody has come: the password shows that it is them, a first code that their telephone knows the secret. */
type Step =
  | { at: 'rest' }
  | { at: 'putting on' | 'taking off' }
  | { at: 'begun'; begun: SecondBegun }
  | { at: 'on'; codes: readonly string[] };

/** The second factor that one signs in by: put on step by step, and taken off. */
export function SecondFactor({ second }: { second: SigningInPage['second'] }) {
  const [step, setStep] = useState<Step>({ at: 'rest' });
  const begin = useBeginSecond();
  const drop = useDropSecond();
  const notice = useNotice();
  const rest = () => setStep({ at: 'rest' });
  return (
    <section className="mt-4">
      <h2>{t('second')}</h2>
      <p className="reading quiet">{t('secondSays')}</p>
      {step.at !== 'on' && (
        <p>
          {second.since ? t.rich('isOnSince', { time: <Time at={second.since} full /> }) : t('isOff')}{' '}
          {second.since && t('spareLeft', { spare: second.spare })} {second.isAsked && t('isAskedOfYou')}
        </p>
      )}
      {step.at === 'rest' && (
        <Button
          variant="outline-primary"
          size="sm"
          onClick={() => setStep({ at: second.since ? 'taking off' : 'putting on' })}
        >
          {second.since ? t('takeOff') : t('putOn')}
        </Button>
      )}
      {step.at === 'putting on' && (
        <Proving
          words={t('goOn')}
          send={begin.mutateAsync}
          onDone={rest}
          onSent={(begun) => setStep({ at: 'begun', begun })}
        />
      )}
      {step.at === 'taking off' && (
        <Proving
          words={t('takeOff')}
          send={drop.mutateAsync}
          onDone={rest}
          onSent={() => {
            notice({ words: t('takenOff') });
            rest();
          }}
        />
      )}
      {step.at === 'begun' && (
        <FirstCode begun={step.begun} onDone={rest} onSent={(codes) => setStep({ at: 'on', codes })} />
      )}
      {step.at === 'on' && <SpareCodes codes={step.codes} onDone={rest} />}
    </section>
  );
}

interface ProvingProps<A> {
  words: string;
  send: (body: { old: string }) => Promise<A>;
  onSent: (answer: A) => void;
  onDone: () => void;
}

/** Whoever sits at an open page may be anybody: the password shows that it is oneself. */
function Proving<A>({ words, send, onSent, onDone }: ProvingProps<A>) {
  const sending = useSending({ shape: provenSchema, start: { old: '' }, send, onSent });
  return (
    <SendForm sending={sending} className="group-editor">
      <OwnPassword sending={sending} />
      <Refused sending={sending} />
      <Ends sending={sending} words={words} leave={t('leaveIt')} onLeave={onDone} />
    </SendForm>
  );
}

interface FirstCodeProps {
  begun: SecondBegun;
  onSent: (codes: readonly string[]) => void;
  onDone: () => void;
}

function FirstCode({ begun, onSent, onDone }: FirstCodeProps) {
  const putOn = usePutOnSecond();
  const sending = useSending({
    shape: firstCodeSchema,
    start: { code: '' },
    send: putOn.mutateAsync,
    onSent: ({ codes }) => onSent(codes),
  });
  return (
    <SendForm sending={sending} className="group-editor second-begun">
      <div>
        <p>{t('takeThePicture')}</p>
        <img src={`data:image/svg+xml,${encodeURIComponent(begun.picture)}`} alt={t('thePicture')} />
      </div>
      <div>
        <p className="mb-1">{t('orTypeIt')}</p>
        <CopyLink link={begun.secret} label={t('theSecret')} words={t('copySecret')} />
        <TextField
          sending={sending}
          name="code"
          label={t('codeNow')}
          inputMode="numeric"
          autoComplete="one-time-code"
          autoFocus
        />
        <Refused sending={sending} />
        <Ends sending={sending} words={t('putOn')} leave={t('leaveIt')} onLeave={onDone} />
      </div>
    </SendForm>
  );
}

/** The spare codes, told once; what stood behind the second factor opens once they have been read. */
function SpareCodes({ codes, onDone }: { codes: readonly string[]; onDone: () => void }) {
  const fetchAnew = useAfterSecond();
  const copy = useCopy();
  return (
    <div className="group-editor" role="status">
      <p>{t('spareCodes')}</p>
      <ul className="spare-codes mono" aria-label={t('theSpareCodes')}>
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <div className="acts">
        <Button
          onClick={() => {
            onDone();
            fetchAnew();
          }}
        >
          {t('iHaveThem')}
        </Button>
        <Button variant="quiet" onClick={() => copy(codes.join('\n'))}>
          {t('copyThem')}
        </Button>
      </div>
    </div>
  );
}
