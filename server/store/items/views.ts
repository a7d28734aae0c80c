import type { Instant } from '../../../core/time/index.ts';
import { json, type Query, query, record, select, sqlTime, type Statement, text } from '../database/query.ts';

/** A filtered view of a source, by name; `asked` as the page that keeps it has it. */
export interface StoredView {
  id: string;
  name: string;
  owner: string;
  asked: Record<string, string | undefined>;
}
const decode = record<StoredView>({
  id: text('id'),
  name: text('name'),
  owner: text('owner_id'),
  asked: json('asked'),
});

/** The named views of a source, by name. */
export const ofSource = (source: string): Query<StoredView> =>
  select(decode, 'SELECT id, name, asked, owner_id FROM views WHERE source_id = ? ORDER BY name, id', source);
/** Keeps a view of a source under a name. */
export const add = (source: string, view: StoredView, at: Instant): Statement =>
  query('INSERT INTO views (id, source_id, name, asked, owner_id, created_at) VALUES (?)', [
    view.id,
    source,
    view.name,
    JSON.stringify(view.asked),
    view.owner,
    sqlTime(at),
  ]);
/** Takes a view away; only its owner's, where one is named. */
export const remove = (id: string, owner: string | null): Statement =>
  owner === null
    ? query('DELETE FROM views WHERE id = ?', id)
    : query('DELETE FROM views WHERE id = ? AND owner_id = ?', id, owner);
