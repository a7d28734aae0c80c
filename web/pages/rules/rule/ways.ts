import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { useNotice } from '../../../parts/index.ts';
import { useCreateRule, useDropDraft, usePutLive } from '../../../queries/index.ts';
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
    if (row) onLive();
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
  // What failed stands on the page, by its mutation.
  const run = (act: () => Promise<unknown>) => () => void act().catch(() => undefined);
  return {
    /** Somebody wanted it live or kept: what is missing is said from then on. */
    isTried,
    /** Why these edits are made, for those who read the versions. */
    why,
    setWhy,
    isBusy: create.isPending || live.isPending || drop.isPending,
    failure: create.error ?? live.error ?? drop.error ?? kept.error,
    putLive: run(() => putLive()),
    putLiveAnyway: run(() => putLive(true)),
    keepDraft: run(keepDraft),
    dropEdits: run(dropEdits),
  };
}
