import type { Source } from '../../../core/values/index.ts';
import { t } from '../../words/writing.ts';
import { WHAT_CHANGED } from './template-doc.ts';

const KNOWN = {
  'item.id': () => t('item.id'),
  'item.title': () => t('item.title'),
  'item.source': () => t('item.source'),
  'item.folder': () => t('item.folder'),
  'change.kind': () => t('change.kind'),
  'change.actor': () => t('change.actor'),
  'change.actor.email': () => t('change.actor.email'),
  'change.at': () => t('change.at'),
  'recipient.id': () => t('recipient.id'),
  'recipient.name': () => t('recipient.name'),
  'rule.id': () => t('rule.id'),
  'rule.name': () => t('rule.name'),
  'rule.urgency': () => t('rule.urgency'),
  'rule.owner': () => t('rule.owner'),
  'message.headline': () => t('message.headline'),
  'message.text': () => t('message.text'),
  'message.urgency': () => t('message.urgency'),
  'message.form': () => t('message.form'),
  'message.at': () => t('message.at'),
  'message.id': () => t('message.id'),
  'message.items': () => t('message.items'),
  'message.link': () => t('message.link'),
  'message.why': () => t('message.why'),
  'message.doNow': () => t('message.doNow'),
  'item.link': () => t('links.item'),
  'change.what': () => t('change.what'),
  'change.when': () => t('change.at'),
  'rule.link': () => t('links.rule'),
  'links.item': () => t('links.item'),
  'links.folder': () => t('links.folder'),
  'links.rule': () => t('links.rule'),
  'links.unsubscribe': () => t('links.unsubscribe'),
  'links.acknowledge': () => t('links.acknowledge'),
} satisfies Record<string, () => string>;

const isKnown = (name: string): name is keyof typeof KNOWN => Object.hasOwn(KNOWN, name);

/** What a placeholder is called by those who write: a field by its name, one of what it links to behind it. */
export function placeholderName(name: string, sources: readonly Source[], all: readonly Source[]): string {
  if (isKnown(name)) return KNOWN[name]();
  const [root, fields, id, part] = name.split('.');
  const field = sources.flatMap((source) => source.fields).find((one) => one.id === id);
  if (root !== 'item' || fields !== 'fields') return name;
  // Of a source that one may not see, or that has lost it since.
  if (!field) return t('someField');
  if (part === undefined) return field.name;
  const linked = all.find((source) => source.id === field.to)?.fields.find((one) => one.id === part);
  const person: Record<string, string> = { name: t('person.name'), email: t('person.email') };
  return `${field.name} › ${linked?.name ?? person[part] ?? part}`;
}

/** A template in words: each placeholder by what it is called, no braces. */
export const templateInWords = (template: string, sources: readonly Source[], all: readonly Source[]): string =>
  template
    .replace(/\[([^\]\n]+)\]\((\{\{[^}]*\}\})\)/g, '$1: $2')
    .replaceAll(WHAT_CHANGED, `‹${t('whatChangedSays')}›\n`)
    .replace(/\{\{\s*([\w.]+)\s*\}\}/g, (_, name: string) => `‹${placeholderName(name, sources, all)}›`)
    .replace(/\{\{[\s\S]*?\}\}|\{%[\s\S]*?%\}/g, `‹${t('piece')}›`);
