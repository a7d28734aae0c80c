import { useEffect, useMemo, useRef } from 'react';
import { checkMessage } from '../../../../core/messages/index.ts';
import { checkRule, checkSense, type Fault, type Rule } from '../../../../core/rules/index.ts';
import { dateIn, instantOf } from '../../../../core/time/index.ts';
import { useViewer, worldFrom } from '../../../parts/index.ts';
import { problemOf } from '../../../queries/index.ts';

/** The faults of a rule as it stands, as far as they can be told without the server. */
export function useFaults(rule: Rule) {
  const { directory, me } = useViewer();
  const world = useMemo(() => worldFrom(directory), [directory]);
  const faults = useMemo(() => [...checkRule(rule, world), ...checkMessage(rule, world.sources)], [rule, world]);
  const meant = useMemo(
    () => checkSense(rule, { ...world, today: dateIn(instantOf(me.now), rule.zone) }),
    [rule, world, me.now],
  );
  return {
    faults: [...faults, ...meant],
    isSound: faults.length + meant.length === 0,
    // What cannot be meant can be counted all the same.
    isCountable: faults.every(({ code }) => code === 'nobodyHears'),
  };
}

/** Where each fault stands at a part of the page: the rule's name, and its sentences. */
const PLACED = /^(name|scope|when|due|idle|during|by|to|except|about|pace|channels|limit|ack|message)(\.|$)/;

/** What the server found wrong with the parts of the rule, as long as it stands as it was refused; `null` where it is something else. */
export function useRefused(error: unknown, rule: Rule): Fault[] | null {
  const json = JSON.stringify(rule);
  const seen = useRef({ error, json });
  if (seen.current.error !== error) seen.current = { error, json };
  const faults = error === null ? [] : (problemOf(error).faults ?? []);
  if (faults.length === 0 || !faults.every(({ path }) => PLACED.test(path))) return null;
  return seen.current.json === json ? (faults as Fault[]) : [];
}

/** Goes to the first part of the page at which something is wrong, each time that somebody wanted the rule as it is. */
export function useGoToFault(refusals: number) {
  useEffect(() => {
    if (refusals === 0) return;
    const fault = document.querySelector('.name-input.is-invalid, .part .fault');
    const part = fault?.closest('.part')?.querySelector<HTMLElement>('button, input, select') ?? fault;
    if (part instanceof HTMLElement) part.focus();
  }, [refusals]);
}
