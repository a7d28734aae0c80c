import type { Channel } from '../people/index.ts';
import type { Content, Entry, ShownField } from './content.ts';
import { plainWords } from './condition-words.ts';
import { kindWords } from './entry.ts';
import { segmentsOf, toBasicSet } from './segments.ts';

/** Where Ojo stands, for links. `base` has no slash at its end. */
export interface Site {
  base: string;
  name: string;
}

export const itemPath = (id: string): string => `/items/${encodeURIComponent(id)}`;
export const rulePath = (id: string): string => `/rules/${encodeURIComponent(id)}`;
export const sourcePath = (id: string): string => `/sources/${encodeURIComponent(id)}`;

const side = (text: string) => text || 'empty';
const fieldLine = (field: ShownField) => `${field.label}: ${side(field.before)} → ${side(field.after)}`;

/** A message's words on a channel: one line for a text message, the plain-text body elsewhere. */
export const wordsOf = (content: Content, channel: Channel, site: Site): string => (channel === 'text' ? textMessage(content, site) : plainText(content, site));

/** The plain-text body of an email. */
function plainText(content: Content, site: Site): string {
  const head = content.form === 'digest' ? [content.headline, ...(content.lead ? [content.lead] : []), ''] : [];
  const foot = content.form === 'digest' ? [`All of your messages: ${site.base}/inbox`] : [];
  return [...head, ...content.entries.flatMap((entry) => [...entryText(entry, site), '']), ...foot].join('\n').trimEnd().concat('\n');
}

function entryText(entry: Entry, site: Site): string[] {
  const [only] = entry.steps;
  const lines = [entry.headline, ''];
  if (entry.fields.length > 0) lines.push(...entry.fields.map(fieldLine));
  if (entry.steps.length === 1 && only) lines.push(`By ${only.actor}, ${only.when}`);
  else lines.push(...entry.steps.map((step) => `  ${step.hour}  ${step.actor}: ${step.fields.map(fieldLine).join('; ') || kindWords(step.kind)}`));
  if (entry.show.length > 0) lines.push('', ...entry.show.map(({ label, value }) => `${label}: ${side(value)}`));
  if (entry.doNow.length > 0) lines.push('', ...entry.doNow.map((line) => `Do now: ${line}`));
  lines.push('', `Why you heard: ${entry.why.map(plainWords).join(' ')}`);
  lines.push(...entry.rules.map(({ id, name }) => `Rule: ${name} ${site.base}${rulePath(id)}`));
  lines.push(`Open ${entry.item.title}: ${site.base}${itemPath(entry.item.id)}`);
  return lines;
}

/** A text message: one line with a short link, in the fullest wording that fits one segment of GSM-7, else the fullest. */
function textMessage(content: Content, site: Site): string {
  const [entry] = content.entries;
  if (content.form === 'digest' || content.entries.length > 1 || !entry) return toBasicSet(`${content.headline}. ${site.base}/inbox`);
  const link = `${site.base}${itemPath(entry.item.id)}`;
  const step = entry.steps.at(-1);
  const bare = (text: string) => side(text).replace(/[.\s]+$/, '');
  const moves = entry.fields.map((field) => `${field.label} from ${bare(field.before)} to ${bare(field.after)}`);
  const what = moves.length > 0 && entry.kind === 'changed' ? `: ${moves.join(', ')}` : ` ${kindWords(entry.kind)}`;
  const lead = moves.length > 0 && entry.kind === 'changed' ? `: ${moves[0]}` : what;
  const by = step ? `, by ${step.actor}` : '';
  const when = step ? `, ${step.hour}` : '';
  const doNow = entry.doNow[0] ? ` ${entry.doNow[0]}` : '';
  const forms = [`${what}${by}${when}.${doNow}`, `${what}${by}${when}.`, `${lead}${by}${when}.`, `${lead}${by}.`].map((form) => toBasicSet(`${entry.item.title}${form} ${link}`));
  return forms.find((form) => segmentsOf(form).count === 1) ?? (forms[0] as string);
}
