import { type FaultAt, Refusal } from '../../contract/problems.ts';
import type { Consequences, GroupDefined, GroupRow } from '../../contract/wire/index.ts';
import { membersOfGroup, type Selector } from '../../core/people/index.ts';
import { freshId } from '../../core/tables/index.ts';
import { type Caller, nameFault } from '../access/index.ts';
import { type Directory, livePhases, type Statement, store } from '../store/index.ts';
import { consequencesOf, isNamedIn } from './consequences.ts';
import type { ActContext } from './context.ts';
import { sealOf, setUp } from './setting-up.ts';

type Acting = Pick<ActContext, 'pool' | 'clock'>;

const definedOf = (id: string, { groups }: Directory): GroupDefined => {
  const { name = '', members = [], groups: within = [] } = groups.get(id) ?? {};
  return { name, members, groups: within };
};

/** All groups, each with everybody in it and what names it. */
export const groupRows = (directory: Directory, now: number): GroupRow[] =>
  [...directory.groups.keys()].map((id) => {
    const group = definedOf(id, directory);
    return {
      id,
      ...group,
      seal: sealOf(group),
      everybody: [...membersOfGroup(id, directory)].filter((person) => directory.people.get(person)?.active),
      usedBy: usedBy(id, directory, now),
    };
  });

/** What names a group: live rules, rights, groups; by their names. */
function usedBy(id: string, directory: Directory, now: number): string[] {
  const isIt = (selectors?: readonly Selector[] | null) => JSON.stringify(selectors ?? []).includes(namedAs(id));
  const rules = livePhases(directory, now)
    .filter(({ compiled }) => isNamedIn(compiled.rule, { group: id }))
    .map(({ compiled }) => compiled.rule.name);
  const places = directory.access
    .filter(({ readers, adders, editors }) => [readers, adders, editors].some(isIt))
    .map(
      ({ source, folder }) => directory.sources.get(source ?? '')?.name ?? directory.folders.get(folder ?? '')?.name,
    );
  const groups = [...directory.groups.values()].filter((group) => group.groups.includes(id)).map(({ name }) => name);
  return [...new Set([...rules, ...places.flatMap((name) => name ?? []), ...groups])];
}

const namedAs = (group: string) => JSON.stringify({ group }).slice(1, -1);

/** Makes a group; answers its id. */
export async function addGroup(context: Acting, given: GroupDefined, caller: Caller): Promise<string> {
  const id = freshId(given.name, new Set(caller.directory.groups.keys()), 'group');
  expectSound(id, given, caller.directory);
  await setUp(context, caller, saidOf(given.name), written(id, given));
  return id;
}

/** Puts a group as a steward has it; refused where it has been changed since it was read. */
export async function saveGroup(
  context: Acting,
  id: string,
  { group, seal }: { group: GroupDefined; seal: string },
  caller: Caller,
): Promise<void> {
  expectGroup(id, caller);
  expectSound(id, group, caller.directory);
  if (sealOf(definedOf(id, caller.directory)) !== seal) throw new Refusal('editedMeanwhile');
  await setUp(context, caller, saidOf(group.name), written(id, group));
}

/** Takes a group away that nothing names any more. */
export async function dropGroup(context: Acting, id: string, caller: Caller): Promise<void> {
  const { name } = expectGroup(id, caller);
  const used = usedBy(id, caller.directory, context.clock.now());
  if (used.length > 0) throw new Refusal('badRequest', { because: { code: 'groupInUse', params: { used } } });
  await setUp(context, caller, saidOf(name), store.accounts.dropGroup(id));
}

/** What it comes to where a group is changed so. */
export async function previewGroup(
  context: Acting,
  id: string,
  given: GroupDefined,
  { directory, ...caller }: Caller,
): Promise<Consequences> {
  expectGroup(id, { directory, ...caller });
  expectSound(id, given, directory);
  const groups = new Map(directory.groups).set(id, { id, ...given });
  return consequencesOf(context, { before: directory, after: { ...directory, groups }, now: context.clock.now() });
}

function expectGroup(id: string, { directory }: Caller) {
  const group = directory.groups.get(id);
  if (!group) throw new Refusal('notFound');
  return group;
}

const written = (id: string, { name, members, groups }: GroupDefined): Statement[] => [
  store.accounts.saveGroup(id, name),
  ...store.accounts.replaceMembers(id, { members: [...new Set(members)], groups: [...new Set(groups)] }),
];

/** What the audit trail says of it. */
const saidOf = (name: string) => ({ kind: 'groupChanged' as const, about: { name } });

/** Refuses a group that could not be, with every fault. */
function expectSound(id: string, given: GroupDefined, { people, groups }: Directory): void {
  const others = [...groups.values()].filter((group) => group.id !== id).map(({ name }) => name);
  const taken = nameFault(given.name, others);
  const within = new Map(groups).set(id, { id, ...given });
  const faults: FaultAt[] = [
    ...(taken ? [taken] : []),
    ...given.members.flatMap((member, at) =>
      people.has(member) ? [] : [{ code: 'nobodyThere', path: `members.${at}`, params: {} }],
    ),
    ...given.groups.flatMap((inner, at) => {
      if (!groups.has(inner)) return [{ code: 'nothingThere', path: `groups.${at}`, params: {} }];
      const params = { name: groups.get(inner)?.name ?? inner };
      return holds(inner, id, within) ? [{ code: 'groupInItself', path: `groups.${at}`, params }] : [];
    }),
  ];
  if (faults.length > 0) throw new Refusal('badValues', { faults });
}

/** Whether a group is another, or has it within it at any depth. */
function holds(group: string, wanted: string, groups: Directory['groups'], seen = new Set<string>()): boolean {
  if (group === wanted) return true;
  if (seen.has(group)) return false;
  seen.add(group);
  return (groups.get(group)?.groups ?? []).some((inner) => holds(inner, wanted, groups, seen));
}
