import type { Eyed } from '../../../core/rules/index.ts';
import type { Paper, Sender, Usual } from '../../../core/messages/index.ts';
import { nullable, type Query, query, record, select, type Statement, text, word } from '../database/query.ts';

/** A name that the house has set up: of somebody, whose name and address it follows, of a team, or of the house itself. */
export interface SenderRow extends Sender {
  kind: 'person' | 'team' | 'house';
  person: string | null;
}

/** What stands above and below every email; one row. */
export const paper = (): Query<Paper> =>
  select(
    record<Paper>({ letterhead: nullable(text)('letterhead'), signOff: nullable(text)('sign_off') }),
    'SELECT letterhead, sign_off FROM house_paper WHERE id = 1',
  );
/** What stands above and below every email from now on. */
export const savePaper = ({ letterhead, signOff }: Paper): Statement =>
  query(
    `INSERT INTO house_paper (id, letterhead, sign_off)
      VALUES (1, ?, ?)
      ON DUPLICATE KEY UPDATE letterhead =
      VALUES(letterhead), sign_off =
      VALUES(sign_off)`,
    letterhead,
    signOff,
  );

/** Which rules the house wants a second pair of eyes on. */
export const secondEyes = (): Query<Eyed> =>
  select(word<Eyed>('kind'), 'SELECT kind FROM house_second_eyes ORDER BY kind');
/** Which rules it wants them on from now on, all of it anew. */
export const saveSecondEyes = (kinds: readonly Eyed[]): Statement[] => [
  query('DELETE FROM house_second_eyes'),
  ...(kinds.length > 0
    ? [
        query(
          'INSERT INTO house_second_eyes (kind) VALUES ?',
          kinds.map((kind) => [kind]),
        ),
      ]
    : []),
];

/** Which wordings are usual, where and when. */
export const usual = (): Query<Usual> =>
  select(
    record<Usual>({
      source: (row) => text('source_id')(row) || null,
      occasion: word('occasion'),
      wording: text('wording_id'),
    }),
    'SELECT source_id, occasion, wording_id FROM usual_wordings ORDER BY source_id, occasion',
  );
/** Where a wording is usual, all of it anew; it takes the place of another that was. */
export const saveUsual = (wording: string, places: readonly Omit<Usual, 'wording'>[]): Statement[] => [
  query('DELETE FROM usual_wordings WHERE wording_id = ?', wording),
  ...(places.length > 0
    ? [
        query(
          `INSERT INTO usual_wordings (source_id, occasion, wording_id)
            VALUES ?
            ON DUPLICATE KEY UPDATE wording_id =
            VALUES(wording_id)`,
          places.map(({ source, occasion }) => [source ?? '', occasion, wording]),
        ),
      ]
    : []),
];

/** All names that messages may come in: the house's, then teams', then people's, each by name. */
export const senders = (): Query<SenderRow> =>
  select(
    record<SenderRow>({
      id: text('id'),
      kind: word('kind'),
      person: nullable(text)('person_id'),
      name: text('name'),
      address: text('address'),
    }),
    "SELECT id, kind, person_id, name, address FROM senders ORDER BY FIELD(kind, 'house', 'team', 'person'), name, id",
  );
/** A name that messages may come in, new or as it is from now on. */
export const saveSender = ({ id, kind, person, name, address }: SenderRow): Statement =>
  query(
    `INSERT INTO senders (id, kind, person_id, name, address)
      VALUES (?)
      ON DUPLICATE KEY UPDATE kind =
      VALUES(kind), person_id =
      VALUES(person_id), name =
      VALUES(name), address =
      VALUES(address)`,
    [id, kind, person, name, address],
  );
/** Takes a name away. */
export const dropSender = (id: string): Statement => query('DELETE FROM senders WHERE id = ?', id);
