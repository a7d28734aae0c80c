import type { MessageRow } from '../../contract/api.ts';
import { kindWords, tongueOf } from '../../core/messages/index.ts';

/** What a message is about, in a line: the item, and what happened to it where the fields below do not say so. */
export function headlineOf({ content, form, subject }: Pick<MessageRow, 'content' | 'form' | 'subject'>): string {
  const [entry] = content.entries;
  if (form === 'digest') return `Digest: ${entry && content.entries.length === 1 ? entry.item.title : content.headline}`;
  if (!entry || form !== 'single' || content.own?.subject || content.entries.length > 1) return subject;
  if (entry.kind === null) return entry.item.title;
  return entry.kind === 'changed' && entry.fields.length > 0 ? entry.item.title : `${entry.item.title} ${kindWords(entry.kind, tongueOf(content.language))}`;
}
