import { type FaultAt, Refusal } from '../../contract/problems.ts';
import type { StartsPage } from '../../contract/wire/index.ts';
import { membersOfGroup, startOf, type StartingPlan } from '../../core/people/index.ts';
import type { Caller } from '../access/index.ts';
import { type Directory, store } from '../store/index.ts';
import type { ActContext } from './context.ts';
import { sealOf, setUp } from './setting-up.ts';

const ROLES = ['member', 'coordinator', 'steward'];

/** The plans that people start with, and how many go by each. */
export function startsPage(directory: Directory): StartsPage {
  const starts = [...directory.startingPlans];
  const isIn = (person: string, group: string) => membersOfGroup(group, directory).has(person);
  const active = [...directory.people.values()].filter((person) => person.active);
  const taken = active.map((person) => startOf(person, starts, isIn));
  return { starts, seal: sealOf(starts), goBy: starts.map(({ plan }) => taken.filter((one) => one === plan).length) };
}

/** Has people start with other plans; whoever has chosen for themselves keeps what they chose. */
export async function saveStarts(
  context: Pick<ActContext, 'pool' | 'clock'>,
  { starts, seal }: { starts: readonly StartingPlan[]; seal: string },
  caller: Caller,
): Promise<void> {
  const { directory } = caller;
  const faults = starts.flatMap(({ kind, named, plan }, at): FaultAt[] => {
    const isKnown = { everybody: named === '', role: ROLES.includes(named), group: directory.groups.has(named) }[kind];
    const isTwice = starts.slice(0, at).some((one) => one.kind === kind && one.named === named);
    return [
      ...(isKnown ? [] : [{ code: 'nothingThere', path: `starts.${at}.named`, params: {} }]),
      ...(isTwice ? [{ code: 'startTwice', path: `starts.${at}.named`, params: {} }] : []),
      // Rules and addresses are somebody's own.
      ...(plan.own || plan.emailTo ? [{ code: 'startNamesOwn', path: `starts.${at}.plan`, params: {} }] : []),
    ];
  });
  if (faults.length > 0) throw new Refusal('badValues', { faults });
  if (sealOf(directory.startingPlans) !== seal) throw new Refusal('editedMeanwhile');
  await setUp(context, caller, { kind: 'startsChanged', about: { count: starts.length } }, [
    ...store.accounts.replaceStartingPlans(starts),
  ]);
}
