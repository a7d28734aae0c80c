import { useDeferredValue, useMemo, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { checkMessage } from '../../../../core/messages/index.ts';
import { checkRule, type Rule } from '../../../../core/rules/index.ts';
import { RuleState, Time, useNotice, useViewer, editedParts, nameFor, worldFrom } from '../../../parts/index.ts';
import {
  type Days,
  problemOf,
  useCost,
  useCreateRule,
  useDropDraft,
  useEditing,
  usePutLive,
  useTry,
} from '../../../queries/index.ts';
import { startsFor } from './rule-starts.ts';
import { Clash } from './clash.tsx';
import { CostFunnel, CostStrip, DaysChoice } from '../trial/cost.tsx';
import { useHistory } from './history.ts';
import { useKept } from './kept.ts';
import { Suggestions } from '../trial/suggestions.tsx';
import { LiveActs, MoreActs } from './rule-acts.tsx';
import { Sentences } from './sentences.tsx';
import { TryView } from '../trial/try-view.tsx';
import { Versions } from './versions.tsx';
import { t } from '../../../words/rule.ts';
import { phrases } from '../../../words/index.ts';

/** The bench a rule is made on: its sentences, what they would cost, and the way live. Edits of a live rule gather beside it. */
export function Bench({ row, first, mayStart }: { row: RuleRow | null; first: Rule; mayStart: boolean }) {
  const viewer = useViewer();
  const navigate = useNavigate();
  const notice = useNotice();
  const [search, setSearch] = useSearchParams();
  const history = useHistory(first);
  const { value: rule, set: setRule } = history;
  const [isTried, setTried] = useState(false);
  const [why, setWhy] = useState('');
  const [days, setDays] = useState<Days>(30);
  const create = useCreateRule();
  const live = usePutLive();
  const drop = useDropDraft();
  const world = useMemo(() => worldFrom(viewer.directory), [viewer.directory]);
  const source = viewer.source(rule.scope.sources[0] ?? '');
  const named = rule.name.trim() === '' ? { ...rule, name: nameFor(rule, viewer) } : rule;
  const faults = useMemo(() => [...checkRule(rule, world), ...checkMessage(rule, world.sources)], [rule, world]);
  const isSound = faults.length === 0;
  const isCountable = faults.every((fault) => fault.code === 'nobodyHears');
  const isFixed = row !== null && (!row.mayEdit || row.state === 'ended');
  const kept = useKept(row, named, isSound && rule.name.trim() !== '', history.begin);
  const settledRule = useDeferredValue(rule);
  const cost = useCost(settledRule, days, isCountable);
  const on = { change: search.get('change'), person: search.get('person') };
  const tried = useTry(settledRule, on, isCountable);
  const others = useEditing(row && !isFixed ? row.id : null);
  if (!source) return null;

  const edited = row?.live ? editedParts(rule, row.live) : [];
  const hasEdits = edited.length > 0;
  const failure = create.error ?? live.error ?? drop.error ?? kept.error;
  const see = (more: Record<string, string | null>) =>
    setSearch((now) => {
      const next = new URLSearchParams(now);
      for (const [key, value] of Object.entries(more))
        if (value === null) next.delete(key);
        else next.set(key, value);
      return next;
    });

  const putLive = async (isSure = false) => {
    setTried(true);
    if (!isSound) return;
    const known = row ?? (await create.mutateAsync(named));
    const revision = row ? await kept.settle() : known.draftRevision;
    const done = await live.mutateAsync({ id: known.id, revision, isSure, why: why.trim() || null });
    if (done.live) history.begin(done.live);
    kept.follow(done);
    setWhy('');
    notice({ words: row?.state === 'live' ? t('theEditsAreLive') : t('isLive', { name: named.name }) });
    if (row) see({ compare: null });
    else void navigate(`/rules/${known.id}`, { replace: true });
  };
  const keepDraft = async () => {
    setTried(true);
    if (!isSound) return;
    const made = await create.mutateAsync(named);
    notice({ words: t('isKeptAsADraft', { name: named.name }) });
    void navigate(`/rules/${made.id}`, { replace: true });
  };
  const dropEdits = async () => {
    if (!row) return void navigate('/rules');
    await drop.mutateAsync(row.id);
    if (!row.live) return void navigate('/rules');
    history.begin(row.live);
    kept.forget();
    notice({ words: t('theEditsAreDroppedWhat') });
  };
  const run = (act: () => Promise<unknown>) => () => void act().catch(() => undefined);
  const isBusy = create.isPending || live.isPending || drop.isPending;
  const isTrying = search.has('try');
  const starts = mayStart && !history.mayUndo ? startsFor(rule, source) : [];

  return (
    <main className="page">
      <p className="crumbs">
        <Link to="/rules">{t('rules')}</Link> / <Link to={`/sources/${source.id}`}>{source.name}</Link>
      </p>
      <div className="page-head">
        <div style={{ flex: '1 1 20rem', minWidth: 0 }}>
          <h1 className="visually-hidden">{named.name}</h1>
          <input
            className="name-input"
            aria-label={t('theRulesName')}
            placeholder={nameFor(rule, viewer)}
            value={rule.name}
            maxLength={120}
            readOnly={isFixed}
            onChange={(event) => setRule({ ...rule, name: event.target.value })}
          />
          <div className="state-line">
            <StateLine row={row} edited={edited.length} />
            {row && row.version > 0 && (
              <button
                type="button"
                className="btn btn-link"
                aria-expanded={search.has('compare')}
                onClick={() => see({ compare: search.has('compare') ? null : '1' })}
              >
                {hasEdits ? t('compare') : t('versionsLower')}
              </button>
            )}
          </div>
        </div>
        <div className="acts">
          {!isFixed && (
            <>
              <Button variant="quiet" disabled={!history.mayUndo} title="Ctrl+Z" onClick={history.undo}>
                {t('undo')}
              </Button>
              <Button variant="quiet" disabled={!history.mayRedo} title="Ctrl+Y" onClick={history.redo}>
                {t('redo')}
              </Button>
            </>
          )}
          {!isFixed && (hasEdits || !row || row.state === 'draft') && (
            <Button variant="quiet" disabled={isBusy} onClick={run(dropEdits)}>
              {!row ? t('leaveIt') : row.state === 'draft' ? t('throwTheDraftAway') : t('dropEdits')}
            </Button>
          )}
          {row && <MoreActs row={row} rule={named} />}
          {!isTrying && (
            <Button variant="outline-primary" onClick={() => see({ try: '1' })}>
              {t('tryOnAPastChange')}
            </Button>
          )}
          {!isFixed && !row && (
            <Button variant="outline-primary" disabled={isBusy} onClick={run(keepDraft)}>
              {t('keepAsADraft')}
            </Button>
          )}
          {row && !hasEdits && <LiveActs row={row} />}
          {!isFixed && (row?.state !== 'live' || hasEdits) && (
            <Button disabled={isBusy} onClick={run(() => putLive())}>
              {isBusy ? t('oneMoment') : row?.state === 'live' ? t('putEditsLive') : t('putItLive')}
            </Button>
          )}
        </div>
      </div>
      {(others.data ?? []).length > 0 && (
        <p className="wash mt-2">
          {t('thisRuleOpenAsWell', {
            people: phrases().and((others.data ?? []).map(viewer.person)),
            count: (others.data ?? []).length,
          })}
        </p>
      )}
      {failure && (
        <div className="mt-3">
          <Clash
            error={failure}
            onTheirs={(draft, revision) => {
              setRule(draft);
              kept.follow({ ...(row as RuleRow), draft, draftRevision: revision });
            }}
            onSure={problemOf(failure).code === 'secondLook' ? run(() => putLive(true)) : undefined}
          />
        </div>
      )}
      {row && search.has('compare') && (
        <Versions
          row={row}
          rule={rule}
          edited={edited}
          why={why}
          onWhy={setWhy}
          onBringBack={isFixed ? undefined : (document) => setRule({ ...document, owner: rule.owner })}
        />
      )}
      {isTrying ? (
        <TryView
          rule={rule}
          source={source}
          tried={tried}
          onBack={() => see({ try: null, change: null, person: null })}
          onChoose={(change) => see({ change })}
          onPerson={(person) => see({ person })}
          onLeaveOut={isFixed ? undefined : (person) => setRule({ ...rule, except: [...rule.except, { person }] })}
        />
      ) : (
        <>
          {starts.length > 0 && (
            <nav className="starts" aria-label={t('startingPoints')}>
              <span className="quiet small">{t('startFrom')}</span>
              {starts.map((start) => (
                <button key={start.words} type="button" className="chip is-adding" onClick={() => setRule(start.rule)}>
                  {start.words}
                </button>
              ))}
            </nav>
          )}
          <div className="bench">
            <Sentences
              rule={rule}
              source={source}
              faults={isTried ? faults : faults.filter((fault) => fault.code !== 'nobodyHears')}
              edited={edited}
              isFixed={isFixed}
              onChange={setRule}
              tried={tried.data}
            />
            <div>
              <DaysChoice days={days} onChange={setDays} />
              <CostFunnel cost={cost} rule={rule} />
              {!isFixed && (
                <Suggestions
                  rule={settledRule}
                  cost={cost.data}
                  days={days}
                  isWanted={search.has('suggestion')}
                  onTake={setRule}
                />
              )}
            </div>
          </div>
          <CostStrip cost={cost} />
        </>
      )}
    </main>
  );
}

function StateLine({ row, edited }: { row: RuleRow | null; edited: number }) {
  const { person } = useViewer();
  if (!row)
    return (
      <>
        <RuleState state="draft" />
        <span className="quiet">{t('notKeptYet')}</span>
      </>
    );
  return (
    <>
      <RuleState state={row.state} />
      {row.state === 'live' && (
        <span className="quiet">
          {t.rich('versionSince', { version: row.version, time: row.liveFrom && <Time at={row.liveFrom} /> })}
        </span>
      )}
      {row.state === 'ended' && (
        <span className="quiet">{t.rich('since', { time: row.liveUntil && <Time at={row.liveUntil} /> })}</span>
      )}
      {row.isPaused && row.state === 'live' && (
        <strong>
          {t('paused')}
          {row.kept > 0 && t('kept', { kept: row.kept })}
        </strong>
      )}
      <span className="quiet">{t('of', { person: person(row.owner) })}</span>
      {edited > 0 && <mark>{t('editsNotLiveYet', { edited })}</mark>}
    </>
  );
}
