import type { AccessEntry, Folder, Group, Person } from '../../core/people/index.ts';
import { type CompiledRule, compileRule, isLiveAt, type Rule } from '../../core/rules/index.ts';
import type { Instant } from '../../core/time/index.ts';
import type { ItemState, Source } from '../../core/values/index.ts';
import { type Connection, fromJson, one, query, type Row, rows } from './connection.ts';

export interface Profile extends Person {
  title: string;
  role: 'member' | 'coordinator' | 'steward';
}

export interface ListedSource extends Source {
  about: string;
}

/** People, sources, access and rules as they stood at one version; what deciding needs besides items. */
export interface Directory {
  version: number;
  people: ReadonlyMap<string, Profile>;
  groups: ReadonlyMap<string, Group>;
  sources: ReadonlyMap<string, ListedSource>;
  folders: ReadonlyMap<string, Folder>;
  access: readonly AccessEntry[];
  /** All versions of all rules, in order of rule id. */
  compiled: readonly CompiledRule[];
}

/** The world's version; in a transaction that decides, a share lock keeps a rule from going live half way. */
export const worldVersionQuery = (lock: boolean) => query(`SELECT version FROM world_version WHERE id = 1${lock ? ' LOCK IN SHARE MODE' : ''}`);
/** The version into a variable, for a transaction in one trip. */
export const worldVersionIntoQuery = (variable: string) => query(`SELECT version INTO ${variable} FROM world_version WHERE id = 1 LOCK IN SHARE MODE`);
export const raiseWorldQuery = () => query('UPDATE world_version SET version = version + 1 WHERE id = 1');

/** Keeps one copy of the directory and reads it anew whenever its version has changed. */
export class DirectoryCache {
  private kept: Directory | null = null;

  /** The copy at hand, however old; whoever decides by it must check its version as they write. */
  atHand(): Directory | null {
    return this.kept;
  }

  async current(on: Connection): Promise<Directory> {
    return this.at(on, (await one<{ version: number }>(on, worldVersionQuery(false)))?.version ?? 0);
  }

  /** The directory of a version that the caller has just read, on the connection that read it. */
  async at(on: Connection, version: number): Promise<Directory> {
    if (this.kept?.version !== version) this.kept = await readDirectory(on, version);
    return this.kept;
  }
}

async function readDirectory(on: Connection, version: number): Promise<Directory> {
  const people = await rows(on, query('SELECT id, name, title, email, phone, zone, locale, manager_id, is_active, role, plan FROM people ORDER BY name, id'));
  const groups = await rows(on, query('SELECT id, name FROM groups_of_people ORDER BY name, id'));
  const members = await rows<{ group_id: string; kind: string; member_id: string }>(on, query('SELECT group_id, kind, member_id FROM group_members ORDER BY group_id, member_id'));
  const sources = await rows(on, query('SELECT id, kind, name, about, title_field, fields FROM sources ORDER BY position, id'));
  const folders = await rows(on, query('SELECT id, source_id, name, parent_id FROM folders ORDER BY name, id'));
  const access = await rows(on, query('SELECT source_id, folder_id, readers FROM access_entries ORDER BY id'));
  const versions = await rows(on, query('SELECT rule_id, version, document, live_from, live_until FROM rule_versions ORDER BY rule_id, version'));
  const sourceMap = new Map(sources.map((row) => [String(row.id), toSource(row)]));
  const membersOf = (group: unknown, kind: string) => members.filter((row) => row.group_id === group && row.kind === kind).map((row) => row.member_id);
  return {
    version,
    people: new Map(people.map((row) => [String(row.id), toProfile(row)])),
    groups: new Map(groups.map((row) => [String(row.id), { id: String(row.id), name: String(row.name), members: membersOf(row.id, 'person'), groups: membersOf(row.id, 'group') }])),
    sources: sourceMap,
    folders: new Map(folders.map((row) => [String(row.id), { id: String(row.id), source: String(row.source_id), name: String(row.name), parent: row.parent_id as string | null }])),
    access: access.map((row) => ({
      ...(row.source_id ? { source: String(row.source_id) } : {}), ...(row.folder_id ? { folder: String(row.folder_id) } : {}), readers: fromJson<AccessEntry['readers']>(row.readers),
    })),
    compiled: versions.flatMap((row) => {
      try {
        return [compileRule(fromJson<Rule>(row.document), sourceMap, { version: Number(row.version), from: row.live_from as Instant, until: row.live_until as Instant | null })];
      } catch {
        // A source may have lost a field since: that rule catches nothing, and must not hold up the others.
        return [];
      }
    }),
  };
}

const toProfile = (row: Row): Profile => ({
  id: String(row.id), name: String(row.name), title: String(row.title), email: row.email as string | null, phone: row.phone as string | null,
  zone: String(row.zone), locale: String(row.locale), manager: row.manager_id as string | null, active: row.is_active === 1,
  role: row.role as Profile['role'], plan: fromJson<Person['plan']>(row.plan),
});

const toSource = (row: Row): ListedSource => ({
  id: String(row.id), kind: row.kind as Source['kind'], name: String(row.name), about: String(row.about), titleField: String(row.title_field), fields: fromJson<Source['fields']>(row.fields),
});

/** Rule versions that look at a source and are live at an instant. */
export const liveRulesOf = (directory: Directory, source: string, at: Instant): CompiledRule[] =>
  directory.compiled.filter((one) => one.rule.scope.sources.includes(source) && isLiveAt(one, at));

/** The directory with the items at hand, as core's functions ask for it. */
export const worldOf = (directory: Directory, items: ReadonlyMap<string, ItemState>) => ({ ...directory, item: (id: string) => items.get(id) });
