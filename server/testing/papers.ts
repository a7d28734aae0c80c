import type { Pool } from 'mysql2/promise';
import type { Source } from '../../core/values/index.ts';
import { query, runAll, store } from '../store/index.ts';

/** Documents in two folders, of which the second is open to insurers and to whom a document is shared with. */
export const PAPERS: Source = {
  id: 'papers',
  kind: 'folders',
  name: 'Papers',
  titleField: 'name',
  fields: [
    { id: 'name', name: 'Name', type: 'text' },
    { id: 'approval', name: 'Approval', type: 'choice', options: ['Draft', 'Submitted', 'Approved', 'Rejected'] },
    { id: 'version', name: 'Version', type: 'number' },
    { id: 'size', name: 'Size in KB', type: 'number' },
    { id: 'approver', name: 'Approver', type: 'person' },
    { id: 'checkedOutBy', name: 'Checked out by', type: 'person' },
    { id: 'sharedWith', name: 'Shared with', type: 'people' },
  ],
};

/** Puts the source and its folders into a museum of tests; ines looks after it. */
export async function layOutPapers(pool: Pool): Promise<void> {
  const { id, kind, name, titleField, fields } = PAPERS;
  await runAll(pool, [
    query('INSERT INTO sources (id, kind, name, about, title_field, fields, position) VALUES (?)', [
      id,
      kind,
      name,
      '',
      titleField,
      JSON.stringify(fields),
      1,
    ]),
    query(
      "INSERT INTO folders (id, source_id, name, parent_id) VALUES ('open', 'papers', 'Open', NULL), ('closed', 'papers', 'Closed', NULL)",
    ),
    query(
      'INSERT INTO access_entries (source_id, folder_id, readers) VALUES (NULL, ?, ?)',
      'closed',
      JSON.stringify([{ person: 'mei' }, { person: 'ines' }, { field: 'sharedWith' }]),
    ),
    query("INSERT INTO source_coordinators (source_id, person_id) VALUES ('papers', 'ines')"),
    store.world.raise(),
  ]);
}
