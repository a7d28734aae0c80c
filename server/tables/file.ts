import type { TableKind } from './parsing.ts';
import type { Held } from './plain-text.ts';
import { apart } from './working.ts';
import type { Written } from './writing.ts';

const MEDIA: Record<TableKind, string> = {
  csv: 'text/csv; charset=utf-8',
  json: 'application/json; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
};

/** A table as a file of one kind. */
export async function tableFile(table: Written, kind: TableKind): Promise<{ mediaType: string; bytes: Buffer }> {
  return { mediaType: MEDIA[kind], bytes: Buffer.from(await apart<Uint8Array>({ work: 'write', table, kind })) };
}

/** What each of some documents says, as plain text. */
export const plainTexts = (documents: readonly Held[]): Promise<string[]> =>
  documents.length === 0 ? Promise.resolve([]) : apart<string[]>({ work: 'texts', documents });
