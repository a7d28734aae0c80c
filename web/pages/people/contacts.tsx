import { Button } from 'react-bootstrap';
import type { ContactRow } from '../../../contract/wire/index.ts';
import { ProblemNote, Time, useNotice, useViewer } from '../../parts/index.ts';
import { useAskContact, useContacts, useRules } from '../../queries/index.ts';
import { t } from '../../words/people.ts';

/** Outside addresses: which have said yes, which were asked and when, and what was withheld meanwhile. */
export function Contacts() {
  const { me } = useViewer();
  const contacts = useContacts(me.role !== 'member');
  if (!contacts.data || contacts.data.length === 0) return null;
  const waiting = contacts.data.filter((one) => !one.isConfirmed && one.left !== 'all').length;
  return (
    <>
      <h2 className="mt-4">{t('outside')}</h2>
      <p className="quiet small">
        {t('peopleWithoutAnAccountNothing')}
        {waiting > 0 && ` ${t('haveNotYet', { waiting })}`}
      </p>
      <table className="people-table">
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

function Row({ contact }: { contact: ContactRow }) {
  const ask = useAskContact();
  const notice = useNotice();
  const isOpen = !contact.isConfirmed && contact.left !== 'all';
  return (
    <tr>
      <td>
        <span className="title">{contact.name}</span>{' '}
        {contact.email !== contact.name && <span className="quiet small wrap-anywhere">{contact.email}</span>}
      </td>
      <td>
        <Standing contact={contact} />
        {ask.error && <ProblemNote error={ask.error} />}
      </td>
      <td className="num">{contact.withheld}</td>
      <td>
        {isOpen && (
          <Button
            variant="link"
            size="sm"
            disabled={ask.isPending}
            onClick={() =>
              ask.mutate(contact.id, {
                onSuccess: () =>
                  notice({ words: t(contact.times > 0 ? 'isAskedAgain' : 'isAskedNow', { name: contact.name }) }),
              })
            }
          >
            {contact.times > 0 ? t('askAgain') : t('askNow')}
          </Button>
        )}
      </td>
    </tr>
  );
}

function Standing({ contact }: { contact: ContactRow }) {
  const rules = useRules();
  const nameOf = (id: string) => (rules.data ?? []).find((row) => row.id === id)?.live?.name ?? id;
  if (contact.left === 'all') return <span>{t('noTheyWantNothing')}</span>;
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
