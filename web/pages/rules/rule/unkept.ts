import { forgetDraft, readDraft, useDraftKey, writeDraft } from '../../../parts/index.ts';
import { useEffect, useRef, useState } from 'react';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';

/**
 * What was made of a rule here and is not on the server: a rule that is new, or edits that cannot be kept as they stand.
 * It waits in this browser, also over a reload. Where the server has gone on meanwhile it is offered, and not put in
 * anybody's place.
 */
export function useUnkept(row: RuleRow | null, first: Rule) {
  const key = useDraftKey(row ? `rule.${row.id}` : `rule.new.${JSON.stringify(first)}`);
  const base = row ? String(row.draftRevision) : '';
  const [found] = useState(() => readDraft<Rule>(key));
  const [isOnTop] = useState(found?.base === base);
  const [waiting, setWaiting] = useState<Rule | null>(() =>
    found && JSON.stringify(found.value) !== JSON.stringify(first) ? found.value : null,
  );
  const isDone = useRef(false);
  return {
    key,
    base,
    isDone,
    /** With what the page begins: what was typed here before, where nothing has changed since. */
    start: found && isOnTop ? found.value : first,
    /** What was typed before; `null` where there is nothing, or it is dealt with. */
    waiting,
    /** Whether that is what the page began with, or only offered. */
    isOnTop,
    /** It is taken up, or not wanted any more. */
    settle: () => setWaiting(null),
    /** The rule is on the server now, or given up: nothing of it is kept here from then on. */
    leave: () => {
      isDone.current = true;
      forgetDraft(key);
    },
  };
}

/** Keeps the rule as it stands here, as long as the server has another. */
export function useKeptHere(unkept: ReturnType<typeof useUnkept>, rule: Rule, server: Rule) {
  const { key, base, isDone, waiting, isOnTop } = unkept;
  const [json, known] = [JSON.stringify(rule), JSON.stringify(server)];
  const isOffered = waiting !== null && !isOnTop;
  useEffect(() => {
    if (isDone.current) return;
    if (json !== known) writeDraft(key, { base, value: JSON.parse(json) as Rule });
    // What is only offered is not lost by looking at the page.
    else if (!isOffered) forgetDraft(key);
  }, [json, known, key, base, isDone, isOffered]);
}
