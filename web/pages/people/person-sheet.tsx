import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { HearsPage } from '../../../contract/wire/index.ts';
import { paceWords, rulePath } from '../../../core/messages/index.ts';
import {
  Loaded,
  ProblemNote,
  reasonPhrase,
  ShareRead,
  Sheet,
  UrgencyBar,
  useNotice,
  useViewer,
} from '../../parts/index.ts';
import { useHears, useLeaveOut } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/people.ts';

/** One person in focus: everything they hear, why, and how much of it they read. */
export function PersonSheet({ id, onClose }: { id: string; onClose: () => void }) {
  const { me, person, directory } = useViewer();
  const hears = useHears(id);
  return (
    <Sheet label={t('thePersonInFocus')} name={id} onClose={onClose}>
      <p className="quiet small">{directory.people.find((one) => one.id === id)?.title}</p>
      <h2>{person(id)}</h2>
      {me.role === 'steward' && (
        <Link className="small" to={`/people/${encodeURIComponent(id)}?do=edit`}>
          {t('editAccount')}
        </Link>
      )}
      <p className="small">
        <Link to={`/trail?why=${encodeURIComponent(id)}`}>{t('whyNotHeard')}</Link>
      </p>
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
