import type { Channel } from '../people/index.ts';
import { BASE_MARK, type Content, type Entry, type ShownField } from './content.ts';
import { plainWords } from './condition-words.ts';
import { kindWords } from './entry.ts';
import { itemPath, lessPath, rulePath } from './paths.ts';
import { segmentsOf, toBasicSet } from './segments.ts';

/** Where Ojo stands, for links. `base` has no slash at its end. */
export interface Site {
  base: string;
  name: string;
}

const side = (text: string) => text || 'empty';
const fieldLine = (field: ShownField) => `${field.label}: ${side(field.before)} → ${side(field.after)}`;

/** A message's words on a channel: one line for a text message, the plain-text body elsewhere. */
export const wordsOf = (content: Content, channel: Channel, site: Site): string => (channel === 'text' ? textMessage(content, site) : plainText(content, site));

/** The rule's own body where it has one, with the site's address in its links. */
export const ownBody = ({ own }: Content, site: Site): string | null => own?.body?.replaceAll(BASE_MARK, site.base) ?? null;

/** The line under which a message goes: the rule's own, else what the message says. */
export const subjectOf = ({ own, headline }: Content, site: Site): string => own?.subject?.replaceAll(BASE_MARK, site.base) ?? headline;

/** Whether several items, or what stands above them, ask for a heading. */
export const hasHead = ({ form, entries }: Content): boolean => form !== 'single' || entries.length > 1;

/** The plain-text body of an email. */
function plainText(content: Content, site: Site): string {
  const own = ownBody(content, site);
  if (own !== null) return [own.trimEnd(), '', ...content.entries.flatMap((entry) => entry.doNow.map((line) => `Do now: ${line}`))].join('\n').trimEnd().concat('\n');
  const isGathered = content.form === 'digest' || content.form === 'summary';
  const head = hasHead(content) ? [content.headline, ...(content.lead ? [content.lead] : []), ''] : [];
  const foot = isGathered ? [`All of your messages: ${site.base}/inbox`] : [];
  return [...head, ...content.entries.flatMap((entry) => [...entryText(entry, site), '']), ...foot].join('\n').trimEnd().concat('\n');
}

function entryText(entry: Entry, site: Site): string[] {
  const [only] = entry.steps;
  const lines = [entry.headline, ''];
  if (entry.fields.length > 0) lines.push(...entry.fields.map(fieldLine));
  if (entry.kind !== null) lines.push(...entry.notes);
  if (entry.steps.length === 1 && only) lines.push(`By ${only.actor}, ${only.when}`);
  else if (entry.steps.length > 0) lines.push(...entry.steps.map((step) => `  ${step.hour}  ${step.actor}: ${step.fields.map(fieldLine).join('; ') || kindWords(step.kind)}`));
  if (entry.show.length > 0) lines.push('', ...entry.show.map(({ label, value }) => `${label}: ${side(value)}`));
  if (entry.doNow.length > 0) lines.push('', ...entry.doNow.map((line) => `Do now: ${line}`));
  lines.push('', `Why you heard: ${entry.why.map(plainWords).join(' ')}`);
  lines.push(...entry.rules.map(({ id, name }) => `Rule: ${name} ${site.base}${rulePath(id)}`));
  lines.push(...entry.rules.slice(0, 1).map(({ id }) => `Less of this: ${site.base}${lessPath(id, entry.item.id)}`));
  lines.push(`Open ${entry.item.title}: ${site.base}${itemPath(entry.item.id)}`);
  return lines;
}

/** A text message: one line with a short link, in the fullest wording that fits one segment of GSM-7, else the fullest. */
function textMessage(content: Content, site: Site): string {
  const own = ownBody(content, site);
  if (own !== null) return toBasicSet([own, content.entries[0]?.doNow[0] ?? ''].join(' ').replace(/\s+/g, ' ').trim());
  const [entry] = content.entries;
  if (content.form === 'digest' || content.form === 'summary' || content.entries.length > 1 || !entry) return toBasicSet(`${content.headline}. ${site.base}/inbox`);
  const link = `${site.base}${itemPath(entry.item.id)}`;
  if (content.form === 'allClear') return toBasicSet(`${content.headline}. ${link}`);
  const before = content.form === 'reminder' ? 'Waits for you: ' : content.form === 'escalation' ? 'Not taken on: ' : '';
  const forms = wordings(entry).map((form) => toBasicSet(`${before}${entry.item.title}${form} ${link}`));
  return forms.find((form) => segmentsOf(form).count === 1) ?? (forms[0] as string);
}

/** What a text message may say after the item's name, the fullest first. */
function wordings(entry: Entry): string[] {
  const doNow = entry.doNow[0] ? ` ${entry.doNow[0]}` : '';
  if (entry.kind === null) return [`: ${entry.notes.join(', ')}.${doNow}`, `: ${entry.notes[0] ?? ''}.`];
  const step = entry.steps.at(-1);
  const bare = (text: string) => side(text).replace(/[.\s]+$/, '');
  const moves = entry.fields.map((field) => `${field.label} from ${bare(field.before)} to ${bare(field.after)}`);
  const what = moves.length > 0 && entry.kind === 'changed' ? `: ${moves.join(', ')}` : ` ${kindWords(entry.kind)}`;
  const lead = moves.length > 0 && entry.kind === 'changed' ? `: ${moves[0]}` : what;
  const by = step ? `, by ${step.actor}` : '';
  const when = step ? `, ${step.hour}` : '';
  return [`${what}${by}${when}.${doNow}`, `${what}${by}${when}.`, `${lead}${by}${when}.`, `${lead}${by}.`];
}
