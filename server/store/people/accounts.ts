import type { StartingPlan } from '../../../core/people/index.ts';
import { json, nullable, type Query, query, record, select, type Statement, text, word } from '../database/query.ts';
import type { Profile } from './people.ts';

/** Of somebody with an account, what stewards set up. */
export type Account = Pick<
  Profile,
  'id' | 'name' | 'title' | 'email' | 'zone' | 'locale' | 'manager' | 'role' | 'active'
>;

/** Makes an account; with a hash that no password has, nobody signs in to it yet. */
export const create = (account: Account, passwordHash: string): Statement =>
  query(
    'INSERT INTO people (id, name, title, email, zone, locale, manager_id, role, is_active, password_hash) VALUES (?)',
    [
      account.id,
      account.name,
      account.title,
      account.email,
      account.zone,
      account.locale,
      account.manager,
      account.role,
      account.active ? 1 : 0,
      passwordHash,
    ],
  );
/** Everybody with an account, whether they are still here or not. */
export const ids = (): Query<string> => select((row) => String(row.id), 'SELECT id FROM people ORDER BY id');
/** The stewards who are here. */
export const stewards = (): Query<Pick<Account, 'id' | 'name' | 'email'>> =>
  select(
    record<Pick<Account, 'id' | 'name' | 'email'>>({
      id: text('id'),
      name: text('name'),
      email: nullable(text)('email'),
    }),
    "SELECT id, name, email FROM people WHERE role = 'steward' AND is_active = 1 ORDER BY name",
  );
/** Puts an account as it is to be. */
export const save = (account: Account): Statement =>
  query(
    `UPDATE people
      SET name = ?, title = ?, email = ?, zone = ?, locale = ?, manager_id = ?, role = ?, is_active = ?
      WHERE id = ?`,
    account.name,
    account.title,
    account.email,
    account.zone,
    account.locale,
    account.manager,
    account.role,
    account.active ? 1 : 0,
    account.id,
  );
/** The number by which a page to choose a password on goes; `0` before there was one. */
export const welcomeNumber = (person: string): Query<number> =>
  select((row) => Number(row.welcome_number), 'SELECT welcome_number FROM people WHERE id = ?', person);
/** Gives the next page to choose a password on its number; those before it open no more. */
export const nextWelcome = (person: string): Statement =>
  query('UPDATE people SET welcome_number = welcome_number + 1 WHERE id = ?', person);
/** Has somebody sign in with another password, by the page of that number; changes no row where that has been used. */
export const choosePassword = (person: string, number: number, hash: string): Statement =>
  query(
    `UPDATE people
      SET password_hash = ?, welcome_number = welcome_number + 1
      WHERE id = ? AND welcome_number = ? AND is_active = 1`,
    hash,
    person,
    number,
  );
/** Has somebody sign in with another password; pages to choose one on that were made before open no more. */
export const changePassword = (person: string, hash: string): Statement =>
  query('UPDATE people SET password_hash = ?, welcome_number = welcome_number + 1 WHERE id = ?', hash, person);
/** Ends all sessions of somebody. */
export const endSessions = (person: string): Statement => query('DELETE FROM sessions WHERE person_id = ?', person);

/** Which sources somebody looks after, all of them anew. */
export const replaceLookedAfter = (person: string, sources: readonly string[]): Statement[] => [
  query('DELETE FROM source_coordinators WHERE person_id = ?', person),
  ...(sources.length > 0
    ? [
        query(
          'INSERT INTO source_coordinators (source_id, person_id) VALUES ?',
          sources.map((source) => [source, person]),
        ),
      ]
    : []),
];
/** To which groups somebody belongs by themselves, all of them anew. */
export const replaceGroups = (person: string, groups: readonly string[]): Statement[] => [
  query("DELETE FROM group_members WHERE kind = 'person' AND member_id = ?", person),
  ...(groups.length > 0
    ? [
        query(
          'INSERT INTO group_members (group_id, kind, member_id) VALUES ?',
          groups.map((group) => [group, 'person', person]),
        ),
      ]
    : []),
];

/** Makes a group, or calls it otherwise. */
export const saveGroup = (id: string, name: string): Statement =>
  query('INSERT INTO groups_of_people (id, name) VALUES (?, ?) ON DUPLICATE KEY UPDATE name = VALUES(name)', id, name);
/** Who and which groups belong to a group, all of them anew. */
export const replaceMembers = (
  group: string,
  { members, groups }: { members: readonly string[]; groups: readonly string[] },
): Statement[] => {
  const rows = [
    ...members.map((member) => [group, 'person', member]),
    ...groups.map((member) => [group, 'group', member]),
  ];
  return [
    query('DELETE FROM group_members WHERE group_id = ?', group),
    ...(rows.length > 0 ? [query('INSERT INTO group_members (group_id, kind, member_id) VALUES ?', rows)] : []),
  ];
};
/** Takes a group away, with what it held and what its members started with. */
export const dropGroup = (id: string): Statement[] => [
  query('DELETE FROM groups_of_people WHERE id = ?', id),
  query("DELETE FROM starting_plans WHERE kind = 'group' AND named = ?", id),
  query("DELETE FROM group_members WHERE group_id = ? OR (kind = 'group' AND member_id = ?)", id, id),
];

/** Makes a contact outside, of whom nobody knows yet whether they may be written to. */
export const createContact = (id: string, name: string, email: string): Statement =>
  query('INSERT INTO contacts (id, name, email, is_confirmed) VALUES (?, ?, ?, 0)', id, name, email);
/** Calls a contact otherwise. */
export const nameContact = (id: string, name: string): Statement =>
  query('UPDATE contacts SET name = ? WHERE id = ?', name, id);
/** Takes a contact away, with what was asked of them. */
export const dropContact = (id: string): Statement[] => [
  query('DELETE FROM contacts WHERE id = ?', id),
  query("DELETE FROM address_asks WHERE owner_kind = 'contact' AND owner_id = ?", id),
];

/** The plans that people start with, in the order in which they are looked through. */
export const startingPlans = (): Query<StartingPlan> =>
  select(
    record<StartingPlan>({ kind: word('kind'), named: text('named'), plan: json('plan') }),
    'SELECT kind, named, plan FROM starting_plans ORDER BY place',
  );
/** The plans that people start with, all of them anew. */
export const replaceStartingPlans = (plans: readonly StartingPlan[]): Statement[] => [
  query('DELETE FROM starting_plans'),
  ...(plans.length > 0
    ? [
        query(
          'INSERT INTO starting_plans (place, kind, named, plan) VALUES ?',
          plans.map(({ kind, named, plan }, place) => [place, kind, named, JSON.stringify(plan)]),
        ),
      ]
    : []),
];
