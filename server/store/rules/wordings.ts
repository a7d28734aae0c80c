import type { Wording } from '../../../core/decide/index.ts';
import { query, type Statement } from '../database/query.ts';

/** Texts that several rules share. */
export const save = ({ id, name, subject, body }: Wording): Statement =>
  query(
    `INSERT INTO wordings (id, name, subject, body)
      VALUES (?)
      ON DUPLICATE KEY UPDATE name =
      VALUES(name), subject =
      VALUES(subject), body =
      VALUES(body)`,
    [id, name, subject, body],
  );
/** Takes a shared wording away. */
export const drop = (id: string): Statement => query('DELETE FROM wordings WHERE id = ?', id);
