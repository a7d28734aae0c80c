import { Button } from 'react-bootstrap';
import type { ContactRow } from '../../../contract/wire/index.ts';
import { ProblemNote, Time, useNotice, useViewer } from '../../parts/index.ts';
import { useAskContact, useContacts, useRules } from '../../queries/index.ts';

/** Outside addresses: which have said yes, which were asked and when, and what was withheld meanwhile. */
export function Contacts() {
  const { me } = useViewer();
  const contacts = useContacts(me.role !== 'member');
  if (!contacts.data || contacts.data.length === 0) return null;
  const waiting = contacts.data.filter((one) => !one.isConfirmed && one.left !== 'all').length;
  return (
    <>
      <h2 className="mt-4">Outside</h2>
      <p className="quiet small">
        People without an account. Nothing is sent to them before they have said yes.
        {waiting > 0 && ` ${waiting === 1 ? 'One has' : `${waiting} have`} not yet.`}
      </p>
      <table className="people-table is-contacts">
        <thead>
          <tr>
            <th scope="col">who</th>
            <th scope="col">may they be written to</th>
            <th scope="col" className="num">
              withheld in 30 days
            </th>
            <th scope="col">
              <span className="visually-hidden">what to do</span>
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
                onSuccess: () => notice({ words: `${contact.name} is asked ${contact.times > 0 ? 'again' : 'now'}.` }),
              })
            }
          >
            {contact.times > 0 ? 'Ask again' : 'Ask now'}
          </Button>
        )}
      </td>
    </tr>
  );
}

function Standing({ contact }: { contact: ContactRow }) {
  const rules = useRules();
  const nameOf = (id: string) => (rules.data ?? []).find((row) => row.id === id)?.live?.name ?? id;
  if (contact.left === 'all') return <span>no: they want nothing</span>;
  if (!contact.isConfirmed)
    return contact.askedAt ? (
      <span className="fault">
        not confirmed; asked <Time at={contact.askedAt} />
        {contact.times > 1 && `, ${contact.times} times`}
      </span>
    ) : (
      <span className="fault">not confirmed, and not asked yet</span>
    );
  return (
    <span className="live">
      yes
      {contact.left.length > 0 && (
        <span className="quiet">, but left {contact.left.map((id) => `“${nameOf(id)}”`).join(', ')}</span>
      )}
    </span>
  );
}
