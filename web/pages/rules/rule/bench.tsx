import { useDeferredValue, useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSearchParams } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import type { Source } from '../../../../core/values/index.ts';
import { editedParts, FromBefore, nameFor, type RulePart, useViewer } from '../../../parts/index.ts';
import { type Days, useCost, useEditing, useTry } from '../../../queries/index.ts';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/rule.ts';
import { WhatItDid } from './only-read.tsx';
import { CostFunnel, CostStrip, DaysChoice } from '../trial/cost.tsx';
import { Suggestions } from '../trial/suggestions.tsx';
import { TryView } from '../trial/try-view.tsx';
import { BenchHead } from './bench-head.tsx';
import { Clash } from './clash.tsx';
import { useFaults, useGoToFault, useRefused } from './faults.ts';
import { useHistory } from './history.ts';
import { useKept } from './kept.ts';
import { startsFor } from './rule-starts.ts';
import { Sentences } from './sentences.tsx';
import { TypedLine } from '../typed/typed-line.tsx';
import { Versions } from './versions.tsx';
import { useKeptHere, useUnkept } from './unkept.ts';
import { useWays } from './ways.ts';

/** What is shown beside the rule: parts of the page's address, each set or taken away. */
function useShown() {
  const [search, setSearch] = useSearchParams();
  const see = (more: Record<string, string | null>) =>
    setSearch((now) => {
      const next = new URLSearchParams(now);
      for (const [key, value] of Object.entries(more))
        if (value === null) next.delete(key);
        else next.set(key, value);
      return next;
    });
  return { search, see };
}

/** A rule as it is edited here: what is wrong with it, what would happen, and where it can go. */
function useBench(row: RuleRow | null, first: Rule, { search, see }: ReturnType<typeof useShown>) {
  const viewer = useViewer();
  const unkept = useUnkept(row, first);
  const history = useHistory(unkept.start);
  const rule = history.value;
  const named = rule.name.trim() === '' ? { ...rule, name: nameFor(rule, viewer) } : rule;
  const { faults, isSound, isCountable } = useFaults(rule);
  const kept = useKept(row, named, isSound && rule.name.trim() !== '', history.begin);
  const on = { change: search.get('change'), person: search.get('person') };
  const tried = useTry(useDeferredValue(rule), on, isCountable);
  const ways = useWays({
    row,
    named,
    isNamed: rule.name.trim() !== '',
    isSound,
    history,
    kept,
    onLive: () => see({ compare: null }),
    onLeft: unkept.leave,
  });
  useKeptHere(unkept, rule, row?.draft ?? row?.live ?? first);
  const refused = useRefused(ways.failure, rule);
  useGoToFault(ways.refusals);
  /** Goes on from what somebody else kept meanwhile. */
  const takeTheirs = (draft: Rule, revision: number) => {
    history.set(draft);
    kept.follow({ ...(row as RuleRow), draft, draftRevision: revision });
  };
  const known = ways.isTried ? faults : faults.filter((fault) => fault.code !== 'nobodyHears');
  return {
    rule,
    edited: row?.live ? editedParts(rule, row.live) : [],
    named,
    history,
    faults: [...known, ...(refused ?? [])],
    /** What stood against it and belongs to none of its parts. */
    failure: refused === null ? ways.failure : null,
    isCountable,
    tried,
    ways,
    takeTheirs,
    unkept,
  };
}

/** The bench a rule is made on: its sentences, what they would cost, and the way live. Edits of a live rule gather beside it. */
export function Bench({ row, first, mayStart }: { row: RuleRow | null; first: Rule; mayStart: boolean }) {
  const shown = useShown();
  const { search, see } = shown;
  const bench = useBench(row, first, shown);
  const { rule, edited, faults, failure, isCountable, tried, ways } = bench;
  const setRule = bench.history.set;
  const source = useViewer().source(rule.scope.sources[0] ?? '');
  if (!source) return null;

  const isFixed = row !== null && (!row.mayEdit || row.state === 'ended');
  const isTrying = search.has('try');
  return (
    <main className="page">
      <BenchHead
        row={row}
        rule={rule}
        named={bench.named}
        source={source}
        edited={edited.length}
        faults={faults}
        isFixed={isFixed}
        history={bench.history}
        ways={ways}
        isComparing={search.has('compare')}
        onCompare={() => see({ compare: search.has('compare') ? null : '1' })}
        onTry={isTrying ? undefined : () => see({ try: '1' })}
      />
      {!isFixed && <TypedBefore unkept={bench.unkept} first={first} onPut={bench.history.begin} />}
      <Others of={row && !isFixed ? row.id : null} />
      {failure !== null && <Clash error={failure} onTheirs={bench.takeTheirs} onSure={ways.putLiveAnyway} />}
      {row && search.has('compare') && (
        <Versions
          row={row}
          rule={rule}
          edited={edited}
          why={ways.why}
          onWhy={ways.setWhy}
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
        <Making
          row={row}
          rule={rule}
          source={source}
          isCountable={isCountable}
          faults={faults}
          edited={edited}
          isFixed={isFixed}
          mayStart={mayStart && !bench.history.mayUndo}
          isSuggested={search.has('suggestion')}
          onChange={setRule}
          tried={isCountable ? tried.data : undefined}
          onPerson={(person) => see({ person })}
        />
      )}
    </main>
  );
}

interface MakingProps {
  row: RuleRow | null;
  rule: Rule;
  source: Source;
  isCountable: boolean;
  faults: ReturnType<typeof useFaults>['faults'];
  edited: RulePart[];
  isFixed: boolean;
  mayStart: boolean;
  isSuggested: boolean;
  onChange: (rule: Rule) => void;
  tried: ReturnType<typeof useTry>['data'];
  onPerson: (person: string) => void;
}

/** The sentences of a rule, and beside them what they would cost and what would make it less. */
function Making({ row, rule, source, isCountable, mayStart, isSuggested, ...sentences }: MakingProps) {
  /** How many days what it would cost is counted over. */
  const [days, setDays] = useState<Days>(30);
  const settled = useDeferredValue(rule);
  // What a rule does to others is counted for those who may change it; the others see what it did.
  const isReading = row !== null && !row.mayEdit;
  const cost = useCost(settled, days, isCountable && !isReading);
  const { isFixed, onChange } = sentences;
  /** A sentence that somebody has begun elsewhere. */
  const [search] = useSearchParams();
  const typed = row === null ? (search.get('say') ?? '') : '';
  return (
    <>
      <TypedLine rule={rule} first={typed} isBlank={mayStart} isFixed={isFixed} onChange={onChange} />
      {mayStart && <Starts rule={rule} source={source} onChange={onChange} />}
      <div className="bench">
        <Sentences rule={rule} source={source} {...sentences} />
        {isReading ? (
          <WhatItDid row={row} />
        ) : (
          <div>
            <DaysChoice days={days} onChange={setDays} />
            {isCountable ? (
              <CostFunnel cost={cost} rule={rule} />
            ) : (
              <p className="small quiet">{t('countedOncePutRight')}</p>
            )}
            {isCountable && !isFixed && (
              <Suggestions rule={settled} cost={cost.data} days={days} isWanted={isSuggested} onTake={onChange} />
            )}
          </div>
        )}
      </div>
      {isCountable && <CostStrip cost={cost} />}
    </>
  );
}

/** Rules that people of such a source often want, to start from. */
function Starts({ rule, source, onChange }: Pick<MakingProps, 'rule' | 'source' | 'onChange'>) {
  const starts = startsFor(rule, source);
  return (
    <nav className="starts" aria-label={t('startingPoints')}>
      <span className="quiet small">{t('startFrom')}</span>
      {starts.map((start) => (
        <button key={start.words} type="button" className="chip is-adding" onClick={() => onChange(start.rule)}>
          {start.words}
        </button>
      ))}
    </nav>
  );
}

/** What was typed here before and is not kept: it is here again, or offered where the rule has gone on since. */
function TypedBefore({
  unkept,
  first,
  onPut,
}: {
  unkept: ReturnType<typeof useUnkept>;
  first: Rule;
  onPut: (rule: Rule) => void;
}) {
  const { waiting, isOnTop, settle } = unkept;
  if (!waiting) return null;
  // What is taken up is where one begins: there is nothing before it to go back to.
  const put = (rule: Rule | null) => {
    if (rule) onPut(rule);
    settle();
  };
  if (isOnTop) return <FromBefore onGiveUp={() => put(first)} />;
  return (
    <p className="from-before small" role="status">
      {t('editedSinceYouTyped')}{' '}
      <Button variant="link" size="sm" onClick={() => put(waiting)}>
        {t('bringBackWhatITyped')}
      </Button>{' '}
      <Button variant="link" size="sm" onClick={() => put(null)}>
        {t('leaveItAsItIs')}
      </Button>
    </p>
  );
}

/** Who has the same rule open meanwhile. */
function Others({ of }: { of: string | null }) {
  const { person } = useViewer();
  const others = useEditing(of).data ?? [];
  if (others.length === 0) return null;
  return (
    <p className="wash mt-2">
      {t('thisRuleOpenAsWell', { people: phrases().and(others.map(person)), count: others.length })}
    </p>
  );
}
