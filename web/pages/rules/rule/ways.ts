import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { goToUnread, useNotice } from '../../../parts/index.ts';
import { useCreateRule, useDropDraft, useKeepDraft, usePutLive } from '../../../queries/index.ts';
import { t } from '../../../words/rule.ts';
import type { useHistory } from './history.ts';
import type { useKept } from './kept.ts';

interface WaysParts {
  row: RuleRow | null;
  /** The rule as it would be kept, with a name. */
  named: Rule;
  isSound: boolean;
  history: ReturnType<typeof useHistory<Rule>>;
  kept: ReturnType<typeof useKept>;
  /** A rule that was known is live now. */
  onLive: () => void;
}

/** Where a rule goes from its page: live, kept as a draft, or its edits dropped. */
export function useWays({ row, named, isSound, history, kept, onLive }: WaysParts) {
  const navigate = useNavigate();
  const notice = useNotice();
  const [isTried, setTried] = useState(false);
  const [why, setWhy] = useState('');
  const create = useCreateRule();
  const live = usePutLive();
  const drop = useDropDraft();
  const keep = useKeepDraft();
  /** What was made of a new rule here already, where its way live was refused after that. */
  const made = useRef<{ row: RuleRow; json: string } | null>(null);
  /** The rule as the server has it, with all that stands here: made once, and edited after that. */
  const known = async (): Promise<{ id: string; revision: number }> => {
    if (row) return { id: row.id, revision: await kept.settle() };
    const json = JSON.stringify(named);
    if (!made.current) made.current = { row: await create.mutateAsync(named), json };
    else if (made.current.json !== json) {
      const { id, draftRevision: revision } = made.current.row;
      made.current = { row: await keep.mutateAsync({ document: { ...named, id }, revision }), json };
    }
    return { id: made.current.row.id, revision: made.current.row.draftRevision };
  };

  const putLive = async (isSure = false) => {
    setTried(true);
    if (goToUnread() || !isSound) return;
    const { id, revision } = await known();
    const done = await live.mutateAsync({ id, revision, isSure, why: why.trim() || null });
    if (done.live) history.begin(done.live);
    kept.follow(done);
    setWhy('');
    notice({ words: row?.state === 'live' ? t('theEditsAreLive') : t('isLive', { name: named.name }) });
    if (row) onLive();
    else void navigate(`/rules/${id}`, { replace: true });
  };
  const keepDraft = async () => {
    setTried(true);
    if (goToUnread() || !isSound) return;
    const { id } = await known();
    notice({ words: t('isKeptAsADraft', { name: named.name }) });
    void navigate(`/rules/${id}`, { replace: true });
  };
  const dropEdits = async () => {
    if (!row) {
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
  const run = (act: () => Promise<unknown>) => () => void act().catch(() => undefined);
  return {
    /** Somebody wanted it live or kept: what is missing is said from then on. */
    isTried,
    /** Why these edits are made, for those who read the versions. */
    why,
    setWhy,
    isBusy: create.isPending || keep.isPending || live.isPending || drop.isPending,
    failure: create.error ?? keep.error ?? live.error ?? drop.error ?? kept.error,
    putLive: run(() => putLive()),
    putLiveAnyway: run(() => putLive(true)),
    keepDraft: run(keepDraft),
    dropEdits: run(dropEdits),
  };
}
