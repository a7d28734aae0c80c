import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useParams } from 'react-router';
import { saySchema } from '../../../contract/wire/index.ts';
import { segmentsOf } from '../../../core/messages/index.ts';
import { Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { MailFrame, Empty, Loaded, Time, useViewer } from '../../parts/index.ts';
import { useAnswerText, useMail, useMailbox, useMailboxes, usePhone, usePhones } from '../../queries/index.ts';
import { t } from '../../words/stand-ins.ts';
import { HooksTaken } from './hooks-taken.tsx';
import { Moods } from './moods.tsx';

/** What is shown beside mailboxes, by its place in the address. */
const OTHERS: ReadonlySet<string> = new Set(['phones', 'machine', 'moods']);

/** What the outside world received: a mailbox for each address, a phone for each number. */
export function StandInsPage() {
  const { kind = 'mail', box = null, mail = null } = useParams();
  return (
    <main className="page">
      <div className="page-head">
        <h1>{t('standIns')}</h1>
        <ul className="tabs">
          <li>
            <Link to="/stand-ins/mail" className={kind === 'mail' ? 'active' : ''}>
              {t('mailboxes')}
            </Link>
          </li>
          <li>
            <Link to="/stand-ins/phones" className={kind === 'phones' ? 'active' : ''}>
              {t('phones')}
            </Link>
          </li>
          <li>
            <Link to="/stand-ins/machine" className={kind === 'machine' ? 'active' : ''}>
              {t('machine')}
            </Link>
          </li>
          <li>
            <Link to="/stand-ins/moods" className={kind === 'moods' ? 'active' : ''}>
              {t('howTheyBehave')}
            </Link>
          </li>
        </ul>
      </div>
      <p className="stand-in-note">{t('theseStandInForThe')}</p>
      {kind === 'phones' && <Phones number={box} />}
      {kind === 'machine' && <HooksTaken />}
      {kind === 'moods' && <Moods />}
      {!OTHERS.has(kind) && <Mailboxes address={box} mail={mail} />}
    </main>
  );
}

function Mailboxes({ address, mail }: { address: string | null; mail: string | null }) {
  const boxes = useMailboxes();
  return (
    <Loaded query={boxes} what={t('theMailboxes')}>
      {(known) =>
        known.length === 0 ? (
          <Empty title={t('noMailYet')}>
            <p>{t('theFirstMessageByEmail')}</p>
          </Empty>
        ) : (
          <div className="stand-in">
            <ul className="plain-list boxes">
              {known.map((one) => (
                <li key={one.address} className={one.address === address ? 'is-open' : ''}>
                  <Link to={`/stand-ins/mail/${encodeURIComponent(one.address)}`}>{one.address}</Link>
                  <span className="quiet num">{one.mails}</span>
                </li>
              ))}
            </ul>
            {address === null && <p className="quiet">{t('chooseAMailbox')}</p>}
            {address !== null && mail === null && <Mailbox address={address} />}
            {address !== null && mail !== null && <OneMail address={address} id={mail} />}
          </div>
        )
      }
    </Loaded>
  );
}

function Mailbox({ address }: { address: string }) {
  const mails = useMailbox(address);
  return (
    <div>
      <h2>{address}</h2>
      <Loaded query={mails} what={t('theMailbox')}>
        {(known) => (
          <ol className="log mt-2">
            {known.map((mail) => (
              <li key={mail.id} className="log-row" style={{ gridTemplateColumns: '6rem 0 minmax(0, 1fr)' }}>
                <Time at={mail.receivedAt} />
                <span />
                <div>
                  <Link className="cover" to={`/stand-ins/mail/${encodeURIComponent(address)}/${mail.id}`}>
                    <span style={{ fontWeight: 600 }}>{mail.subject}</span>
                  </Link>
                  <div className="below">{mail.sender}</div>
                </div>
              </li>
            ))}
          </ol>
        )}
      </Loaded>
    </div>
  );
}

const FORMS = ['html', 'plain', 'raw'] as const;

function OneMail({ address, id }: { address: string; id: string }) {
  const mail = useMail(address, id);
  const [form, setForm] = useState<(typeof FORMS)[number]>('html');
  return (
    <Loaded query={mail} what={t('theMail')}>
      {(known) => {
        const shown = known.html === null && form === 'html' ? 'plain' : form;
        return (
          <div>
            <p className="crumbs">
              <Link to={`/stand-ins/mail/${encodeURIComponent(address)}`}>{address}</Link>
            </p>
            <h2>{known.subject}</h2>
            <p className="quiet small">
              {t.rich('from', { sender: known.sender, time: <Time at={known.receivedAt} full /> })}
            </p>
            <div className="tabs mt-2 mb-2" role="tablist">
              {FORMS.filter((one) => one !== 'html' || known.html !== null).map((one) => (
                <button key={one} type="button" role="tab" aria-selected={shown === one} onClick={() => setForm(one)}>
                  {t(`form.${one}`)}
                </button>
              ))}
            </div>
            {shown === 'html' && (
              <MailFrame
                title={t('mail', { subject: known.subject })}
                html={(known.html ?? '').replace('<head>', '<head><base target="_top">')}
                isOpen
              />
            )}
            {shown === 'plain' && (
              <pre className="mail-source">
                <Linked text={known.text} />
              </pre>
            )}
            {shown === 'raw' && <pre className="mail-source">{known.source}</pre>}
          </div>
        );
      }}
    </Loaded>
  );
}

/** Text whose web addresses can be pressed. */
function Linked({ text }: { text: string }) {
  return (
    <>
      {text.split(/(https?:\/\/[^\s]+)/).map((part, at) =>
        at % 2 === 1 ? (
          <a key={`${at} ${part}`} href={part}>
            {part}
          </a>
        ) : (
          part
        ),
      )}
    </>
  );
}

function Phones({ number }: { number: string | null }) {
  const phones = usePhones();
  const { me } = useViewer();
  return (
    <Loaded query={phones} what={t('thePhones')}>
      {(known) =>
        known.length === 0 ? (
          <Empty title={t('noTextYet')}>
            <p>{t('theFirstMessageByText')}</p>
          </Empty>
        ) : (
          <div className="stand-in">
            <ul className="plain-list boxes">
              {known.map((one) => (
                <li key={one.number} className={one.number === number ? 'is-open' : ''}>
                  <Link to={`/stand-ins/phones/${encodeURIComponent(one.number)}`}>{one.number}</Link>
                  <span className="quiet num">{one.texts}</span>
                </li>
              ))}
            </ul>
            {number === null ? (
              <p className="quiet">{t('chooseAPhone')}</p>
            ) : (
              <Phone key={`${number} ${me.id}`} number={number} />
            )}
          </div>
        )
      }
    </Loaded>
  );
}

function Phone({ number }: { number: string }) {
  const texts = usePhone(number);
  const answer = useAnswerText(number);
  const sending = useSending({
    start: { words: '' },
    shape: saySchema,
    send: ({ words }) => answer.mutateAsync(words),
    onSent: () => sending.form.reset(),
  });
  return (
    <div>
      <h2>{number}</h2>
      <SendForm sending={sending} className="text-answer">
        <TextField
          sending={sending}
          name="words"
          label={t('answerFromThisTelephone')}
          isBare
          placeholder={t('answerFromThisTelephone')}
        />
        <Button type="submit" variant="outline-primary" disabled={sending.isPending}>
          {t('send')}
        </Button>
      </SendForm>
      <Refused sending={sending} />
      <Loaded query={texts} what={t('thePhone')}>
        {(known) => (
          <ol className="plain-list mt-3" style={{ display: 'grid', gap: '1.1rem' }}>
            {known.map((text) => {
              const { alphabet, units, count } = segmentsOf(text.body);
              return (
                <li key={text.id} className={text.isAnswer ? 'is-answer' : ''}>
                  <div className={`text-bubble${text.isAnswer ? ' is-answer' : ''}`}>
                    <Linked text={text.body} />
                  </div>
                  <p className="small quiet mt-1">
                    {t.rich('signsOfSegments', { time: <Time at={text.receivedAt} />, units, alphabet, count })}
                  </p>
                </li>
              );
            })}
          </ol>
        )}
      </Loaded>
    </div>
  );
}
