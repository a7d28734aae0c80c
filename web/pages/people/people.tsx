import { useCallback } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { PersonRow } from '../../../contract/wire/index.ts';
import { Loaded, roleName, ShareRead, Sheet, useListKeys, useViewer } from '../../parts/index.ts';
import { usePeople } from '../../queries/index.ts';
import { t } from '../../words/people.ts';
import { AddAccount, EditAccount } from './account-form.tsx';
import { Contacts } from './contacts.tsx';
import { Groups } from './groups.tsx';
import { Machines } from './machines.tsx';
import { PersonSheet } from './person-sheet.tsx';
import { Starts } from './starts.tsx';

const SEES = ['people', 'groups', 'outside', 'machines', 'starts'] as const;
type Seen = (typeof SEES)[number];

/** Who there is, in which groups, who is told outside, and what everybody starts with; one person in focus. */
export function PeoplePage() {
  const { person: open = null } = useParams();
  const { me } = useViewer();
  const [search] = useSearchParams();
  const seen = SEES.filter((one) => mayKnow(one, me.role)).find((one) => one === search.get('see')) ?? 'people';
  const does = search.get('do');
  const isSteward = me.role === 'steward';
  const navigate = useNavigate();
  const onClose = useCallback(() => void navigate('/people'), [navigate]);
  const isAdding = isSteward && does === 'add' && open === null;
  return (
    <div className={`with-sheet${open || isAdding ? ' is-open' : ''}`}>
      <main className="page">
        <div className="page-head">
          <h1>{t('people')}</h1>
          <span className="quiet">{t('whatEachHearsAndHow')}</span>
          {isSteward && seen === 'people' && (
            <div className="acts">
              <Button variant="outline-primary" onClick={() => void navigate('/people?do=add')}>
                {t('addSomebody')}
              </Button>
            </div>
          )}
        </div>
        {me.role !== 'member' && <PeopleTabs seen={seen} role={me.role} />}
        {seen === 'people' && <Everybody open={open} />}
        {seen === 'groups' && <Groups />}
        {seen === 'outside' && <Contacts />}
        {seen === 'machines' && <Machines />}
        {seen === 'starts' && <Starts />}
      </main>
      {isAdding && (
        <Sheet label={t('addSomebody')} name="add" isForm onClose={onClose}>
          <h2>{t('addSomebody')}</h2>
          <AddAccount onDone={onClose} />
        </Sheet>
      )}
      {open && isSteward && does === 'edit' && <EditAccount key={open} id={open} />}
      {open && !(isSteward && does === 'edit') && <PersonSheet id={open} onClose={onClose} />}
    </div>
  );
}

/** Groups and starting plans are the stewards'; outside addresses are for whoever makes rules for others. */
const mayKnow = (seen: Seen, role: PersonRow['role']): boolean =>
  seen === 'people' || role === 'steward' || (seen === 'outside' && role === 'coordinator');

const PeopleTabs = ({ seen, role }: { seen: Seen; role: PersonRow['role'] }) => (
  <ul className="tabs mt-2">
    {SEES.filter((one) => mayKnow(one, role)).map((one) => (
      <li key={one}>
        <Link
          className={one === seen ? 'active' : ''}
          aria-current={one === seen ? 'page' : undefined}
          to={one === 'people' ? '/people' : `/people?see=${one}`}
        >
          {t(`tab.${one}`)}
        </Link>
      </li>
    ))}
  </ul>
);

function Everybody({ open }: { open: string | null }) {
  const navigate = useNavigate();
  const people = usePeople();
  const onOpen = useCallback((person: string) => void navigate(`/people/${encodeURIComponent(person)}`), [navigate]);
  useListKeys(people.data?.map((person) => person.id) ?? [], open, onOpen);
  return (
    <Loaded query={people} what={t('thePeople')} rows={9}>
      {(rows) => <PeopleTable rows={rows} open={open} />}
    </Loaded>
  );
}

function PeopleTable({ rows, open }: { rows: PersonRow[]; open: string | null }) {
  const { group } = useViewer();
  const sorted = [...rows].sort(
    (a, b) => Number(b.isActive) - Number(a.isActive) || b.told - a.told || a.name.localeCompare(b.name),
  );
  return (
    <table className="people-table">
      <thead>
        <tr>
          <th scope="col">{t('person')}</th>
          <th scope="col" className="groups">
            {t('in')}
          </th>
          <th scope="col" className="num">
            {t('toldIn30Days')}
          </th>
          <th scope="col" className="share-cell">
            {t('ofWhichRead')}
          </th>
        </tr>
      </thead>
      <tbody>
        {sorted.map((person) => (
          <tr key={person.id} data-row={person.id} className={person.id === open ? 'is-open' : ''}>
            <td>
              <Link className="title" to={`/people/${encodeURIComponent(person.id)}`} aria-current={person.id === open}>
                {person.name}
              </Link>{' '}
              <span className="quiet small">
                {[person.title, ...(person.role === 'member' ? [] : [roleName(person.role)])]
                  .filter(Boolean)
                  .join(', ')}
              </span>
              {!person.isActive && <strong className="fault"> {t('noLongerHere')}</strong>}
              {person.isHere && <span className="live small"> {t('inOjoNow')}</span>}
            </td>
            <td className="groups quiet">{person.groups.map((id) => group(id)?.name ?? id).join(', ')}</td>
            <td className="num">{person.told}</td>
            <td className="share-cell">
              <ShareRead told={person.told} read={person.read} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
