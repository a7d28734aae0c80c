import type { Instant } from '../../../core/time/index.ts';
import {
  flag,
  instant,
  nullable,
  number,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
  text,
  word,
} from '../database/query.ts';

/** An address that waits for somebody's yes. */
export interface AddressAsk {
  id: string;
  ownerKind: 'person' | 'contact';
  owner: string;
  channel: 'email' | 'text';
  address: string;
  code: string | null;
  tries: number;
  askedAt: Instant;
  times: number;
  /** It is to stand beside the usual one, not in its place. */
  isFurther: boolean;
}

const COLUMNS = 'id, owner_kind, owner_id, channel, address, code, tries, asked_at, times, is_further';
const toAsk = record<AddressAsk>({
  id: text('id'),
  ownerKind: word('owner_kind'),
  owner: text('owner_id'),
  channel: word('channel'),
  address: text('address'),
  code: nullable(text)('code'),
  tries: number('tries'),
  askedAt: instant('asked_at'),
  times: number('times'),
  isFurther: flag('is_further'),
});

/** One question whether an address is somebody's. */
export const ask = (id: string): Query<AddressAsk> =>
  select(toAsk, `SELECT ${COLUMNS} FROM address_asks WHERE id = ?`, id);
/** The questions that are open for somebody's addresses. */
export const asksOf = (ownerKind: AddressAsk['ownerKind'], owner: string): Query<AddressAsk> =>
  select(toAsk, `SELECT ${COLUMNS} FROM address_asks WHERE owner_kind = ? AND owner_id = ?`, ownerKind, owner);
/** The questions that are open for contacts' addresses. */
export const asksOfContacts = (): Query<AddressAsk> =>
  select(toAsk, `SELECT ${COLUMNS} FROM address_asks WHERE owner_kind = 'contact'`);
/** Asks, or asks again: an earlier link and code of the same owner and channel are good for nothing then. The same ask written twice counts once. */
export const keepAsk = ({
  id,
  ownerKind,
  owner,
  channel,
  address,
  code,
  askedAt,
  isFurther,
}: Omit<AddressAsk, 'tries' | 'times'>): Statement =>
  query(
    `INSERT INTO address_asks (id, owner_kind, owner_id, channel, address, code, asked_at, is_further) VALUES (?)
    ON DUPLICATE KEY UPDATE times = times + IF(id = VALUES(id), 0, 1), id = VALUES(id), address = VALUES(address), is_further = VALUES(is_further), code = VALUES(code), tries = 0, asked_at = VALUES(asked_at)`,
    [id, ownerKind, owner, channel, address, code, sqlTime(askedAt), isFurther ? 1 : 0],
  );
/** Takes up one of the tries that a code has; changes no row where there is none left, so that tries at the same time are counted too. */
export const tryCode = (id: string, most: number): Statement =>
  query('UPDATE address_asks SET tries = tries + 1 WHERE id = ? AND tries < ?', id, most);
/** Takes a question back, answered or not. */
export const dropAsk = (ownerKind: AddressAsk['ownerKind'], owner: string, channel: AddressAsk['channel']): Statement =>
  query('DELETE FROM address_asks WHERE owner_kind = ? AND owner_id = ? AND channel = ?', ownerKind, owner, channel);

/** Contacts and strangers of whom something was withheld because they have not confirmed, and who were never asked or last so long ago, and not too often. */
export const unasked = (since: Instant, askedBefore: Instant, most: number): Query<string> =>
  select(
    text('person_id'),
    `SELECT w.person_id, MIN(w.rule_id) AS rule_id
      FROM withheld w
      LEFT
      JOIN address_asks a ON a.owner_kind = 'contact' AND a.owner_id = w.person_id
    WHERE w.reason = 'unconfirmed' AND w.at >= ? AND (a.id IS NULL OR (a.asked_at < ? AND a.times < ?)) GROUP BY w.person_id LIMIT 50`,
    sqlTime(since),
    sqlTime(askedBefore),
    most,
  );
/** How much was withheld from each for that reason, since an instant. */
export const withheldUnconfirmed = (since: Instant): Query<{ person: string; withheld: number }> =>
  select(
    record({ person: text('person_id'), withheld: number('withheld') }),
    "SELECT person_id, COUNT(*) AS withheld FROM withheld WHERE reason = 'unconfirmed' AND at >= ? GROUP BY person_id",
    sqlTime(since),
  );
/** How many confirming messages somebody had sent since an instant. */
export const asksSent = (person: string, since: Instant): Query<number> =>
  select(
    number('asked'),
    "SELECT COUNT(*) AS asked FROM messages WHERE person_id = ? AND form = 'confirm' AND at >= ?",
    person,
    sqlTime(since),
  );
/** Rules by which something was withheld from somebody because they have not confirmed. */
export const rulesUnconfirmed = (contact: string): Query<string> =>
  select(
    text('rule_id'),
    "SELECT DISTINCT rule_id FROM withheld WHERE person_id = ? AND reason = 'unconfirmed' ORDER BY rule_id LIMIT 20",
    contact,
  );

/** An outside address said yes; one that nobody knew is a contact from then on. */
export const confirmContact = (id: string, email: string): Statement =>
  query(
    `INSERT INTO contacts (id, name, email, is_confirmed)
      VALUES (?, ?, ?, 1)
      ON DUPLICATE KEY UPDATE is_confirmed = 1, has_left_all = 0`,
    id,
    email,
    email,
  );
/** A contact leaves one rule, or with `null` all; an address that nobody knew is a contact from then on. */
export const leave = (id: string, email: string, rule: string | null): Statement[] => [
  query(
    `INSERT INTO contacts (id, name, email, is_confirmed, has_left_all)
      VALUES (?, ?, ?, 0, ?)
      ON DUPLICATE KEY UPDATE has_left_all = has_left_all OR
      VALUES(has_left_all)`,
    id,
    email,
    email,
    rule === null ? 1 : 0,
  ),
  ...(rule === null
    ? []
    : [query('INSERT IGNORE INTO contact_leavings (contact_id, rule_id) VALUES (?, ?)', id, rule)]),
];

/** Where somebody's email goes; `null`: to the address they sign in with. */
export const saveMailTo = (person: string, address: string | null): Statement =>
  query('UPDATE people SET mail_to = ? WHERE id = ?', address, person);
/** Has one more address stand beside somebody's usual one. */
export const addFurther = (person: string, address: string): Statement =>
  query('INSERT IGNORE INTO further_addresses (person_id, address) VALUES (?, ?)', person, address);
/** Takes such an address away. */
export const dropFurther = (person: string, address: string): Statement =>
  query('DELETE FROM further_addresses WHERE person_id = ? AND address = ?', person, address);
/** Where somebody's texts go; `null`: nowhere. */
export const savePhone = (person: string, number: string | null): Statement =>
  query('UPDATE people SET phone = ? WHERE id = ?', number, person);

/** A number as it is compared: without the spaces that people put in. */
export const bareNumber = (number: string): string => number.replace(/\s/g, '');
/** A number wants no more texts. */
export const silence = (number: string, at: Instant): Statement =>
  query('INSERT IGNORE INTO silenced_numbers (number, at) VALUES (?, ?)', bareNumber(number), sqlTime(at));
/** A number takes texts again. */
export const unsilence = (number: string): Statement =>
  query('DELETE FROM silenced_numbers WHERE number = ?', bareNumber(number));
/** Text messages that went to a number since an instant, the last first. */
export const textsTo = (number: string, since: Instant): Query<{ id: string; person: string }> =>
  select(
    record({ id: text('id'), person: text('person_id') }),
    "SELECT id, person_id FROM messages WHERE channel = 'text' AND address IN (?) AND at >= ? ORDER BY at DESC LIMIT 500",
    [number, bareNumber(number)],
    sqlTime(since),
  );

/** An address that mail came back from for good: nothing more goes there until somebody tries it again. */
export interface SuspendedAddress {
  address: string;
  since: Instant;
  reply: string;
}
/** All addresses that nothing goes to, because nobody is behind them. */
export const suspended = (): Query<SuspendedAddress> =>
  select(
    record({ address: text('address'), since: instant('since'), reply: text('reply') }),
    'SELECT address, since, reply FROM suspended_addresses ORDER BY address',
  );
/** Nothing more goes to an address; the first message that came back stands for it. */
export const suspend = (
  address: string,
  { message, at, reply }: { message: string; at: Instant; reply: string },
): Statement =>
  query('INSERT IGNORE INTO suspended_addresses (address, since, message_id, reply) VALUES (?)', [
    address.trim().toLowerCase(),
    sqlTime(at),
    message,
    reply.slice(0, 500),
  ]);
/** Mail goes to an address again. */
export const resume = (address: string): Statement =>
  query('DELETE FROM suspended_addresses WHERE address = ?', address.trim().toLowerCase());
