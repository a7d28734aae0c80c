import { useEffect, useMemo, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { RuleRow } from '../../contract/api.ts';
import { checkRule, type Rule } from '../../core/rules/index.ts';
import { Empty, Loaded, ProblemNote, RuleState, Time, useNotice, useReading } from '../parts/index.ts';
import { problemOf, useCost, useCreateRule, useDropDraft, useEndRule, useKeepDraft, usePutLive, useRule } from '../queries/index.ts';
import { CostFunnel, CostStrip } from './rule-parts/cost.tsx';
import { Sentences } from './rule-parts/sentences.tsx';
import { editedParts, nameFor, newRule, PARTS, worldFrom } from './rule-words.ts';

/** One rule: its definition as sentences, what it would cost, and its way live. */
export function RulePage() {
  const { rule: id = 'new' } = useParams();
  return id === 'new' ? <NewRule /> : <KnownRule key={id} id={id} />;
}

function NewRule() {
  const [search] = useSearchParams();
  const reading = useReading();
  const wanted = search.get('source') ?? '';
  const source = reading.source(wanted) ?? reading.directory.sources[0];
  if (!source) return <main className="page"><Empty title="No source you may read"><p>A rule looks at a source; a steward opens one to you.</p></Empty></main>;
  return <Bench key={source.id} row={null} first={newRule(reading, source.id)} />;
}

function KnownRule({ id }: { id: string }) {
  const rule = useRule(id);
  return (
    <Loaded query={rule} what="the rule">
      {(row) => {
        const first = row.draft ?? row.live;
        return first ? <Bench row={row} first={first} /> : null;
      }}
    </Loaded>
  );
}

function Bench({ row, first }: { row: RuleRow | null; first: Rule }) {
  const reading = useReading();
  const navigate = useNavigate();
  const notice = useNotice();
  const [rule, setRule] = useState(first);
  const [isTried, setTried] = useState(false);
  const create = useCreateRule();
  const live = usePutLive();
  const drop = useDropDraft();
  const end = useEndRule();
  const world = useMemo(() => worldFrom(reading.directory), [reading.directory]);
  const source = reading.source(rule.scope.sources[0] ?? '');
  const named = rule.name.trim() === '' ? { ...rule, name: nameFor(rule, reading) } : rule;
  const faults = useMemo(() => checkRule(rule, world), [rule, world]);
  const isSound = faults.length === 0;
  const kept = useKept(row, named, isSound && rule.name.trim() !== '');
  const cost = useCost(rule, faults.every((fault) => fault.code === 'nobodyHears'));
  if (!source) return null;

  const edited = row?.live ? editedParts(rule, row.live) : row ? [] : PARTS.filter(() => false);
  const isFixed = row !== null && (!row.mayEdit || row.state === 'ended');
  const failure = create.error ?? live.error ?? drop.error ?? end.error ?? kept.error;

  const putLive = async () => {
    setTried(true);
    if (!isSound) return;
    const known = row ?? (await create.mutateAsync(named));
    const revision = row ? await kept.settle() : known.draftRevision;
    const done = await live.mutateAsync({ id: known.id, revision });
    setRule(done.live ?? named);
    kept.follow(done);
    notice({ words: row?.state === 'live' ? 'The edits are live.' : `“${named.name}” is live.` });
    if (!row) void navigate(`/rules/${known.id}`, { replace: true });
  };
  const keepDraft = async () => {
    setTried(true);
    if (!isSound) return;
    const made = await create.mutateAsync(named);
    notice({ words: `“${named.name}” is kept as a draft.` });
    void navigate(`/rules/${made.id}`, { replace: true });
  };
  const dropEdits = async () => {
    if (!row) return void navigate('/rules');
    await drop.mutateAsync(row.id);
    if (!row.live) return void navigate('/rules');
    setRule(row.live);
    kept.forget();
    notice({ words: 'The edits are dropped; what is live stays.' });
  };
  const run = (act: () => Promise<unknown>) => () => void act().catch(() => undefined);
  const isBusy = create.isPending || live.isPending || drop.isPending || end.isPending;
  const hasEdits = edited.length > 0;

  return (
    <main className="page">
      <p className="crumbs"><Link to="/rules">Rules</Link> / <Link to={`/sources/${source.id}`}>{source.name}</Link></p>
      <div className="page-head">
        <div style={{ flex: '1 1 20rem', minWidth: 0 }}>
          <h1 className="visually-hidden">{named.name}</h1>
          <input className="name-input" aria-label="The rule’s name" placeholder={nameFor(rule, reading)} value={rule.name} maxLength={120} readOnly={isFixed} onChange={(event) => setRule({ ...rule, name: event.target.value })} />
          <div className="state-line"><StateLine row={row} edited={edited.length} /></div>
        </div>
        {!isFixed && (
          <div className="acts">
            {(hasEdits || !row || row.state === 'draft') && <Button variant="quiet" disabled={isBusy} onClick={run(dropEdits)}>{!row ? 'Leave it' : row.state === 'draft' ? 'Throw the draft away' : 'Drop edits'}</Button>}
            {row?.state === 'live' && !hasEdits && <Button variant="quiet" disabled={isBusy} onClick={run(async () => { await end.mutateAsync(row.id); notice({ words: 'The rule has ended. What it caught stays in the Outbox.' }); })}>End the rule</Button>}
            {!row && <Button variant="outline-primary" disabled={isBusy} onClick={run(keepDraft)}>Keep as a draft</Button>}
            {(row?.state !== 'live' || hasEdits) && <Button disabled={isBusy} onClick={run(putLive)}>{isBusy ? 'One moment…' : row?.state === 'live' ? 'Put edits live' : 'Put it live'}</Button>}
          </div>
        )}
      </div>
      {failure && <div className="mt-3"><Failure error={failure} onTheirs={(draft) => setRule(draft)} /></div>}
      <div className="bench">
        <Sentences rule={rule} source={source} faults={isTried ? faults : faults.filter((fault) => fault.code !== 'nobodyHears')} edited={edited} isFixed={isFixed} onChange={setRule} />
        <CostFunnel cost={cost} rule={rule} />
      </div>
      <CostStrip cost={cost} />
    </main>
  );
}

function StateLine({ row, edited }: { row: RuleRow | null; edited: number }) {
  const { person } = useReading();
  if (!row) return <><RuleState state="draft" /><span className="quiet">not kept yet</span></>;
  return (
    <>
      <RuleState state={row.state} />
      {row.state === 'live' && <span className="quiet">version {row.version}, since {row.liveFrom && <Time at={row.liveFrom} />}</span>}
      {row.state === 'ended' && <span className="quiet">since {row.liveUntil && <Time at={row.liveUntil} />}</span>}
      {row.isPaused && row.state === 'live' && <strong>paused{row.kept > 0 && `, ${row.kept} kept`}</strong>}
      <span className="quiet">of {person(row.owner)}</span>
      {edited > 0 && <mark>{edited} edit{edited === 1 ? '' : 's'} not live yet</mark>}
    </>
  );
}

function Failure({ error, onTheirs }: { error: unknown; onTheirs: (draft: Rule) => void }) {
  const { person } = useReading();
  const problem = problemOf(error);
  const conflict = problem.conflict as { draft: Rule; by: string | null } | undefined;
  if (problem.code !== 'editedMeanwhile' || !conflict) return <ProblemNote error={error} />;
  return (
    <div className="clash" role="alert">
      <strong>{conflict.by ? person(conflict.by) : 'Somebody'} has edited this rule meanwhile.</strong> What you have here stays until you choose.
      <div className="mt-2"><Button size="sm" variant="outline-primary" onClick={() => onTheirs(conflict.draft)}>Go on from theirs</Button></div>
    </div>
  );
}

/** Keeps the edits of a known rule on the server, shortly after each, so that nothing is lost and others see them. */
function useKept(row: RuleRow | null, rule: Rule, mayKeep: boolean) {
  const keep = useKeepDraft();
  const revision = useRef(row?.draftRevision ?? 0);
  const json = JSON.stringify(rule);
  const last = useRef(JSON.stringify(row?.draft ?? row?.live ?? rule));
  const running = useRef<Promise<unknown>>(Promise.resolve());
  const { mutateAsync } = keep;

  const send = useRef(async () => undefined as unknown);
  send.current = async () => {
    await running.current.catch(() => undefined);
    if (!row || last.current === json) return;
    last.current = json;
    running.current = mutateAsync({ document: rule, revision: revision.current }).then((kept) => { revision.current = kept.draftRevision; });
    await running.current;
  };
  useEffect(() => {
    if (!row || !mayKeep || !row.mayEdit || last.current === json) return;
    const timer = setTimeout(() => void send.current().catch(() => undefined), 600);
    return () => clearTimeout(timer);
  }, [row, mayKeep, json]);

  return {
    error: keep.error,
    /** Waits until all edits are kept; gives the revision that holds them. */
    settle: async () => {
      await send.current();
      await running.current;
      return revision.current;
    },
    follow: (done: RuleRow) => {
      revision.current = done.draftRevision;
      last.current = JSON.stringify(done.live);
    },
    forget: () => {
      revision.current += 1;
      last.current = JSON.stringify(row?.live);
    },
  };
}
