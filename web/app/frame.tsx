import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Dropdown, Modal } from 'react-bootstrap';
import { NavLink, useNavigate } from 'react-router';
import { Logo, useKeys, useViewer } from '../parts/index.ts';
import { useSignOut } from '../queries/index.ts';
import { ConnectionNote } from './connection.tsx';
import { useEvents } from './events.ts';
import { FindBox } from './find.tsx';
import { chooseTheme, chosenTheme, THEMES, type Theme } from './theme.ts';

const PLACES = [
  { path: '/today', name: 'Today', key: 'd' },
  { path: '/inbox', name: 'Inbox', key: 'i' },
  { path: '/rules', name: 'Rules', key: 'r' },
  { path: '/sources', name: 'Sources', key: 's' },
  { path: '/trail', name: 'Trail', key: 't' },
  { path: '/outbox', name: 'Outbox', key: 'o' },
  { path: '/people', name: 'People', key: 'p' },
];
/** So many places stand below a narrow page; the others are in one's menu. */
const ON_PHONE = 5;
const THEME_WORDS: Record<Theme, string> = { system: 'Light or dark as the system', light: 'Light', dark: 'Dark' };
const ROLE_WORDS = { member: 'Member', coordinator: 'Coordinator', steward: 'Steward' };

/** Navigation along the top, the page below it. */
export function Frame({ children }: { children: ReactNode }) {
  const { me } = useViewer();
  const [isHelpOpen, setHelpOpen] = useState(false);
  useEvents();
  useGoKeys(() => setHelpOpen(true));
  useEffect(() => {
    document.title = me.unread > 0 ? `(${me.unread}) Ojo` : 'Ojo';
  }, [me.unread]);
  return (
    <>
      <a className="skip" href="#page">
        Skip to the page
      </a>
      <header className="frame-bar">
        <NavLink to="/today" className="logo" aria-label="Ojo, to what is new today">
          <Logo />
        </NavLink>
        <nav aria-label="Places">
          {PLACES.map(({ path, name }) => (
            <NavLink key={path} to={path}>
              {name}
              {path === '/inbox' && me.unread > 0 && (
                <span className="count">
                  <span className="visually-hidden">, unread: </span>
                  {me.unread > 999 ? '999+' : me.unread}
                </span>
              )}
            </NavLink>
          ))}
        </nav>
        <FindBox />
        <MyMenu onKeys={() => setHelpOpen(true)} />
      </header>
      <ConnectionNote />
      <div id="page">{children}</div>
      <nav className="frame-foot" aria-label="Places, below">
        {PLACES.slice(0, ON_PHONE).map(({ path, name }) => (
          <NavLink key={path} to={path}>
            {name}
            {path === '/inbox' && me.unread > 0 ? ` ${me.unread > 99 ? '99+' : me.unread}` : ''}
          </NavLink>
        ))}
      </nav>
      <KeysHelp isOpen={isHelpOpen} onClose={() => setHelpOpen(false)} />
    </>
  );
}

function useGoKeys(onHelp: () => void): void {
  const navigate = useNavigate();
  const [isGoing, setGoing] = useState(false);
  const keys = useMemo(() => {
    const go = Object.fromEntries(
      PLACES.map(({ path, key }) => [
        key,
        () => {
          setGoing(false);
          void navigate(path);
        },
      ]),
    );
    return isGoing ? go : { g: () => setGoing(true), '?': onHelp };
  }, [isGoing, navigate, onHelp]);
  useKeys(keys);
  useEffect(() => {
    if (!isGoing) return;
    const timer = setTimeout(() => setGoing(false), 1500);
    return () => clearTimeout(timer);
  }, [isGoing]);
}

function MyMenu({ onKeys }: { onKeys: () => void }) {
  const { me } = useViewer();
  const signOut = useSignOut();
  const navigate = useNavigate();
  const [theme, setTheme] = useState(chosenTheme);
  const initials = me.name
    .split(/\s+/)
    .filter(Boolean)
    .map((part) => part[0])
    .slice(0, 2)
    .join('');
  return (
    <Dropdown className="me" align="end">
      <Dropdown.Toggle aria-label={`${me.name}, your menu`}>{initials}</Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.Header>
          <strong>{me.name}</strong>
          <br />
          {me.title}, {ROLE_WORDS[me.role].toLowerCase()}
        </Dropdown.Header>
        <Dropdown.Divider />
        <Dropdown.Item as="button" onClick={() => navigate('/plan')}>
          Delivery plan
        </Dropdown.Item>
        {PLACES.slice(ON_PHONE).map(({ path, name }) => (
          <Dropdown.Item key={path} as="button" className="only-narrow" onClick={() => navigate(path)}>
            {name}
          </Dropdown.Item>
        ))}
        <Dropdown.Divider />
        {THEMES.map((one) => (
          <Dropdown.Item
            key={one}
            as="button"
            active={false}
            aria-pressed={theme === one}
            onClick={() => {
              chooseTheme(one);
              setTheme(one);
            }}
          >
            {theme === one ? '● ' : '○ '}
            {THEME_WORDS[one]}
          </Dropdown.Item>
        ))}
        <Dropdown.Divider />
        {me.isDemo && (
          <Dropdown.Item as="button" onClick={() => navigate('/stand-ins/mail')}>
            Stand-in mailboxes and phones
          </Dropdown.Item>
        )}
        <Dropdown.Item as="button" onClick={onKeys}>
          Keys that work here
        </Dropdown.Item>
        <Dropdown.Item as="button" onClick={() => signOut.mutate()}>
          Sign out
        </Dropdown.Item>
      </Dropdown.Menu>
    </Dropdown>
  );
}

const KEYS: [string, string][] = [
  ['/', 'find anything'],
  ['g d', 'go to Today'],
  ['g i', 'go to the Inbox'],
  ['g r', 'go to Rules'],
  ['g s', 'go to Sources'],
  ['g t', 'go to the Trail'],
  ['g o', 'go to the Outbox'],
  ['g p', 'go to People'],
  ['j  k', 'down and up along a list'],
  ['e', 'in the Inbox: acknowledge'],
  ['x', 'in the Inbox: choose'],
  ['u', 'in the Inbox: unread again'],
  ['Esc', 'close the sheet'],
  ['?', 'this list'],
];

const KeysHelp = ({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) => (
  <Modal show={isOpen} onHide={onClose} aria-labelledby="keys-title" animation={false}>
    <Modal.Header closeButton>
      <Modal.Title id="keys-title" as="h2">
        Keys that work here
      </Modal.Title>
    </Modal.Header>
    <Modal.Body>
      <dl className="keys-list">
        {KEYS.map(([key, words]) => (
          <div key={key} style={{ display: 'contents' }}>
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
    </Modal.Body>
  </Modal>
);
