import type { Content, Entry, ShownField, Words } from './content.ts';
import { kindWords } from './entry.ts';
import { itemPath, lessPath, rulePath, sourcePath } from './paths.ts';
import { hasHead, ownBody, type Site } from './text.ts';

/** The same five signs that an HTML text or attribute may not hold as they are. */
export const escapeHtml = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;').replaceAll("'", '&#39;');

// Mail programs drop style sheets: every style stands on its element, in the tokens of the light theme.
const INK = '#17211c';
const SOFT = '#56615a';
const OLD = '#666f69';
const LINE = '#dcddd3';
const SAFFRON = '#ffc533';
const SANS = "'Instrument Sans','Helvetica Neue',Arial,sans-serif";
const MONO = "'JetBrains Mono',Menlo,Consolas,monospace";

const BARS = { routine: `1px solid ${OLD}`, important: `4px solid ${INK}`, critical: '8px double #b23a26' };

/** The HTML body of an email: the same content as the plain text, to be read in any mail program. */
export function htmlMail(content: Content, site: Site): string {
  const many = hasHead(content);
  const own = ownBody(content, site);
  const head = own === null && many
    ? `<h1 style="margin:0;font:700 23px/1.2 ${SANS};letter-spacing:-.01em">${escapeHtml(content.headline)}</h1>${content.lead ? `<p style="margin:4px 0 0;color:${SOFT}">${escapeHtml(content.lead)}</p>` : ''}`
    : '';
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(content.headline)}</title></head>
<body style="margin:0;padding:0;background:#fffefb;color:${INK};font:15px/1.45 ${SANS}">
<div style="max-width:640px;margin:0 auto;padding:26px 24px 0">${head}
${own === null ? content.entries.map((entry) => entryHtml(entry, site, many)).join('\n') : ownHtml(own, content)}
</div>
<div style="max-width:640px;margin:0 auto;padding:16px 24px 26px;color:${SOFT};font-size:13px">${escapeHtml(site.name)}. <a style="color:${INK}" href="${site.base}/inbox">All of your messages in Ojo</a></div>
</body></html>`;
}

/** The rule's own text: plain, with its links made links. */
function ownHtml(body: string, { entries }: Content): string {
  const linked = escapeHtml(body.trim()).replace(/https?:\/\/[^\s<]+/g, (link) => `<a style="color:${INK}" href="${link}">${link}</a>`);
  const doNow = entries.flatMap((entry) => entry.doNow).map((line) => `<p style="margin:10px 0 0"><b>Do now:</b> ${escapeHtml(line)}</p>`);
  return `<p style="margin:0;white-space:pre-line">${linked}</p>${doNow.join('')}`;
}

function entryHtml(entry: Entry, site: Site, many: boolean): string {
  const place = entry.item.folder.length > 0 ? entry.item.folder.join(' / ') : entry.item.sourceName;
  const link = `${site.base}${itemPath(entry.item.id)}`;
  const [only] = entry.steps;
  const by = entry.steps.length === 1 && only ? ` by ${escapeHtml(only.actor)}` : '';
  const what = entry.isBack
    ? '<b>Back where it was</b>'
    : entry.fields.length > 0
      ? entry.fields.map(mark).join(', ')
      : `<mark style="background:${SAFFRON};color:${INK};padding:0 4px">${escapeHtml(entry.kind === null ? entry.notes.join(', ') : kindWords(entry.kind))}</mark>`;
  const notes = entry.kind === null ? [] : entry.notes;
  return `<div style="margin:16px 0 0;padding:${many ? '16px' : '0'} 0 0;${many ? `border-top:1px solid ${LINE}` : ''}"><div style="border-left:${BARS[entry.urgency]};padding:0 0 0 14px">
<p style="margin:0;font:700 ${many ? 16 : 20}px/1.3 ${SANS}"><a style="color:${INK};text-decoration:none" href="${link}">${escapeHtml(entry.item.title)}</a> <span style="font-weight:400;color:${SOFT};font-size:15px">${escapeHtml(place)}</span></p>
<p style="margin:4px 0 0">${what}${by}</p>${notes.map((note) => `<p style="margin:4px 0 0">${escapeHtml(note)}</p>`).join('')}
${stepsHtml(entry)}${entry.show.map(({ label, value }) => `<p style="margin:4px 0 0"><span style="color:${SOFT}">${escapeHtml(label)}</span> ${escapeHtml(value || 'empty')}</p>`).join('')}${entry.doNow.map((line) => `<p style="margin:10px 0 0"><b>Do now:</b> ${escapeHtml(line)}</p>`).join('')}
<div style="margin:10px 0 0;border-left:3px solid ${SAFFRON};padding-left:11px;font-size:13.5px">${entry.why.map(wordsHtml).join('<br>')}<br>Rule: ${entry.rules.map(({ id, name }) => `<a style="color:${INK}" href="${site.base}${rulePath(id)}">${escapeHtml(name)}</a>`).join(', ')}${entry.rules.slice(0, 1).map(({ id }) => `<br><a style="color:${INK}" href="${site.base}${escapeHtml(lessPath(id, entry.item.id))}">Less of this</a>`).join('')}</div>
<p style="margin:10px 0 0"><a style="color:${INK};font-weight:600" href="${link}">Open ${escapeHtml(entry.item.title)}</a> &nbsp; <a style="color:${INK}" href="${site.base}${sourcePath(entry.item.source)}">${escapeHtml(entry.item.sourceName)}</a></p>
</div></div>`;
}

function stepsHtml(entry: Entry): string {
  const [only] = entry.steps;
  const when = (text: string) => `<span style="font:12.5px ${MONO};color:${SOFT}">${escapeHtml(text)}</span>`;
  if (entry.steps.length === 1 && only) return `<p style="margin:4px 0 0">${when(only.when)}</p>`;
  if (entry.steps.length === 0) return '';
  const rows = entry.steps.map((step) => {
    const what = step.fields.map((field) => `${escapeHtml(field.label)} ${escapeHtml(field.before || 'empty')} → ${escapeHtml(field.after || 'empty')}`).join(', ') || escapeHtml(kindWords(step.kind));
    return `<tr><td style="padding:2px 14px 2px 0;white-space:nowrap;vertical-align:top">${when(step.hour)}</td><td style="padding:2px 14px 2px 0;vertical-align:top">${what}</td><td style="padding:2px 0;vertical-align:top">${escapeHtml(step.actor)}</td></tr>`;
  });
  return `<table role="presentation" style="border-collapse:collapse;margin:6px 0 0;font-size:14px">${rows.join('')}</table>`;
}

const mark = (field: ShownField) =>
  `${escapeHtml(field.label)} <s style="color:${OLD}">${escapeHtml(field.before || 'empty')}</s> <mark style="background:${SAFFRON};color:${INK};font-weight:600;padding:0 4px">${escapeHtml(field.after || 'empty')}</mark>`;

export const wordsHtml = (words: Words): string => words.map((part) => (typeof part === 'string' ? escapeHtml(part) : `<b>${escapeHtml(part.strong)}</b>`)).join('');
