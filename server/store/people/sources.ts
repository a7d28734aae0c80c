import type { Field } from '../../../core/values/index.ts';
import type { AccessEntry } from '../../../core/people/index.ts';
import { query, type Statement } from '../database/query.ts';
import type { ListedSource } from './people.ts';

/** Makes a source, last in the order in which sources are listed. */
export const create = ({ id, kind, name, about, titleField, fields }: ListedSource): Statement =>
  query(
    `INSERT INTO sources (id, kind, name, about, title_field, fields, position)
     SELECT ?, ?, ?, ?, ?, ?, COALESCE(MAX(position), 0) + 1 FROM sources`,
    id,
    kind,
    name,
    about,
    titleField,
    JSON.stringify(fields),
  );
/** Gives a source another name, other words about it, and other fields. */
export const save = ({ id, name, about, titleField, fields }: ListedSource): Statement =>
  query(
    'UPDATE sources SET name = ?, about = ?, title_field = ?, fields = ? WHERE id = ?',
    name,
    about,
    titleField,
    JSON.stringify(fields),
    id,
  );
/** Gives a source other fields. */
export const saveFields = (id: string, fields: readonly Field[]): Statement =>
  query('UPDATE sources SET fields = ? WHERE id = ?', JSON.stringify(fields), id);
/** Has it noted who opens what lies in a folder and beneath it, or no longer. */
export const saveNotesLooks = (folder: string, isOn: boolean): Statement =>
  query('UPDATE folders SET notes_looks = ? WHERE id = ?', isOn ? 1 : 0, folder);
/** Has a source, or a folder of it, go by rights of its own; without any, by what stands above it. */
export const saveAccess = (
  source: string,
  folder: string | null,
  entry: Pick<AccessEntry, 'readers' | 'adders' | 'editors'> | null,
): Statement[] => {
  const json = (selectors: unknown) =>
    selectors === null || selectors === undefined ? null : JSON.stringify(selectors);
  const place = folder === null ? [source, null] : [null, folder];
  return [
    query('DELETE FROM access_entries WHERE source_id <=> ? AND folder_id <=> ?', ...place),
    ...(entry
      ? [
          query('INSERT INTO access_entries (source_id, folder_id, readers, adders, editors) VALUES (?)', [
            ...place,
            json(entry.readers),
            json(entry.adders),
            json(entry.editors),
          ]),
        ]
      : []),
  ];
};
