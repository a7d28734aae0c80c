import { useEffect, useRef, useState } from 'react';
import type { TypedRule } from '../../../../contract/wire/index.ts';
import { LIMITS } from '../../../../contract/limits.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { useTyped } from '../../../parts/index.ts';
import { useReading, useSaid } from '../../../queries/index.ts';

/** What is typed, and where in it the cursor stands. */
export interface Typed {
  text: string;
  cursor: number;
}

/** All that a sentence says of a rule. */
function saidOf({ id, name, owner, ...parts }: Rule): string {
  const rows = Object.entries(parts).sort(([a], [b]) => a.localeCompare(b));
  return JSON.stringify(rows);
}

/** A rule as one reads it back: with its own id, name and owner. */
const applied = (rule: Rule, { document }: Pick<TypedRule, 'document'>): Rule => ({
  ...rule,
  ...document,
  id: rule.id,
  name: rule.name,
  owner: rule.owner,
});

/**
 * The sentence of a rule and its typing: what somebody types becomes the rule as far as it is understood; where the rule is
 * changed elsewhere, its sentence is said anew.
 */
export function useTyping(
  rule: Rule,
  { zone, first, isBlank, onChange }: { zone: string; first: string; isBlank: boolean; onChange: (rule: Rule) => void },
) {
  const [typed, setTyped] = useState<Typed | null>(first === '' ? null : { text: first, cursor: first.length });
  const made = useRef<string | null>(null);
  const document = useTyped(isBlank ? '' : JSON.stringify({ ...rule, id: 'said', name: 'said' }));
  const said = useSaid(document, zone);
  const isTooLong = typed !== null && typed.text.length > LIMITS.sentence;
  const reading = useReading(isTooLong ? null : typed, rule);
  const { data, isPlaceholderData } = reading;
  const fresh = typed && !isTooLong && data && !isPlaceholderData ? data : null;

  useEffect(() => {
    if (!fresh || !typed || typed.text.trim() === '') return;
    const next = applied(rule, fresh);
    if (saidOf(next) === made.current) return;
    made.current = saidOf(next);
    if (saidOf(next) !== saidOf(rule)) onChange(next);
  });
  // Once what was typed is the rule, whatever else changes the rule says the sentence anew.
  useEffect(() => {
    if (made.current === null || made.current === saidOf(rule)) return;
    made.current = null;
    setTyped(null);
  }, [rule]);

  const text = typed?.text ?? (isBlank ? '' : (said.data?.sentence ?? ''));
  return {
    text,
    cursor: typed?.cursor ?? text.length,
    reading: typed && !isTooLong ? (data ?? null) : null,
    isTooLong,
    isFresh: fresh !== null,
    /** Why what is typed is not read, where it is refused or nobody answers. */
    refusal:
      typed && !isTooLong && reading.isError ? { error: reading.error, again: () => void reading.refetch() } : null,
    cannotBeSaid: typed === null && said.isError,
    type: setTyped,
  };
}
