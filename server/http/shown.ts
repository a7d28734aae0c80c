import type { ItemRow, TrailRow } from '../../contract/api.ts';
import type { Source } from '../../core/values/index.ts';
import { sameValue } from '../../core/values/index.ts';
import type { StoredChange, StoredItem } from '../store/index.ts';
import { when } from './context.ts';

/** A stored change as pages show it: only the fields that differ. */
export function trailRow(change: StoredChange, source: Source, caughtBy: string[] = []): TrailRow {
  return {
    id: change.id, at: when(change.at), kind: change.kind, actor: change.actor, version: change.itemVersion,
    fields: source.fields
      .filter((field) => !sameValue(field.type, change.before?.[field.id], change.after?.[field.id]))
      .map((field) => ({ field: field.id, before: change.before?.[field.id] ?? null, after: change.after?.[field.id] ?? null })),
    folder: change.folder, folderBefore: change.folderBefore, text: change.detail.text ?? null, caughtBy,
  };
}

export const itemRow = (item: StoredItem, last: TrailRow | null): ItemRow => ({
  id: item.id, source: item.source, folder: item.folder, title: item.title, fields: item.fields, version: item.version, isDeleted: item.isDeleted,
  lastAt: when(item.lastAt), lastBy: item.lastBy, last,
});
