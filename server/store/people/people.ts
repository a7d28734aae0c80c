import type { Wording } from '../../../core/decide/index.ts';
import type { AccessEntry, Contact, Folder, Mute, Person } from '../../../core/people/index.ts';
import type { Rule } from '../../../core/rules/index.ts';
import type { Source } from '../../../core/values/index.ts';
import {
  type Decoder,
  flag,
  fromJson,
  json,
  nullable,
  number,
  type Query,
  query,
  record,
  select,
  type Statement,
  text,
  word,
} from '../database/query.ts';

/** Somebody with an account. */
export interface Profile extends Person {
  title: string;
  /** Their number, which has answered STOP: none to send to. */
  silenced?: string | null;
  role: 'member' | 'coordinator' | 'steward';
  /** What of their plan they have chosen themselves; `plan` has beneath it what they start with. */
  chosen: Person['plan'];
  /** What they start with. */
  start: Person['plan'];
}

/** A source with what it is about. */
export interface ListedSource extends Source {
  about: string;
  /** The table document whose rows it holds. */
  sheetOf?: string;
}

const decodeProfile = record<Profile>({
  id: text('id'),
  name: text('name'),
  title: text('title'),
  email: nullable(text)('email'),
  mailTo: nullable(text)('mail_to'),
  phone: (row) => (row.silenced === null ? nullable(text)('phone')(row) : null),
  silenced: (row) => (row.silenced === null ? null : text('phone')(row)),
  zone: text('zone'),
  locale: text('locale'),
  manager: nullable(text)('manager_id'),
  active: flag('is_active'),
  role: word('role'),
  plan: json('plan'),
  chosen: json('plan'),
  start: () => null,
  further: (row) => fromJson<string[] | null>(row.further) ?? [],
});
/** Everybody with an account, by name; without what they muted. */
export const profiles = (): Query<Profile> =>
  select(
    decodeProfile,
    `SELECT p.id, p.name, p.title, p.email, p.mail_to, p.phone, s.number AS silenced, p.zone, p.locale, p.manager_id, p.is_active, p.role, p.plan, (SELECT JSON_ARRAYAGG(f.address) FROM further_addresses f WHERE f.person_id = p.id) AS further
      FROM people p
      LEFT
      JOIN silenced_numbers s ON s.number = REPLACE(p.phone, ' ', '')
      ORDER BY p.name, p.id`,
  );
/** All groups, without their members. */
export const groups = (): Query<{ id: string; name: string }> =>
  select(record({ id: text('id'), name: text('name') }), 'SELECT id, name FROM groups_of_people ORDER BY name, id');
/** Who and which groups belong to each group. */
export const members = (): Query<{ group: string; kind: 'person' | 'group'; member: string }> =>
  select(
    record({ group: text('group_id'), kind: word<'person' | 'group'>('kind'), member: text('member_id') }),
    'SELECT group_id, kind, member_id FROM group_members ORDER BY group_id, member_id',
  );
const decodeSource = record<ListedSource>({
  id: text('id'),
  kind: word('kind'),
  name: text('name'),
  about: text('about'),
  titleField: text('title_field'),
  fields: json('fields'),
});
/** All sources, in the order in which they are listed. */
export const sources = (): Query<ListedSource> =>
  select(decodeSource, 'SELECT id, kind, name, about, title_field, fields FROM sources ORDER BY position, id');
/** A folder as it is kept: with whether it is noted who opens what lies in it and beneath. */
export interface ListedFolder extends Folder {
  notesLooks: boolean;
}
/** All folders of all sources. */
export const folders = (): Query<ListedFolder> =>
  select(
    record<ListedFolder>({
      id: text('id'),
      source: text('source_id'),
      name: text('name'),
      parent: nullable(text)('parent_id'),
      notesLooks: flag('notes_looks'),
    }),
    'SELECT id, source_id, name, parent_id, notes_looks FROM folders ORDER BY name, id',
  );
const decodeAccess: Decoder<AccessEntry> = (row) => ({
  ...(row.source_id ? { source: text('source_id')(row) } : {}),
  ...(row.folder_id ? { folder: text('folder_id')(row) } : {}),
  readers: fromJson<AccessEntry['readers']>(row.readers),
  adders: fromJson<AccessEntry['readers']>(row.adders),
  editors: fromJson<AccessEntry['readers']>(row.editors),
});
/** Who may read what, in all sources. */
export const access = (): Query<AccessEntry> =>
  select(decodeAccess, 'SELECT source_id, folder_id, readers, adders, editors FROM access_entries ORDER BY id');
const decodeMute: Decoder<{ person: string; mute: Mute }> = (row) => ({
  person: text('person_id')(row),
  mute: {
    ...(row.rule_id ? { rule: text('rule_id')(row) } : {}),
    ...(row.item_id ? { item: text('item_id')(row) } : {}),
    ...(row.until ? { until: text('until')(row) } : {}),
  },
});
/** Everybody's mutes, also those that have run out. */
export const mutes = (): Query<{ person: string; mute: Mute }> =>
  select(decodeMute, 'SELECT person_id, rule_id, item_id, until FROM mutes ORDER BY id');
const decodeContact = record<Contact>({
  id: text('id'),
  name: text('name'),
  email: nullable(text)('email'),
  confirmed: flag('is_confirmed'),
  unsubscribed: (row) => (row.has_left_all === 1 ? true : (fromJson<string[] | null>(row.left_rules) ?? [])),
});
/** Outside addresses that the house knows. */
export const contacts = (): Query<Contact> =>
  select(
    decodeContact,
    `SELECT c.id, c.name, c.email, c.is_confirmed, c.has_left_all, (SELECT JSON_ARRAYAGG(l.rule_id) FROM contact_leavings l WHERE l.contact_id = c.id) AS left_rules
      FROM contacts c
      ORDER BY c.id`,
  );
/** All shared wordings. */
export const wordings = (): Query<Wording> =>
  select(
    record<Wording>({
      id: text('id'),
      name: text('name'),
      subject: nullable(text)('subject'),
      body: nullable(text)('body'),
    }),
    'SELECT id, name, subject, body FROM wordings ORDER BY id',
  );
/** Who looks after which source. */
export const coordinators = (): Query<{ source: string; person: string }> =>
  select(
    record({ source: text('source_id'), person: text('person_id') }),
    'SELECT source_id, person_id FROM source_coordinators ORDER BY source_id, person_id',
  );
/** Every version of every rule that was ever live. */
export const ruleVersions = (): Query<{ version: number; document: Rule; by: string }> =>
  select(
    record({ version: number('version'), document: json<Rule>('document'), by: text('put_live_by') }),
    'SELECT rule_id, version, document, put_live_by FROM rule_versions ORDER BY rule_id, version',
  );

/** In which language, and with which formats, somebody reads (a tag of BCP 47). */
export const saveLocale = (person: string, locale: string): Statement =>
  query('UPDATE people SET locale = ? WHERE id = ?', locale, person);
/** Somebody's delivery plan. */
export const savePlan = (person: string, plan: Person['plan']): Statement =>
  query('UPDATE people SET plan = ? WHERE id = ?', plan && JSON.stringify(plan), person);
/** What somebody does not want to hear of, all of it anew. */
export const replaceMutes = (person: string, mutes: readonly Mute[]): Statement[] => [
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
