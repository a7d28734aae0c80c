import type { Phase, Wording } from '../../core/decide/index.ts';
import type { AccessEntry, Contact, Folder, Group, Mute, Person } from '../../core/people/index.ts';
import { type CompiledRule, compileRule, type Rule, RuleIndex } from '../../core/rules/index.ts';
import type { Instant } from '../../core/time/index.ts';
import type { ItemState, Source } from '../../core/values/index.ts';
import { type Connection, fromJson, one, query, type Row, rows } from './connection.ts';
import { phasesQuery, type StoredPhase, toPhase } from './rules.ts';

export interface Profile extends Person {
  title: string;
  /** Their number, which has answered STOP: none to send to. */
  silenced?: string | null;
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
  contacts: ReadonlyMap<string, Contact>;
  wordings: ReadonlyMap<string, Wording>;
  /** Addresses and secrets of machines that rules may tell. */
  webhooks: ReadonlyMap<string, { url: string; secret: string }>;
  /** Who looks after a source, by source; one that is not here is every coordinator's. */
  coordinators: ReadonlyMap<string, readonly string[]>;
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

export const worldVersionQuery = () => query('SELECT version FROM world_version WHERE id = 1');
/** The version into a variable, for a transaction in one trip; it takes the turn to decide. */
export const worldVersionIntoQuery = (variable: string) =>
  query(`SELECT version INTO ${variable} FROM world_version WHERE id = 1 FOR UPDATE`);
export const raiseWorldQuery = () => query('UPDATE world_version SET version = version + 1 WHERE id = 1');

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
    return this.at(on, (await one<{ version: number }>(on, worldVersionQuery()))?.version ?? 0);
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

async function readDirectory(on: Connection, version: number, known: Compiled): Promise<Omit<Directory, 'index'>> {
  const people = await rows(
    on,
    query(
      "SELECT p.id, p.name, p.title, p.email, p.mail_to, p.phone, s.number AS silenced, p.zone, p.locale, p.manager_id, p.is_active, p.role, p.plan FROM people p LEFT JOIN silenced_numbers s ON s.number = REPLACE(p.phone, ' ', '') ORDER BY p.name, p.id",
    ),
  );
  const groups = await rows(on, query('SELECT id, name FROM groups_of_people ORDER BY name, id'));
  const members = await rows<{ group_id: string; kind: string; member_id: string }>(
    on,
    query('SELECT group_id, kind, member_id FROM group_members ORDER BY group_id, member_id'),
  );
  const sources = await rows(
    on,
    query('SELECT id, kind, name, about, title_field, fields FROM sources ORDER BY position, id'),
  );
  const folders = await rows(on, query('SELECT id, source_id, name, parent_id FROM folders ORDER BY name, id'));
  const access = await rows(on, query('SELECT source_id, folder_id, readers FROM access_entries ORDER BY id'));
  const mutes = await rows(on, query('SELECT person_id, rule_id, item_id, until FROM mutes ORDER BY id'));
  const contacts = await rows(
    on,
    query(
      'SELECT c.id, c.name, c.email, c.is_confirmed, c.has_left_all, (SELECT JSON_ARRAYAGG(l.rule_id) FROM contact_leavings l WHERE l.contact_id = c.id) AS left_rules FROM contacts c ORDER BY c.id',
    ),
  );
  const wordings = await rows(on, query('SELECT id, name, subject, body FROM wordings ORDER BY id'));
  const webhooks = await rows(on, query('SELECT id, url, secret FROM webhooks ORDER BY id'));
  const looksAfter = await rows<{ source_id: string; person_id: string }>(
    on,
    query('SELECT source_id, person_id FROM source_coordinators ORDER BY source_id, person_id'),
  );
  const versions = await rows(
    on,
    query('SELECT rule_id, version, document FROM rule_versions ORDER BY rule_id, version'),
  );
  const spans = (await rows(on, phasesQuery())).map(toPhase);
  const sourceMap = new Map(sources.map((row) => [String(row.id), toSource(row)]));
  const membersOf = (group: unknown, kind: string) =>
    members.filter((row) => row.group_id === group && row.kind === kind).map((row) => row.member_id);
  return {
    version,
    people: new Map(
      people.map((row) => [
        String(row.id),
        { ...toProfile(row), mutes: mutes.filter((mute) => mute.person_id === row.id).map(toMute) },
      ]),
    ),
    groups: new Map(
      groups.map((row) => [
        String(row.id),
        {
          id: String(row.id),
          name: String(row.name),
          members: membersOf(row.id, 'person'),
          groups: membersOf(row.id, 'group'),
        },
      ]),
    ),
    sources: sourceMap,
    folders: new Map(
      folders.map((row) => [
        String(row.id),
        {
          id: String(row.id),
          source: String(row.source_id),
          name: String(row.name),
          parent: row.parent_id as string | null,
        },
      ]),
    ),
    access: access.map((row) => ({
      ...(row.source_id ? { source: String(row.source_id) } : {}),
      ...(row.folder_id ? { folder: String(row.folder_id) } : {}),
      readers: fromJson<AccessEntry['readers']>(row.readers),
    })),
    contacts: new Map(contacts.map((row) => [String(row.id), toContact(row)])),
    wordings: new Map(
      wordings.map((row) => [
        String(row.id),
        {
          id: String(row.id),
          name: String(row.name),
          subject: row.subject as string | null,
          body: row.body as string | null,
        },
      ]),
    ),
    webhooks: new Map(webhooks.map((row) => [String(row.id), { url: String(row.url), secret: String(row.secret) }])),
    coordinators: new Map(
      [...new Set(looksAfter.map((row) => row.source_id))].map((source) => [
        source,
        looksAfter.filter((row) => row.source_id === source).map((row) => row.person_id),
      ]),
    ),
    ...compiledOf(versions, spans, sourceMap, known),
  };
}

function compiledOf(
  versions: Row[],
  spans: StoredPhase[],
  sources: Directory['sources'],
  known: Compiled,
): Pick<Directory, 'versions' | 'phases'> {
  const shapes = new Map([...sources].map(([id, source]) => [id, JSON.stringify(source.fields)]));
  const byRule = new Map<string, Map<number, CompiledRule>>();
  for (const row of versions) {
    const rule = fromJson<Rule>(row.document);
    const key = [JSON.stringify(rule), row.version, ...rule.scope.sources.map((id) => shapes.get(id))].join('\n');
    const compiled = known.get(key) ?? compiledOrNull(rule, sources, Number(row.version));
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

const toMute = (row: Row): Mute => ({
  ...(row.rule_id ? { rule: String(row.rule_id) } : {}),
  ...(row.item_id ? { item: String(row.item_id) } : {}),
  ...(row.until ? { until: String(row.until) } : {}),
});

const toContact = (row: Row): Contact => ({
  id: String(row.id),
  name: String(row.name),
  email: row.email as string | null,
  confirmed: row.is_confirmed === 1,
  unsubscribed: row.has_left_all === 1 ? true : (fromJson<string[] | null>(row.left_rules) ?? []),
});

const toProfile = (row: Row): Profile => ({
  id: String(row.id),
  name: String(row.name),
  title: String(row.title),
  email: row.email as string | null,
  mailTo: row.mail_to as string | null,
  phone: row.silenced === null ? (row.phone as string | null) : null,
  silenced: row.silenced === null ? null : String(row.phone),
  zone: String(row.zone),
  locale: String(row.locale),
  manager: row.manager_id as string | null,
  active: row.is_active === 1,
  role: row.role as Profile['role'],
  plan: fromJson<Person['plan']>(row.plan),
});

const toSource = (row: Row): ListedSource => ({
  id: String(row.id),
  kind: row.kind as Source['kind'],
  name: String(row.name),
  about: String(row.about),
  titleField: String(row.title_field),
  fields: fromJson<Source['fields']>(row.fields),
});

/** How a rule stands at an instant. */
export const phaseAt = (directory: Pick<Directory, 'phases'>, rule: string, at: Instant): Phase | undefined =>
  directory.phases.get(rule)?.find(({ since, until }) => since <= at && (until === null || at < until))?.phase;

/** The rules that are live at an instant, by rule id. */
export const livePhases = (directory: Pick<Directory, 'phases'>, at: Instant): Phase[] =>
  [...directory.phases.keys()].flatMap((rule) => phaseAt(directory, rule, at) ?? []);

/** The directory with the items at hand, as core's functions ask for it. */
export const worldOf = (directory: Directory, items: ReadonlyMap<string, ItemState>) => ({
  ...directory,
  item: (id: string) => items.get(id),
});

export const savePlanQuery = (person: string, plan: Person['plan']) =>
  query('UPDATE people SET plan = ? WHERE id = ?', plan && JSON.stringify(plan), person);
/** What somebody does not want to hear of, all of it anew. */
export const replaceMutesQueries = (person: string, mutes: readonly Mute[]) => [
  query('DELETE FROM mutes WHERE person_id = ?', person),
  ...(mutes.length > 0
    ? [
        query(
          'INSERT INTO mutes (person_id, rule_id, item_id, until) VALUES ?',
          mutes.map((mute) => [person, mute.rule ?? null, mute.item ?? null, mute.until ?? null]),
        ),
      ]
    : []),
];
