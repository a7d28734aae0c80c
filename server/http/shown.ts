import type { ItemRow, Sample, TrailRow } from '../../contract/api.ts';
import type { Source } from '../../core/values/index.ts';
import { sameValue } from '../../core/values/index.ts';
import type { Connection, StoredChange, StoredItem } from '../store/index.ts';
import { type Caller, readableAmong, when } from './context.ts';

/** A stored change as pages show it: only the fields that differ. */
export function trailRow(change: StoredChange, source: Source, caughtBy: string[] = []): TrailRow {
  return {
    id: change.id,
    at: when(change.at),
    kind: change.kind,
    actor: change.actor,
    version: change.itemVersion,
    fields: source.fields
      .filter((field) => !sameValue(field.type, change.before?.[field.id], change.after?.[field.id]))
      .map((field) => ({
        field: field.id,
        before: change.before?.[field.id] ?? null,
        after: change.after?.[field.id] ?? null,
      })),
    folder: change.folder,
    folderBefore: change.folderBefore,
    text: change.detail.text ?? null,
    caughtBy,
  };
}

export const itemRow = (item: StoredItem, last: TrailRow | null): ItemRow => ({
  id: item.id,
  source: item.source,
  folder: item.folder,
  title: item.title,
  fields: item.fields,
  version: item.version,
  isDeleted: item.isDeleted,
  lastAt: when(item.lastAt),
  lastBy: item.lastBy,
  last,
});

/** Changes as pages show them, with the titles of their items as far as the caller may read them. */
export async function samplesOf(on: Connection, changes: StoredChange[], { me, directory }: Caller): Promise<Sample[]> {
  const items = await readableAmong(
    on,
    changes.map((change) => change.item),
    me.id,
    directory,
  );
  return changes.map((change) => {
    const source = directory.sources.get(change.source) as Source;
    const title = String((change.after ?? change.before)?.[source.titleField] ?? '');
    return {
      source: change.source,
      item: change.item,
      title: items.get(change.item)?.title ?? title,
      row: trailRow(change, source),
    };
  });
}
