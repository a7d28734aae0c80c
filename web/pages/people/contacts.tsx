import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { type ContactRow, contactSchema } from '../../../contract/wire/index.ts';
import { Ends, Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { ProblemNote, Time, useDraftKey, useNotice, useViewer } from '../../parts/index.ts';
import {
  useAddContact,
  useAskContact,
  useContacts,
  useDropContact,
  useRenameContact,
  useRules,
} from '../../queries/index.ts';
import { t } from '../../words/people.ts';

/** Outside addresses: which have said yes, which were asked and when, and what was withheld meanwhile. */
export function Contacts() {
  const { me } = useViewer();
  const contacts = useContacts(me.role !== 'member');
  const [isAdding, setAdding] = useState(false);
  if (!contacts.data) return null;
  const waiting = contacts.data.filter((one) => !one.isConfirmed && one.left !== 'all').length;
  return (
    <>
      <p className="quiet mt-3">
        {t('peopleWithoutAnAccountNothing')}
        {waiting > 0 && ` ${t('haveNotYet', { waiting })}`}
      </p>
      {isAdding ? (
        <AddContact onDone={() => setAdding(false)} />
      ) : (
        <Button variant="outline-primary" size="sm" className="mt-2 mb-3" onClick={() => setAdding(true)}>
          {t('addContact')}
        </Button>
      )}
      {contacts.data.length === 0 && <p className="quiet">{t('nobodyOutside')}</p>}
      <table className="people-table" hidden={contacts.data.length === 0}>
        <thead>
          <tr>
            <th scope="col">{t('who')}</th>
            <th scope="col">{t('mayTheyBeWrittenTo')}</th>
            <th scope="col" className="num">
              {t('withheldIn30Days')}
            </th>
            <th scope="col">
              <span className="visually-hidden">{t('whatToDo')}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {contacts.data.map((contact) => (
            <Row key={contact.id} contact={contact} />
          ))}
        </tbody>
      </table>
    </>
  );
}

/** Somebody outside, whom Ojo asks before anything else goes there. */
function AddContact({ onDone }: { onDone: () => void }) {
  const add = useAddContact();
  const notice = useNotice();
  const sending = useSending({
    shape: contactSchema,
    start: { name: '', email: '' },
    draft: useDraftKey('contact.new'),
    send: async (read) => {
      await add.mutateAsync(read);
      return read.name;
    },
    onSent: (name) => {
      notice({ words: t('isAdded', { name }) });
      onDone();
    },
  });
  return (
    <SendForm sending={sending} className="group-editor">
      <div className="two-fields">
        <TextField sending={sending} name="name" label={t('nameOfContact')} autoFocus />
        <TextField
          sending={sending}
          name="email"
          type="email"
          label={t('addressOfContact')}
          hint={t('theyAreAskedFirst')}
        />
      </div>
      <Refused sending={sending} />
      <Ends sending={sending} words={t('addAndAsk')} leave={t('leaveIt')} onLeave={onDone} />
    </SendForm>
  );
}

const nameShape = contactSchema.pick({ name: true });

function Rename({ contact, onDone }: { contact: ContactRow; onDone: () => void }) {
  const rename = useRenameContact(contact.id);
  const sending = useSending({
    shape: nameShape,
    start: { name: contact.name },
    send: rename.mutateAsync,
    onSent: onDone,
  });
  return (
    <SendForm sending={sending}>
      <TextField sending={sending} name="name" label={t('renameNamed', { name: contact.name })} isBare autoFocus />
      <Refused sending={sending} />
      <Ends sending={sending} words={t('keepName')} leave={t('leaveIt')} onLeave={onDone} />
    </SendForm>
  );
}

/** What can be done with somebody outside whom the house knows. */
function ContactActs({ contact, onRename }: { contact: ContactRow; onRename: () => void }) {
  const { directory } = useViewer();
  const drop = useDropContact(contact.id);
  const notice = useNotice();
  if (!directory.contacts.some(({ id }) => id === contact.id)) return null;
  return (
    <>
      <Button variant="link" size="sm" aria-label={t('renameNamed', { name: contact.name })} onClick={onRename}>
        {t('rename')}
      </Button>
      <Button
        variant="link"
        size="sm"
        aria-label={t('takeAwayNamed', { name: contact.name })}
        disabled={drop.isPending}
        onClick={() =>
          drop.mutate(undefined, { onSuccess: () => notice({ words: t('isGone', { name: contact.name }) }) })
        }
      >
        {t('takeAway')}
      </Button>
      {drop.error && <ProblemNote error={drop.error} />}
    </>
  );
}

function Row({ contact }: { contact: ContactRow }) {
  const ask = useAskContact();
  const notice = useNotice();
  const [isRenaming, setRenaming] = useState(false);
  const isOpen = (!contact.isConfirmed || contact.cameBack !== null) && contact.left !== 'all';
  return (
    <tr>
      <td>
        {isRenaming ? (
          <Rename contact={contact} onDone={() => setRenaming(false)} />
        ) : (
          <span className="title">{contact.name}</span>
        )}{' '}
        {contact.email !== contact.name && <span className="quiet small wrap-anywhere">{contact.email}</span>}
      </td>
      <td>
        <Standing contact={contact} />
        {ask.error && <ProblemNote error={ask.error} />}
      </td>
      <td className="num">{contact.withheld}</td>
      <td>
        <div className="row-acts">
          {isOpen && (
            <Button
              variant="link"
              size="sm"
              disabled={ask.isPending}
              onClick={() =>
                ask.mutate(contact.id, {
                  onSuccess: () => notice({ words: t(askedWords(contact), { name: contact.name }) }),
                })
              }
            >
              {askWords(contact)}
            </Button>
          )}
          {!isRenaming && <ContactActs contact={contact} onRename={() => setRenaming(true)} />}
        </div>
      </td>
    </tr>
  );
}

const isTriedAgain = ({ isConfirmed, cameBack }: ContactRow): boolean => isConfirmed && cameBack !== null;
function askWords(contact: ContactRow): string {
  if (isTriedAgain(contact)) return t('tryItAgain');
  return contact.times > 0 ? t('askAgain') : t('askNow');
}
function askedWords(contact: ContactRow) {
  if (isTriedAgain(contact)) return 'goesAgain';
  return contact.times > 0 ? 'isAskedAgain' : 'isAskedNow';
}

function Standing({ contact }: { contact: ContactRow }) {
  const rules = useRules();
  const nameOf = (id: string) => (rules.data ?? []).find((row) => row.id === id)?.live?.name ?? id;
  if (contact.left === 'all') return <span>{t('noTheyWantNothing')}</span>;
  if (contact.cameBack)
    return (
      <span className="fault">
        {t.rich('mailCameBack', { time: <Time at={contact.cameBack.since} /> })}{' '}
        <small className="quiet wrap-anywhere">{t('serverSays', { reply: contact.cameBack.reply })}</small>
      </span>
    );
  if (!contact.isConfirmed)
    return contact.askedAt ? (
      <span className="fault">
        {t.rich('notConfirmedAsked', { time: <Time at={contact.askedAt} /> })}
        {contact.times > 1 && t('times', { times: contact.times })}
      </span>
    ) : (
      <span className="fault">{t('notConfirmedAndNotAsked')}</span>
    );
  return (
    <span className="live">
      {t('yes')}
      {contact.left.length > 0 && (
        <span className="quiet">{t('butLeft', { left: contact.left.map((id) => `“${nameOf(id)}”`).join(', ') })}</span>
      )}
    </span>
  );
}
