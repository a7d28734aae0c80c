import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { goToUnread, useNotice } from '../../../parts/index.ts';
import { problemOf, useCreateRule, useDropDraft, useKeepDraft, usePutLive } from '../../../queries/index.ts';
import { t } from '../../../words/rule.ts';
import type { useHistory } from './history.ts';
import type { useKept } from './kept.ts';

interface WaysParts {
  row: RuleRow | null;
  /** The rule as it would be kept, with a name. */
  named: Rule;
  /** Somebody gave it its name. */
  isNamed: boolean;
  isSound: boolean;
  history: ReturnType<typeof useHistory<Rule>>;
  kept: ReturnType<typeof useKept>;
  /** A rule that was known is live now. */
  onLive: () => void;
  /** A rule that was new is on the server now, or given up. */
  onLeft: () => void;
}

/** The rule as the server has it: a new one is made once, and edited after that. */
function useMade({ row, named, isNamed, kept }: Pick<WaysParts, 'row' | 'named' | 'isNamed' | 'kept'>) {
  const create = useCreateRule();
  const keep = useKeepDraft();
  /** What was made of a new rule here already, where its way live was refused after that. */
  const made = useRef<{ row: RuleRow; json: string } | null>(null);
  /** The rule as the server has it, with all that stands here: made once, and edited after that. */
  const known = async (): Promise<{ id: string; revision: number }> => {
    if (row) return { id: row.id, revision: await kept.settle() };
    const json = JSON.stringify(named);
    if (!made.current) made.current = { row: await makeOf(named), json };
    else if (made.current.json !== json) {
      const { id, draftRevision: revision } = made.current.row;
      made.current = { row: await keep.mutateAsync({ document: { ...named, id }, revision }), json };
    }
    return { id: made.current.row.id, revision: made.current.row.draftRevision };
  };

  /** Makes it; one that nobody has named gets the next name that is free. */
  const makeOf = async (document: Rule): Promise<RuleRow> => {
    try {
      return await create.mutateAsync(document);
    } catch (error) {
      const taken = problemOf(error).faults?.find(({ code }) => code === 'nameTaken');
      if (!taken || isNamed) throw error;
      return create.mutateAsync({ ...document, name: String(taken.params.free) });
    }
  };
  return { known, made, isPending: create.isPending || keep.isPending, error: create.error ?? keep.error };
}

/** What came of wanting a rule live, in words. */
function whatCame({ ask }: RuleRow, before: RuleRow | null, name: string): string {
  if (ask) return t('waitsForEyes');
  return before?.state === 'live' ? t('theEditsAreLive') : t('isLive', { name });
}

/** Where a rule goes from its page: live, kept as a draft, or its edits dropped. */
export function useWays({ row, named, isNamed, isSound, history, kept, onLive, onLeft }: WaysParts) {
  const navigate = useNavigate();
  const notice = useNotice();
  const [isTried, setTried] = useState(false);
  const [refusals, setRefusals] = useState(0);
  const [why, setWhy] = useState('');
  const making = useMade({ row, named, isNamed, kept });
  const { known, made } = making;
  const live = usePutLive();
  const drop = useDropDraft();
  /** Whether it can go on as it stands; where it cannot, the first thing that is wrong is gone to. */
  const mayGoOn = (): boolean => {
    setTried(true);
    if (goToUnread()) return false;
    if (!isSound) setRefusals((before) => before + 1);
    return isSound;
  };

  const putLive = async (isSure = false) => {
    if (!mayGoOn()) return;
    const { id, revision } = await known();
    const done = await live.mutateAsync({ id, revision, isSure, why: why.trim() || null });
    if (done.live && !done.ask) history.begin(done.live);
    kept.follow(done);
    setWhy('');
    notice({ words: whatCame(done, row, named.name) });
    if (row && done.ask) return;
    if (row) return onLive();
    onLeft();
    void navigate(`/rules/${id}`, { replace: true });
  };
  const keepDraft = async () => {
    if (!mayGoOn()) return;
    const { id } = await known();
    notice({ words: t('isKeptAsADraft', { name: named.name }) });
    onLeft();
    void navigate(`/rules/${id}`, { replace: true });
  };
  const dropEdits = async () => {
    if (!row) {
      onLeft();
      if (made.current) await drop.mutateAsync(made.current.row.id);
      return void navigate('/rules');
    }
    await drop.mutateAsync(row.id);
    if (!row.live) return void navigate('/rules');
    history.begin(row.live);
    kept.forget();
    notice({ words: t('theEditsAreDroppedWhat') });
  };
  // What failed stands on the page, by its mutation.
  const run = (act: () => Promise<unknown>) => () => void act().catch(() => setRefusals((before) => before + 1));
  return {
    /** Somebody wanted it live or kept: what is missing is said from then on. */
    isTried,
    /** How often it was refused: each time, one is led to what is wrong. */
    refusals,
    /** Why these edits are made, for those who read the versions. */
    why,
    setWhy,
    isBusy: making.isPending || live.isPending || drop.isPending,
    failure: making.error ?? live.error ?? drop.error ?? kept.error,
    putLive: run(() => putLive()),
    putLiveAnyway: run(() => putLive(true)),
    keepDraft: run(keepDraft),
    dropEdits: run(dropEdits),
  };
}
