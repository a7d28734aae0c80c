import type { Field } from '../../../core/values/index.ts';
import { query, type Statement } from '../database/query.ts';
import type { ListedSource } from './people.ts';

/** Makes a source, last in the order in which sources are listed. */
export const create = ({ id, kind, name, about, titleField, fields }: ListedSource): Statement =>
  query(
    'INSERT INTO sources (id, kind, name, about, title_field, fields, position) SELECT ?, ?, ?, ?, ?, ?, COALESCE(MAX(position), 0) + 1 FROM sources',
    id,
    kind,
    name,
    about,
    titleField,
    JSON.stringify(fields),
  );
/** Gives a source other fields. */
export const saveFields = (id: string, fields: readonly Field[]): Statement =>
  query('UPDATE sources SET fields = ? WHERE id = ?', JSON.stringify(fields), id);
