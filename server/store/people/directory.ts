import type { Phase, Wording } from '../../../core/decide/index.ts';
import type { HouseVoice, Paper, Usual } from '../../../core/messages/index.ts';
import {
  type AccessEntry,
  type Contact,
  type Group,
  membersOfGroup,
  planUpon,
  readersNamed,
  startOf,
  type StartingPlan,
} from '../../../core/people/index.ts';
import { type CompiledRule, compileRule, type Eyed, type Rule, RuleIndex } from '../../../core/rules/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import type { ItemState } from '../../../core/values/index.ts';
import { type Connection, one, several } from '../database/connection.ts';
import type { StoredItem } from '../items/items.ts';
import * as sheets from '../items/sheets.ts';
import * as house from '../rules/house.ts';
import type { SenderRow } from '../rules/house.ts';
import { phases as phasesOf, type StoredPhase } from '../rules/rules.ts';
import * as machines from './machines.ts';
import type { Machine } from './machines.ts';
import * as accounts from './accounts.ts';
import * as addresses from './addresses.ts';
import type { SuspendedAddress } from './addresses.ts';
import * as people from './people.ts';
import type { ListedFolder, ListedSource, Profile } from './people.ts';
import { version as versionNow } from './world.ts';

/** People, sources, access and rules as they stood at one version; what deciding needs besides items. */
export interface Directory {
  version: number;
  people: ReadonlyMap<string, Profile>;
  groups: ReadonlyMap<string, Group>;
  sources: ReadonlyMap<string, ListedSource>;
  folders: ReadonlyMap<string, ListedFolder>;
  access: readonly AccessEntry[];
  contacts: ReadonlyMap<string, Contact>;
  /** The plans that people start with, in the order in which they are looked through. */
  startingPlans: readonly StartingPlan[];
  /** Addresses that mail came back from for good, in lower case. */
  suspended: ReadonlyMap<string, SuspendedAddress>;
  wordings: ReadonlyMap<string, Wording>;
  /** How the house speaks: its paper, its usual wordings, and the names that it has set up, as they are to be shown. */
  house: Paper & { usual: readonly Usual[]; senders: readonly SenderRow[]; secondEyes: readonly Eyed[] };
  /** Machines that rules may tell. */
  webhooks: ReadonlyMap<string, Machine>;
  /** Who looks after a source, by source; one that is not here is every coordinator's. */
  coordinators: ReadonlyMap<string, readonly string[]>;
  /** Who answers for each rule, by rule id: whose its newest version is, and who put that live. Of one that cannot be compiled any more, too. */
  answering: ReadonlyMap<string, { owner: string; editor: string }>;
  /** All versions of all rules, by rule id. */
  versions: ReadonlyMap<string, ReadonlyMap<number, CompiledRule>>;
  /** How each rule stood from when to when, in order of time; by rule id, in its order. */
  phases: ReadonlyMap<string, readonly Span[]>;
  /** All of these versions that look at changes, by what they look at. */
  index: RuleIndex;
}

/** A phase of a rule and the instants between which it holds: from the first, up to and without the last. */
export interface Span {
  phase: Phase;
  since: Instant;
  until: Instant | null;
}

/** Keeps one copy of the directory and reads it anew whenever its version has changed. */
export class DirectoryCache {
  private kept: Directory | null = null;
  private readonly compiled: Compiled = new Map();
  private index = { shape: '', rules: new RuleIndex(new Map()), held: new Set<CompiledRule>() };

  /** The index goes from one directory to the next: only versions that are new are put in, and those that are gone taken out. */
  private indexOf(read: Omit<Directory, 'index'>): RuleIndex {
    const shape = shapeOf(read);
    if (this.index.shape !== shape) this.index = { shape, rules: new RuleIndex(read.sources), held: new Set() };
    const { rules, held } = this.index;
    const wanted = new Set(
      [...read.phases.values()].flatMap((spans) =>
        spans.flatMap(({ phase }) => (phase.compiled.rule.when ? [phase.compiled] : [])),
      ),
    );
    for (const compiled of held) {
      if (wanted.has(compiled)) continue;
      rules.remove(compiled);
      held.delete(compiled);
    }
    for (const compiled of wanted) {
      if (held.has(compiled)) continue;
      rules.add(compiled);
      held.add(compiled);
    }
    return rules;
  }

  /** The copy at hand, however old; whoever decides by it must check its version as they write. */
  atHand(): Directory | null {
    return this.kept;
  }

  async current(on: Connection): Promise<Directory> {
    return this.at(on, (await one(on, versionNow())) ?? 0);
  }

  /** The directory of a version that the caller has just read, on the connection that read it. */
  async at(on: Connection, version: number): Promise<Directory> {
    if (this.kept?.version !== version) {
      const read = await readDirectory(on, version, this.compiled);
      this.kept = { ...read, index: this.indexOf(read) };
    }
    return this.kept;
  }
}

/** What an index is of: it serves for as long as the sources are the same. */
const shapeOf = ({ sources }: Pick<Directory, 'sources'>): string => JSON.stringify([...sources.values()]);

/** Compiled versions by their document, so that a changed rule does not have the others compiled anew. */
type Compiled = Map<string, CompiledRule | null>;

/** All that a directory is read from. */
const asked = () =>
  [
    people.profiles(),
    people.groups(),
    people.members(),
    people.sources(),
    people.folders(),
    people.access(),
    people.mutes(),
    people.contacts(),
    people.wordings(),
    house.paper(),
    house.usual(),
    house.senders(),
    house.secondEyes(),
    machines.all(),
    people.coordinators(),
    people.ruleVersions(),
    phasesOf(),
    sheets.documents(),
    accounts.startingPlans(),
    addresses.suspended(),
  ] as const;

const coordinatorsOf = (rows: readonly { source: string; person: string }[]): Map<string, string[]> =>
  new Map(
    [...new Set(rows.map((row) => row.source))].map((source) => [
      source,
      rows.filter((row) => row.source === source).map((row) => row.person),
    ]),
  );

async function readDirectory(on: Connection, version: number, known: Compiled): Promise<Omit<Directory, 'index'>> {
  const [
    profiles,
    groups,
    members,
    sources,
    folders,
    access,
    mutes,
    contacts,
    wordings,
    papers,
    usual,
    senders,
    secondEyes,
    webhooks,
    looksAfter,
    versions,
    spans,
    watched,
    startingPlans,
    suspended,
  ] = await several(on, asked());
  const sourceMap = byId(sources);
  const groupMap = groupsOf(groups, members);
  const isIn = (person: string, group: string) => membersOfGroup(group, { groups: groupMap }).has(person);
  const whole = (profile: Profile): Profile => {
    const start = startOf(profile, startingPlans, isIn);
    const own = mutes.filter((row) => row.person === profile.id).map((row) => row.mute);
    const gone = suspended.map(({ address }) => address).filter((address) => hasAddress(profile, address));
    return {
      ...profile,
      start,
      plan: planUpon(profile.chosen, start),
      mutes: own,
      ...(gone.length > 0 ? { suspended: gone } : {}),
    };
  };
  const read = {
    version,
    people: byId(profiles.map(whole)),
    groups: groupMap,
    startingPlans,
    suspended: new Map(suspended.map((one) => [one.address, one])),
    sources: sourceMap,
    folders: byId(folders),
    access,
    contacts: byId(contacts),
    wordings: byId(wordings),
    house: {
      ...(papers[0] ?? { letterhead: null, signOff: null }),
      usual,
      senders: senders.map((sender) => asTheyAre(sender, profiles)),
      secondEyes,
    },
    webhooks: byId(webhooks),
    coordinators: coordinatorsOf(looksAfter),
    answering: new Map(versions.map(({ document: { id, owner }, by }) => [id, { owner, editor: by }])),
    ...compiledOf(versions, spans, sourceMap, known),
  };
  return withSheets(read, watched);
}

/** Whether an address is one that somebody's mail may go to. */
const hasAddress = ({ email, mailTo, further = [] }: Profile, address: string): boolean =>
  [email, mailTo, ...further].some((one) => one && one.trim().toLowerCase() === address);

/** The rows of a table document are called after it, read by who reads it, and looked after by who looks after where it lies. */
function withSheets<D extends Omit<Directory, 'index'>>(
  read: D,
  watched: readonly { source: string; document: StoredItem }[],
): D {
  const [sources, coordinators, access] = [new Map(read.sources), new Map(read.coordinators), [...read.access]];
  const world = { ...read, item: () => undefined };
  for (const { source, document } of watched) {
    const listed = sources.get(source);
    if (!listed) continue;
    sources.set(source, { ...listed, name: document.title, sheetOf: document.id });
    // Its rows change with its versions, and by no other way.
    access.push({ source, readers: readersNamed(document, world), adders: [], editors: [] });
    const keepers = read.coordinators.get(document.source);
    if (keepers) coordinators.set(source, keepers);
  }
  return { ...read, sources, coordinators, access };
}

function groupsOf(
  groups: readonly { id: string; name: string }[],
  members: readonly { group: string; kind: 'person' | 'group'; member: string }[],
): Map<string, Group> {
  const membersOf = (group: string, kind: 'person' | 'group') =>
    members.filter((row) => row.group === group && row.kind === kind).map((row) => row.member);
  return byId(
    groups.map((group) => ({ ...group, members: membersOf(group.id, 'person'), groups: membersOf(group.id, 'group') })),
  );
}

const byId = <T extends { id: string }>(list: readonly T[]): Map<string, T> =>
  new Map(list.map((one) => [one.id, one]));

function compiledOf(
  versions: readonly { version: number; document: Rule }[],
  spans: StoredPhase[],
  sources: Directory['sources'],
  known: Compiled,
): Pick<Directory, 'versions' | 'phases'> {
  const shapes = new Map([...sources].map(([id, source]) => [id, JSON.stringify(source.fields)]));
  const byRule = new Map<string, Map<number, CompiledRule>>();
  for (const { document: rule, version } of versions) {
    const key = [JSON.stringify(rule), version, ...rule.scope.sources.map((id) => shapes.get(id))].join('\n');
    const compiled = known.get(key) ?? compiledOrNull(rule, sources, version);
    known.set(key, compiled);
    if (compiled)
      byRule.set(rule.id, (byRule.get(rule.id) ?? new Map<number, CompiledRule>()).set(compiled.version, compiled));
  }
  const phases = new Map<string, Span[]>();
  for (const { since, until, ...phase } of spans) {
    const { rule, version } = phase.compiled;
    const compiled = byRule.get(rule.id)?.get(version);
    if (compiled)
      phases.set(rule.id, [...(phases.get(rule.id) ?? []), { phase: { ...phase, compiled }, since, until }]);
  }
  return { versions: byRule, phases };
}

/** A source may have lost a field since: that rule catches nothing, and must not hold up the others. */
function compiledOrNull(rule: Rule, sources: Directory['sources'], version: number): CompiledRule | null {
  try {
    return compileRule(rule, sources, version);
  } catch {
    return null;
  }
}

/** How a rule stands at an instant. */
export const phaseAt = (directory: Pick<Directory, 'phases'>, rule: string, at: Instant): Phase | undefined =>
  directory.phases.get(rule)?.find(({ since, until }) => since <= at && (until === null || at < until))?.phase;

/** A rule by the newest of its versions, live or not; `undefined` of one that was never live. */
export const newestRule = (directory: Pick<Directory, 'versions'>, rule: string): Rule | undefined =>
  [...(directory.versions.get(rule)?.values() ?? [])].at(-1)?.rule;

/** The rules that are live at an instant, by rule id. */
export const livePhases = (directory: Pick<Directory, 'phases'>, at: Instant): Phase[] =>
  [...directory.phases.keys()].flatMap((rule) => phaseAt(directory, rule, at) ?? []);

/** A sender of somebody is called and reached as they are by now; one who has left has no address to send in. */
function asTheyAre(sender: SenderRow, profiles: readonly Profile[]): SenderRow {
  if (sender.kind !== 'person') return sender;
  const person = profiles.find(({ id }) => id === sender.person);
  return { ...sender, name: person?.name ?? sender.name, address: (person?.active && person.email) || '' };
}

/** How the house speaks in messages: names without an address are left to Ojo. */
export const voiceIn = ({ house: { usual, senders } }: Pick<Directory, 'house'>): HouseVoice => ({
  usual,
  senders: senders.filter(({ address }) => address !== ''),
});

/** The directory with the items at hand, as core's functions ask for it. */
export const worldOf = (directory: Directory, items: ReadonlyMap<string, ItemState>) => ({
  ...directory,
  item: (id: string) => items.get(id),
});
