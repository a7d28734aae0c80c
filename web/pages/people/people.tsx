import { useCallback } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useParams } from 'react-router';
import type { HearsPage, PersonRow } from '../../../contract/wire/index.ts';
import { paceWords, rulePath } from '../../../core/messages/index.ts';
import {
  Loaded,
  ProblemNote,
  ShareRead,
  Sheet,
  UrgencyBar,
  useListKeys,
  useNotice,
  useViewer,
  reasonPhrase,
  roleName,
} from '../../parts/index.ts';
import { useHears, useLeaveOut, usePeople } from '../../queries/index.ts';
import { Contacts } from './contacts.tsx';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/people.ts';

/** Who there is, how much each hears and reads; one in focus with everything they hear. */
export function PeoplePage() {
  const { person: open = null } = useParams();
  const navigate = useNavigate();
  const people = usePeople();
  const onOpen = useCallback((person: string) => void navigate(`/people/${encodeURIComponent(person)}`), [navigate]);
  const onClose = useCallback(() => void navigate('/people'), [navigate]);
  useListKeys(people.data?.map((person) => person.id) ?? [], open, onOpen);
  return (
    <div className={`with-sheet${open ? ' is-open' : ''}`}>
      <main className="page">
        <div className="page-head">
          <h1>{t('people')}</h1>
          <span className="quiet">{t('whatEachHearsAndHow')}</span>
        </div>
        <Loaded query={people} what={t('thePeople')} rows={9}>
          {(rows) => <PeopleTable rows={rows} open={open} />}
        </Loaded>
        <Contacts />
      </main>
      {open && <PersonSheet id={open} onClose={onClose} />}
    </div>
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
                {person.title}
                {person.role !== 'member' && `, ${roleName(person.role)}`}
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

function PersonSheet({ id, onClose }: { id: string; onClose: () => void }) {
  const { person, directory } = useViewer();
  const hears = useHears(id);
  return (
    <Sheet label={t('thePersonInFocus')} name={id} onClose={onClose}>
      <p className="quiet small">{directory.people.find((one) => one.id === id)?.title}</p>
      <h2>{person(id)}</h2>
      <Loaded query={hears} what={t('whatTheyHear')} rows={5}>
        {(page) => <Hears page={page} />}
      </Loaded>
    </Sheet>
  );
}

function Hears({ page }: { page: HearsPage }) {
  const viewer = useViewer();
  const notice = useNotice();
  const leaveOut = useLeaveOut();
  const isMe = page.person === viewer.me.id;
  const told = page.hears.reduce((sum, row) => sum + row.told, 0);
  if (page.hears.length === 0)
    return (
      <p className="mt-2 quiet">
        {isMe ? t('noLiveRuleTellsYou') : t('noLiveRuleTellsThem')} <Link to="/rules/new">{t('makeOne')}</Link>
      </p>
    );
  const leave = (rule: HearsPage['hears'][number]['rule']) =>
    leaveOut.mutate(
      { rule: rule.id, person: page.person },
      {
        onSuccess: () =>
          notice({
            words: t('anEditOfLeavesOut', { name: rule.name, person: viewer.person(page.person) }),
          }),
      },
    );
  return (
    <>
      <p className="mt-1">
        <strong>{t('messagesInDays', { told, days: page.days })}</strong>{' '}
        <span className="quiet">{t('byRules', { hears: page.hears.length })}</span>
      </p>
      {leaveOut.error && <ProblemNote error={leaveOut.error} />}
      <ul className="plain-list person-hears">
        {page.hears.map((row) => {
          const source = viewer.source(row.rule.scope.sources[0] ?? '');
          return (
            <li key={row.rule.id}>
              <UrgencyBar urgency={row.rule.urgency} />
              <div>
                <Link to={rulePath(row.rule.id)}>{row.rule.name}</Link>
                {row.isPaused && <strong> {t('paused')}</strong>}
                <div className="small quiet">
                  {source && row.reasons.length > 0
                    ? row.reasons.map((reason) => reasonPhrase(reason, viewer, source)).join(', ')
                    : t('reachedBeforeAndNotAs')}
                </div>
                <div className="small quiet">{paceWords(row.rule.pace, phrases())}</div>
                {row.mayEdit && !isMe && (
                  <Button variant="link" size="sm" onClick={() => leave(row.rule)}>
                    {t('leaveThemOut')}
                  </Button>
                )}
              </div>
              <span className="num mono">{row.told}</span>
              <ShareRead told={row.told} read={row.read} />
            </li>
          );
        })}
      </ul>
    </>
  );
}
