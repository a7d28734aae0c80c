import type { Instant } from '../../../core/time/index.ts';
import {
  flag,
  instant,
  json,
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

/** Of whom a second factor is asked. */
export type AskedOf = 'nobody' | 'stewards' | 'everybody';

/** The second thing by which somebody signs in. */
export interface SecondFactor {
  /** Sealed. */
  secret: string;
  /** Begun only, until a first code has shown that their telephone knows the secret. */
  isOn: boolean;
  since: Instant;
  /** The step, of thirty seconds, whose code was used last: none before it or of it is taken again. */
  lastStep: number;
  /** Digests of codes that open once each. */
  spareCodes: string[];
}

/** As what the secret of somebody's second factor is sealed. */
export const secondSecretOf = (person: string): string => `second/${person}`;

/** Somebody's second factor; nothing where they have none. */
export const ofPerson = (person: string): Query<SecondFactor> =>
  select(
    record<SecondFactor>({
      secret: text('secret'),
      isOn: flag('is_on'),
      since: instant('since'),
      lastStep: number('last_step'),
      spareCodes: json('spare_codes'),
    }),
    'SELECT secret, is_on, since, last_step, spare_codes FROM second_factors WHERE person_id = ?',
    person,
  );
/** Begins one with a secret, in the place of one that was begun; changes no row where one is on. */
export const begin = (person: string, secret: string, at: Instant): Statement =>
  query(
    `INSERT INTO second_factors (person_id, secret, since, spare_codes) VALUES (?, ?, ?, '[]')
      ON DUPLICATE KEY UPDATE secret = IF(is_on, secret, VALUES(secret)), since = IF(is_on, since, VALUES(since))`,
    person,
    secret,
    sqlTime(at),
  );
/** Puts it on, with codes for when the telephone is lost; changes no row where it is on. */
export const putOn = (person: string, step: number, spareCodes: readonly string[], at: Instant): Statement =>
  query(
    'UPDATE second_factors SET is_on = 1, last_step = ?, spare_codes = ?, since = ? WHERE person_id = ? AND is_on = 0',
    step,
    JSON.stringify(spareCodes),
    sqlTime(at),
    person,
  );
/** Uses the code of a step up; changes no row where that, or one after it, was used already. */
export const spendStep = (person: string, step: number): Statement =>
  query('UPDATE second_factors SET last_step = ? WHERE person_id = ? AND last_step < ?', step, person, step);
/** Uses a spare code up: `left` stands in the place of `known`; changes no row where another stands there. */
export const spendSpare = (person: string, known: readonly string[], left: readonly string[]): Statement =>
  query(
    'UPDATE second_factors SET spare_codes = ? WHERE person_id = ? AND spare_codes = ?',
    JSON.stringify(left),
    person,
    JSON.stringify(known),
  );
/** Takes somebody's second factor away. */
export const drop = (person: string): Statement => query('DELETE FROM second_factors WHERE person_id = ?', person);

/** Whose second factors there are, and their secrets. */
export const secrets = (): Query<{ person: string; secret: string }> =>
  select(record({ person: text('person_id'), secret: text('secret') }), 'SELECT person_id, secret FROM second_factors');
/** Takes away all of them. */
export const dropAll = (): Statement => query('DELETE FROM second_factors');

/** Of whom a second factor is asked. */
export const askedOf = (): Query<AskedOf> =>
  select(word<AskedOf>('second_factor'), 'SELECT second_factor FROM house_signing_in');
/** Asks it of others from now on. */
export const ask = (of: AskedOf): Statement => query('UPDATE house_signing_in SET second_factor = ?', of);
