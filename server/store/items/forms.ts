import type { CivilDate } from '../../../core/time/index.ts';
import { flag, json, number, type Query, query, record, select, type Statement, text } from '../database/query.ts';

/** A form behind a link: what it asks of whom it does not know. */
export interface OpenForm {
  id: string;
  token: string;
  source: string;
  title: string;
  about: string;
  thanks: string;
  fields: { field: string; isNeeded: boolean }[];
  /** So many are taken on one day, in its zone. */
  most: number;
  isOpen: boolean;
  locale: string;
  zone: string;
  /** How many were taken in all. */
  sent: number;
}

const COLUMNS = 'id, token, source_id, title, about, thanks, fields, most, is_open, locale, zone, sent';
const decode = record<OpenForm>({
  id: text('id'),
  token: text('token'),
  source: text('source_id'),
  title: text('title'),
  about: text('about'),
  thanks: text('thanks'),
  fields: json('fields'),
  most: number('most'),
  isOpen: flag('is_open'),
  locale: text('locale'),
  zone: text('zone'),
  sent: number('sent'),
});

/** The forms of a source, by title. */
export const ofSource = (source: string): Query<OpenForm> =>
  select(decode, `SELECT ${COLUMNS} FROM forms WHERE source_id = ? ORDER BY title, id`, source);
/** One form, for those who set it up. */
export const byId = (id: string): Query<OpenForm> => select(decode, `SELECT ${COLUMNS} FROM forms WHERE id = ?`, id);
/** The form that a link leads to. */
export const byToken = (token: string): Query<OpenForm> =>
  select(decode, `SELECT ${COLUMNS} FROM forms WHERE token = ?`, token);
/** What all forms are called: each adds as a system of its own. */
export const titles = (): Query<{ id: string; title: string }> =>
  select(record({ id: text('id'), title: text('title') }), 'SELECT id, title FROM forms');
/** Puts a form as it is to be; how many were taken stays. */
export const save = (form: Omit<OpenForm, 'sent'>): Statement =>
  query(
    `INSERT INTO forms (id, token, source_id, title, about, thanks, fields, most, is_open, locale, zone) VALUES (?)
    ON DUPLICATE KEY UPDATE title = VALUES(title), about = VALUES(about), thanks = VALUES(thanks),
      fields = VALUES(fields), most = VALUES(most), is_open = VALUES(is_open)`,
    [
      form.id,
      form.token,
      form.source,
      form.title,
      form.about,
      form.thanks,
      JSON.stringify(form.fields),
      form.most,
      form.isOpen ? 1 : 0,
      form.locale,
      form.zone,
    ],
  );
/** Takes a form away; its link leads nowhere from then on. */
export const remove = (id: string): Statement => query('DELETE FROM forms WHERE id = ?', id);
/** Counts one more of a day; changes no row where the form is closed, or so many have come on that day already. */
export const take = (id: string, day: CivilDate): Statement =>
  query(
    `UPDATE forms SET on_day = IF(day = ?, on_day, 0) + 1, day = ?, sent = sent + 1
    WHERE id = ? AND is_open = 1 AND (day IS NULL OR day <> ? OR on_day < most)`,
    day,
    day,
    id,
    day,
  );
