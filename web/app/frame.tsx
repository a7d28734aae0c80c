import { lazy, type ReactNode, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { Dropdown } from 'react-bootstrap';
import { NavLink, useNavigate } from 'react-router';
import { forgetDrafts, hasDrafts, Logo, useKeys, useViewer, roleName } from '../parts/index.ts';
import { useSignOut, useSpeak } from '../queries/index.ts';
import { ConnectionNote } from './connection.tsx';
import { SlowWord } from './slow-word.tsx';
import { useEvents } from './events.ts';
import { chooseTheme, chosenTheme, THEMES, type Theme } from './theme.ts';
import { t } from '../words/app.ts';
import { LANGUAGE_NAMES, LANGUAGES, languageOf } from '../../core/locales/index.ts';

/** Where the box that finds will stand; it stays empty where that does not come. */
const NoFindBox = () => <search className="find" />;
// Nobody looks for something before there is a page.
const FindBox = lazy(() =>
  import('./find.tsx').then(
    (module) => ({ default: module.FindBox }),
    () => ({ default: NoFindBox }),
  ),
);

// Dialogs come when they are asked for.
const KeysHelp = lazy(() => import('./dialogs.tsx').then((module) => ({ default: module.KeysHelp })));
const LeaveTyped = lazy(() => import('./dialogs.tsx').then((module) => ({ default: module.LeaveTyped })));

const places = () => [
  { path: '/today', name: t('today') },
  { path: '/inbox', name: t('inbox') },
  { path: '/rules', name: t('rules') },
  { path: '/sources', name: t('sources') },
  { path: '/trail', name: t('trail') },
  { path: '/outbox', name: t('outbox') },
  { path: '/people', name: t('people') },
];
/** So many places stand below a narrow page; the others are in one's menu. */
const ON_PHONE = 5;
const themeWords = (): Record<Theme, string> => ({ system: t('lightOrDarkAsThe'), light: t('light'), dark: t('dark') });

/** Navigation along the top, the page below it. */
export function Frame({ children }: { children: ReactNode }) {
  const { me } = useViewer();
  const [isHelpOpen, setHelpOpen] = useState(false);
  useEvents();
  useGoKeys(useCallback(() => setHelpOpen(true), []));
  useEffect(() => {
    document.title = me.unread > 0 ? `(${me.unread}) Ojo` : 'Ojo';
  }, [me.unread]);
  return (
    <>
      <a className="skip" href="#page">
        {t('skipToThePage')}
      </a>
      <header className="frame-bar">
        <NavLink to="/today" className="logo" aria-label={t('ojoToWhatIsNew')}>
          <Logo />
        </NavLink>
        <nav aria-label={t('places')}>
          {places().map(({ path, name }) => (
            <NavLink key={path} to={path}>
              {name}
              {path === '/inbox' && me.unread > 0 && (
                <span className="count">
                  <span className="visually-hidden">{t('unread')} </span>
                  {me.unread > 999 ? '999+' : me.unread}
                </span>
              )}
            </NavLink>
          ))}
        </nav>
        <Suspense fallback={<NoFindBox />}>
          <FindBox />
        </Suspense>
        <MyMenu onKeys={() => setHelpOpen(true)} />
      </header>
      <ConnectionNote />
      <SlowWord />
      <div id="page">{children}</div>
      <nav className="frame-foot" aria-label={t('placesBelow')}>
        {places()
          .slice(0, ON_PHONE)
          .map(({ path, name }) => (
            <NavLink key={path} to={path}>
              {name}
              {path === '/inbox' && me.unread > 0 ? ` ${me.unread > 99 ? '99+' : me.unread}` : ''}
            </NavLink>
          ))}
      </nav>
      {isHelpOpen && (
        <Suspense fallback={null}>
          <KeysHelp onClose={() => setHelpOpen(false)} />
        </Suspense>
      )}
    </>
  );
}

/** The figures go to the places as they stand in the bar. */
function useGoKeys(onHelp: () => void): void {
  const navigate = useNavigate();
  useKeys(
    useMemo(() => {
      const goes = places().map(({ path }, at): [string, () => void] => [String(at + 1), () => void navigate(path)]);
      return { ...Object.fromEntries(goes), h: onHelp };
    }, [navigate, onHelp]),
  );
}

function MyMenu({ onKeys }: { onKeys: () => void }) {
  const { me } = useViewer();
  const signOut = useSignOut();
  const speak = useSpeak();
  const navigate = useNavigate();
  const [theme, setTheme] = useState(chosenTheme);
  const [isAsking, setAsking] = useState(false);
  const leave = () => {
    forgetDrafts(me.id);
    signOut.mutate();
  };
  const initials = me.name
    .split(/\s+/)
    .filter(Boolean)
    .map((part) => part[0])
    .slice(0, 2)
    .join('');
  return (
    <Dropdown className="me" align="end">
      <Dropdown.Toggle aria-label={t('yourMenu', { name: me.name })}>{initials}</Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.Header>
          <strong>{me.name}</strong>
          <br />
          {me.title}, {roleName(me.role)}
        </Dropdown.Header>
        <Dropdown.Divider />
        <Dropdown.Item as="button" onClick={() => navigate('/plan')}>
          {t('deliveryPlan')}
        </Dropdown.Item>
        {places()
          .slice(ON_PHONE)
          .map(({ path, name }) => (
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
            {themeWords()[one]}
          </Dropdown.Item>
        ))}
        <Dropdown.Divider />
        {LANGUAGES.map((one) => (
          <Dropdown.Item
            key={one}
            as="button"
            lang={one}
            active={false}
            aria-pressed={languageOf(me.locale) === one}
            onClick={() => speak.mutate(one)}
          >
            {languageOf(me.locale) === one ? '● ' : '○ '}
            {LANGUAGE_NAMES[one]}
          </Dropdown.Item>
        ))}
        <Dropdown.Divider />
        <Dropdown.Item as="button" onClick={() => navigate('/signing-in')}>
          {t('signingIn')}
        </Dropdown.Item>
        <Dropdown.Item as="button" onClick={() => navigate('/programs')}>
          {t('programs')}
        </Dropdown.Item>
        {me.role === 'steward' && (
          <Dropdown.Item as="button" onClick={() => navigate('/audit')}>
            {t('auditTrail')}
          </Dropdown.Item>
        )}
        {me.role === 'steward' && (
          <Dropdown.Item as="button" onClick={() => navigate('/running')}>
            {t('howOjoRuns')}
          </Dropdown.Item>
        )}
        {me.isDemo && (
          <Dropdown.Item as="button" onClick={() => navigate('/stand-ins/mail')}>
            {t('standInMailboxesAndPhones')}
          </Dropdown.Item>
        )}
        <Dropdown.Item as="button" onClick={onKeys}>
          {t('keysThatWorkHere')}
        </Dropdown.Item>
        <Dropdown.Item as="button" onClick={() => (hasDrafts(me.id) ? setAsking(true) : leave())}>
          {t('signOut')}
        </Dropdown.Item>
      </Dropdown.Menu>
      {isAsking && (
        <Suspense fallback={null}>
          <LeaveTyped onStay={() => setAsking(false)} onLeave={leave} />
        </Suspense>
      )}
    </Dropdown>
  );
}
