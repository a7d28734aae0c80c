import { randomBytes } from 'node:crypto';
import { type FaultAt, Refusal } from '../../contract/problems.ts';
import type { Account, AccountPage, Consequences } from '../../contract/wire/index.ts';
import { type Group, sameAddress } from '../../core/people/index.ts';
import { freshId } from '../../core/tables/index.ts';
import type { Caller } from '../access/index.ts';
import { hashOfPassword } from '../kit/index.ts';
import {
  type Directory,
  type Account as Kept,
  livePhases,
  type Profile,
  type Statement,
  store,
} from '../store/index.ts';
import { consequencesOf } from './consequences.ts';
import type { ActContext } from './context.ts';
import { sealOf, setUp } from './setting-up.ts';

type Acting = Pick<ActContext, 'pool' | 'clock'>;

/** Somebody's account as it stands. */
export function accountOf(person: Profile, directory: Directory): Account {
  const { id, name, title, email, zone, locale, manager, role, active } = person;
  return {
    name,
    title,
    email,
    zone,
    locale,
    manager,
    role,
    isActive: active,
    // The rows of a table document are looked after with it.
    looksAfter: [...directory.coordinators].flatMap(([source, people]) =>
      people.includes(id) && directory.sources.get(source)?.sheetOf === undefined ? [source] : [],
    ),
    groups: [...directory.groups.values()].filter(({ members }) => members.includes(id)).map((group) => group.id),
  };
}

/** Somebody's account, with what stands against changing it unseen. */
export function accountPage(person: Profile, directory: Directory, now: number): Omit<AccountPage, 'hasSecond'> {
  const account = accountOf(person, directory);
  const owns = livePhases(directory, now).filter(({ compiled }) => compiled.rule.owner === person.id).length;
  return { id: person.id, account, seal: sealOf(account), owns };
}

/** Makes an account; nobody signs in to it before a password has been chosen. Answers its id. */
export async function addAccount(context: Acting, given: Account, caller: Caller): Promise<string> {
  const { directory } = caller;
  const id = freshId(given.name, new Set(directory.people.keys()), 'person');
  expectSound(id, given, directory);
  const unknown = await hashOfPassword(randomBytes(32));
  await setUp(context, caller, saidOf(given), [
    store.accounts.create(keptOf(id, given), unknown),
    ...belongings(id, given),
  ]);
  return id;
}

/** Puts an account as a steward has it; refused where it has been changed since it was read. */
export async function saveAccount(
  context: Acting,
  person: Profile,
  { account: given, seal }: { account: Account; seal: string },
  caller: Caller,
): Promise<void> {
  expectSound(person.id, given, caller.directory);
  if (sealOf(accountOf(person, caller.directory)) !== seal) throw new Refusal('editedMeanwhile');
  await setUp(context, caller, saidOf(given), [
    store.accounts.save(keptOf(person.id, given)),
    ...belongings(person.id, given),
    // Whoever is no longer here is signed out everywhere.
    ...(given.isActive ? [] : [store.accounts.endSessions(person.id)]),
  ]);
}

const keptOf = (id: string, { isActive, looksAfter: _, groups: __, ...account }: Account): Kept => ({
  id,
  active: isActive,
  ...account,
});

const belongings = (id: string, { role, looksAfter, groups }: Account): Statement[] => [
  ...store.accounts.replaceLookedAfter(id, role === 'coordinator' ? [...new Set(looksAfter)] : []),
  ...store.accounts.replaceGroups(id, [...new Set(groups)]),
];

/** What the audit trail says of it. */
const saidOf = ({ name, role, isActive }: Account) => ({
  kind: 'personChanged' as const,
  about: { name, role, active: isActive ? 1 : 0 },
});

/** What it comes to where somebody's account is changed so. */
export async function previewAccount(
  context: Acting,
  person: Profile,
  given: Account,
  { directory }: Caller,
): Promise<Consequences> {
  expectSound(person.id, given, directory);
  return consequencesOf(context, {
    before: directory,
    after: { ...directory, ...withAccount(person, given, directory) },
    now: context.clock.now(),
  });
}

function withAccount(
  person: Profile,
  given: Account,
  directory: Directory,
): Pick<Directory, 'people' | 'groups' | 'coordinators'> {
  const people = new Map(directory.people).set(person.id, { ...person, ...keptOf(person.id, given) });
  const without = (ids: readonly string[]) => ids.filter((id) => id !== person.id);
  const groups = new Map(
    [...directory.groups].map(([id, group]): [string, Group] => {
      const others = without(group.members);
      return [id, { ...group, members: given.groups.includes(id) ? [...others, person.id] : others }];
    }),
  );
  return { people, groups, coordinators: directory.coordinators };
}

/** Refuses an account that could not be, with every fault. */
function expectSound(id: string, given: Account, directory: Directory): void {
  const { people, groups, sources } = directory;
  const faults: FaultAt[] = [];
  const email = given.email;
  const same =
    email !== null &&
    [...people.values()].find((one) => one.id !== id && one.email && sameAddress(one.email) === sameAddress(email));
  if (same) faults.push({ code: 'addressTaken', path: 'email', params: { name: same.name } });
  if (given.manager !== null && !people.has(given.manager))
    faults.push({ code: 'nobodyThere', path: 'manager', params: {} });
  else if (leadsBack(id, given.manager, directory))
    faults.push({ code: 'managesThemselves', path: 'manager', params: { name: given.name } });
  const stewards = [...people.values()].filter((one) => one.id !== id && one.active && one.role === 'steward');
  if (stewards.length === 0 && (given.role !== 'steward' || !given.isActive))
    faults.push({ code: 'lastSteward', path: given.isActive ? 'role' : 'isActive', params: {} });
  for (const [at, source] of given.looksAfter.entries())
    if (!sources.has(source)) faults.push({ code: 'nothingThere', path: `looksAfter.${at}`, params: {} });
  for (const [at, group] of given.groups.entries())
    if (!groups.has(group)) faults.push({ code: 'nothingThere', path: `groups.${at}`, params: {} });
  if (faults.length > 0) throw new Refusal('badValues', { faults });
}

/** Whether somebody's manager, or a manager of theirs, is somebody themselves. */
function leadsBack(id: string, manager: string | null, { people }: Directory): boolean {
  const seen = new Set<string>();
  for (let next = manager; next !== null && !seen.has(next); next = people.get(next)?.manager ?? null) {
    if (next === id) return true;
    seen.add(next);
  }
  return false;
}
