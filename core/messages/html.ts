import type { Content, Entry, ReportTable, ShownField, Words } from './content.ts';
import {
  acknowledgeLink,
  isAsked,
  itemLink,
  type MessageLinks,
  lessLink,
  MOST_STEPS,
  ruleLink,
  shownOf,
  wholeLink,
} from './message-links.ts';
import { type Line, linesOf, marked, type Run } from './marked.ts';
import { itemPath, sourcePath } from './paths.ts';
import { hasHead, hasSources, nowLines, ownBody, sideWords } from './text.ts';
import { type Phrases, phrasesFor } from './locales/index.ts';
import { kindWords } from './occasion-words.ts';

/** The same five signs that an HTML text or attribute may not hold as they are. */
export const escapeHtml = (text: string): string =>
  text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;');

// Many mail programs drop style sheets: every style stands on its element, in the tokens of the light theme.
const INK = '#17211c';
const SOFT = '#56615a';
const OLD = '#666f69';
const LINE = '#dcddd3';
const SAFFRON = '#ffc533';
const SANS = "'Instrument Sans','Helvetica Neue',Arial,sans-serif";
const MONO = "'JetBrains Mono',Menlo,Consolas,monospace";

const SHEET = '#fffefb';
/** For programs that keep style sheets and are dark: the tokens of the dark theme, in place of those that stand on elements. */
const DARK = `@media (prefers-color-scheme:dark){
body{background:#18201b!important;color:#eef0e8!important}
[style*="color:${INK}"]{color:#eef0e8!important}[style*="color:${SOFT}"],[style*="color:${OLD}"]{color:#aab3ac!important}
[style*="solid ${LINE}"],[style*="solid ${OLD}"]{border-color:#2b352f!important}[style*="solid ${INK}"]{border-color:#eef0e8!important}
[style*="background:${INK}"]{background:#eef0e8!important;color:#111713!important}[style*="background:${SAFFRON}"]{color:${INK}!important}
}`;

const BARS = { routine: `1px solid ${OLD}`, important: `4px solid ${INK}`, critical: '8px double #b23a26' };

/** The HTML body of an email: the same content as the plain text, to be read in any mail program. */
export function htmlMail(content: Content, links: MessageLinks): string {
  const phrases = phrasesFor(content.language);
  const many = hasHead(content);
  const own = ownBody(content, links);
  const head =
    own === null && many
      ? `<h1 style="margin:0;font:700 23px/1.2 ${SANS};letter-spacing:-.01em">${escapeHtml(content.headline)}</h1>${content.lead ? `<p style="margin:4px 0 0;color:${SOFT}">${escapeHtml(content.lead)}</p>` : ''}`
      : '';
  return `<!doctype html>
<html lang="${phrases.language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta name="color-scheme" content="light dark"><meta name="supported-color-schemes" content="light dark"><style>${DARK}</style><title>${escapeHtml(content.headline)}</title></head>
<body style="margin:0;padding:0;background:${SHEET};color:${INK};font:15px/1.45 ${SANS}">
${letterheadHtml(links)}<div style="max-width:640px;margin:0 auto;padding:26px 24px 0">${head}
${own === null ? entriesHtml(content, links, phrases) : ownHtml(own, content, links, phrases)}
${signOffHtml(links)}</div>
<div style="max-width:640px;margin:0 auto;padding:16px 24px 26px;color:${SOFT};font-size:13px">${footHtml(content, links, phrases)}</div>
</body></html>`;
}

/** What the house puts above every message, parted from it by a line. */
const letterheadHtml = ({ paper }: MessageLinks): string =>
  paper?.letterhead
    ? `<div style="max-width:640px;margin:0 auto;padding:22px 24px 0"><div style="padding:0 0 12px;border-bottom:1px solid ${LINE};color:${SOFT};font-size:14px">${markedHtml(marked(paper.letterhead))}</div></div>\n`
    : '';
const signOffHtml = ({ paper }: MessageLinks): string =>
  paper?.signOff ? `<div style="margin:22px 0 0">${markedHtml(marked(paper.signOff))}</div>\n` : '';

const link = (href: string, words: string, style = '') =>
  `<a style="color:${INK};${style}" href="${escapeHtml(href)}">${escapeHtml(words)}</a>`;
const linkOr = (href: string | null, words: string, style = '') =>
  href === null ? escapeHtml(words) : link(href, words, style);
const button = (href: string, words: string) =>
  `<a style="display:inline-block;background:${INK};color:${SHEET};font-weight:600;text-decoration:none;border-radius:4px;padding:6px 14px" href="${escapeHtml(href)}">${escapeHtml(words)}</a>`;

function footHtml({ form }: Content, links: MessageLinks, phrases: Phrases): string {
  if (form === 'confirm') return escapeHtml(links.name);
  const again = links.again ? `${link(links.again, phrases.say('say.again'))} &nbsp; ` : '';
  if (!links.leave)
    return `${escapeHtml(links.name)}. ${again}${link(`${links.base}/inbox`, phrases.say('say.allMessages'))} &nbsp; ${link(`${links.base}/plan`, phrases.say('say.howReached'))}`;
  return `${escapeHtml(links.name)}. ${escapeHtml(phrases.say('say.youAsked'))} ${link(links.leave.rule, phrases.say('say.leaveRule'))} &nbsp; ${link(links.leave.all, phrases.say('say.leaveAll', { site: links.name }))}`;
}

/** The items, each source under its name where there are several, the last of a long digest behind a link. */
function entriesHtml(content: Content, links: MessageLinks, phrases: Phrases): string {
  const shown = shownOf(content, links);
  const hidden = content.entries.length - shown.length;
  const isSplit = hasSources(content);
  const parts = shown.map((entry, at) => {
    const isFirst = isSplit && entry.item.source !== shown[at - 1]?.item.source;
    const heading = isFirst
      ? `<h2 style="margin:26px 0 0;font:600 15px/1.3 ${SANS};color:${SOFT}">${escapeHtml(entry.item.sourceName)}</h2>`
      : '';
    return (
      heading + entryHtml(entry, links, phrases, { many: hasHead(content), isSplit, isAsking: isAsked(content, links) })
    );
  });
  const more =
    hidden > 0
      ? `<p style="margin:18px 0 0;padding:16px 0 0;border-top:1px solid ${LINE}">${link(wholeLink(links), phrases.say('say.moreItems', { items: hidden }), 'font-weight:600')}</p>`
      : '';
  const go =
    content.form === 'confirm'
      ? `<p style="margin:18px 0 0">${button(wholeLink(links), phrases.say('confirm.press'))}</p>`
      : '';
  const rule = content.rule ? ruleLink(content.rule.id, links) : null;
  const look = rule === null ? '' : `<p style="margin:18px 0 0">${button(rule, phrases.say('notice.seeRule'))}</p>`;
  const table = content.report ? reportHtml(content.report, links, phrases) : '';
  return table + parts.join('\n') + more + go + look;
}

/** A report as a table that holds without images and in a narrow window: an item and its columns to a row. */
function reportHtml({ columns, rows, total, gone, doNow }: ReportTable, links: MessageLinks, phrases: Phrases): string {
  const cell = `padding:8px 14px 8px 0;border-bottom:1px solid ${LINE};text-align:left;vertical-align:top`;
  const head = [phrases.say('report.item'), ...columns]
    .map((label) => `<th scope="col" style="${cell};font:600 13px/1.3 ${SANS};color:${SOFT}">${escapeHtml(label)}</th>`)
    .join('');
  const body = rows.map(({ item, values, mark }) => {
    const said = mark
      ? ` <span style="font-size:12px;color:${SOFT}">${escapeHtml(phrases.say(mark === 'new' ? 'report.isNew' : 'report.isChanged'))}</span>`
      : '';
    const name = linkOr(links.isBare ? null : `${links.base}${itemPath(item.id)}`, item.title, 'font-weight:600');
    const cells = values.map((value) => `<td style="${cell}">${escapeHtml(sideWords(value, phrases))}</td>`);
    return `<tr><td style="${cell}">${name}${said}</td>${cells.join('')}</tr>`;
  });
  const hidden = total - rows.length;
  const more =
    hidden > 0
      ? `<p style="margin:14px 0 0">${link(wholeLink(links), phrases.say('say.moreItems', { items: hidden }), 'font-weight:600')}</p>`
      : '';
  const left =
    gone.length > 0
      ? `<p style="margin:14px 0 0;color:${SOFT}">${escapeHtml(phrases.say('report.isGone', { titles: phrases.and(gone.map(({ title }) => title)) }))}</p>`
      : '';
  const table =
    rows.length > 0
      ? `<table style="border-collapse:collapse;margin:14px 0 0;width:100%;font-size:14px"><thead><tr>${head}</tr></thead><tbody>${body.join('')}</tbody></table>`
      : '';
  return table + more + left + (doNow ? doNowHtml(doNow, phrases) : '');
}

const runHtml = ({ text, isBold, href }: Run): string => {
  const words = href === null ? escapeHtml(text) : link(href, text);
  return isBold ? `<b>${words}</b>` : words;
};

/** A text with its marks: paragraphs, lists and links. */
function markedHtml(text: string): string {
  const groups: { kind: Line['kind']; lines: string[] }[] = [];
  for (const { kind, runs } of linesOf(text.trim())) {
    const words = runs.map(runHtml).join('');
    const last = groups.at(-1);
    if (kind === 'line' && words === '') groups.push({ kind, lines: [] });
    else if (last?.kind === kind && last.lines.length > 0) last.lines.push(words);
    else groups.push({ kind, lines: [words] });
  }
  return groups
    .filter(({ lines }) => lines.length > 0)
    .map(({ kind, lines }, at) => {
      const top = at === 0 ? 0 : 10;
      if (kind === 'line') return `<p style="margin:${top}px 0 0">${lines.join('<br>')}</p>`;
      const name = kind === 'item' ? 'ul' : 'ol';
      return `<${name} style="margin:${top}px 0 0;padding:0 0 0 22px">${lines.map((line) => `<li>${line}</li>`).join('')}</${name}>`;
    })
    .join('');
}

const doNowHtml = (line: string, phrases: Phrases): string =>
  `<p style="margin:10px 0 0"><b>${escapeHtml(phrases.say('say.doNow'))}</b> ${linesOf(marked(line))
    .flatMap(({ runs }) => runs.map(runHtml))
    .join('')}</p>`;

/** The rule's own text. */
function ownHtml(body: string, content: Content, links: MessageLinks, phrases: Phrases): string {
  // The table is what a report is for: its own words stand over it.
  if (content.report) return markedHtml(body) + entriesHtml(content, links, phrases);
  const doNow = content.entries.flatMap((entry) => entry.doNow).map((line) => doNowHtml(line, phrases));
  const [entry] = content.entries;
  // Whatever a rule's own words leave out: why its reader hears, and how to hear less, stand below them.
  const below = entry
    ? `${whyHtml(entry, links, phrases, true)}<p style="margin:8px 0 0">${actsHtml(entry, links, phrases, isAsked(content, links))}</p>`
    : '';
  return `${markedHtml(body)}${doNow.join('')}<div style="margin:16px 0 0">${below}</div>`;
}

function entryHtml(
  entry: Entry,
  links: MessageLinks,
  phrases: Phrases,
  { many, isSplit, isAsking }: { many: boolean; isSplit: boolean; isAsking: boolean },
): string {
  const place = entry.item.folder.join(' / ') || (isSplit ? '' : entry.item.sourceName);
  const [only] = entry.steps;
  // Among many a thing is said as shortly as it can be.
  const hour =
    many && only
      ? ` <span style="font:12.5px ${MONO};color:${SOFT};white-space:nowrap">&nbsp;${escapeHtml(only.hour)}</span>`
      : '';
  const by =
    entry.steps.length === 1 && only ? ` ${escapeHtml(phrases.say('say.byActor', { actor: only.actor }))}${hour}` : '';
  const what = whatHtml(entry, phrases);
  const notes = entry.kind === null ? [] : entry.notes;
  return `<div style="margin:16px 0 0;padding:${many ? '16px' : '0'} 0 0;${many ? `border-top:1px solid ${LINE}` : ''}"><div style="border-left:${BARS[entry.urgency]};padding:0 0 0 14px">
<p style="margin:0;font:700 ${many ? 16 : 20}px/1.3 ${SANS}">${linkOr(itemLink(entry, links), entry.item.title, 'text-decoration:none')} <span style="font-weight:400;color:${SOFT};font-size:15px">${escapeHtml(place)}</span></p>
<p style="margin:4px 0 0">${what}${by}</p>${notes.map((note) => `<p style="margin:4px 0 0">${escapeHtml(note)}</p>`).join('')}${nowLines(
    entry,
    phrases,
  )
    .map((line) => `<p style="margin:4px 0 0"><b>${escapeHtml(line)}</b></p>`)
    .join('')}
${many && entry.steps.length === 1 ? '' : stepsHtml(entry, phrases)}${entry.show.map(({ label, value }) => `<p style="margin:4px 0 0"><span style="color:${SOFT}">${escapeHtml(label)}</span> ${escapeHtml(sideWords(value, phrases))}</p>`).join('')}${entry.doNow.map((line) => doNowHtml(line, phrases)).join('')}
${whyHtml(entry, links, phrases, many)}
<p style="margin:${many ? 8 : 12}px 0 0">${actsHtml(entry, links, phrases, isAsking)}</p>
</div></div>`;
}

/** What happened to an item: the fields that differ, else the kind of change, else what a date or a standstill says. */
function whatHtml({ isBack, fields, kind, notes }: Entry, phrases: Phrases): string {
  if (isBack) return `<b>${escapeHtml(phrases.say('say.back'))}</b>`;
  if (fields.length > 0) return fields.map((field) => mark(field, phrases)).join(', ');
  const words = kind === null ? notes.join(', ') : kindWords(kind, phrases);
  return words === ''
    ? ''
    : `<mark style="background:${SAFFRON};color:${INK};padding:0 4px">${escapeHtml(words)}</mark>`;
}

function whyHtml(entry: Entry, links: MessageLinks, phrases: Phrases, isShort: boolean): string {
  const rules = entry.rules.map(({ id, name }) => {
    const href = ruleLink(id, links);
    return href ? link(href, name) : escapeHtml(name);
  });
  const next = isShort ? ' ' : '<br>';
  const rule =
    rules.length > 0
      ? `${next}${escapeHtml(phrases.say('say.rule', { rules: rules.length }))} ${rules.join(', ')}`
      : '';
  return `<div style="margin:10px 0 0;border-left:3px solid ${SAFFRON};padding-left:11px;font-size:13.5px">${entry.why.map(wordsHtml).join(next)}${rule}</div>`;
}

/** The way to the whole message, for a reader without an account. */
const wholeHtml = ({ whole }: MessageLinks, phrases: Phrases): string[] =>
  whole === null ? [] : [link(whole, phrases.say('say.wholeMessage'), 'font-weight:600')];

function actsHtml(entry: Entry, links: MessageLinks, phrases: Phrases, isAsking: boolean): string {
  const [rule] = entry.rules;
  return [
    ...(isAsking && entry.asks ? [button(acknowledgeLink(links), phrases.say('say.acknowledge'))] : []),
    ...(links.leave
      ? wholeHtml(links, phrases)
      : [
          linkOr(itemLink(entry, links), phrases.say('say.open', { title: entry.item.title }), 'font-weight:600'),
          link(links.base + sourcePath(entry.item.source), entry.item.sourceName),
          ...(rule ? [link(lessLink(rule.id, entry, links), phrases.say('say.lessOfThis'))] : []),
        ]),
  ].join(' &nbsp;&nbsp; ');
}

function stepsHtml(entry: Entry, phrases: Phrases): string {
  const [only] = entry.steps;
  const when = (text: string) => `<span style="font:12.5px ${MONO};color:${SOFT}">${escapeHtml(text)}</span>`;
  if (entry.steps.length === 1 && only) return `<p style="margin:4px 0 0">${when(only.when)}</p>`;
  if (entry.steps.length === 0) return '';
  const earlier = entry.steps.length - MOST_STEPS;
  const before =
    earlier > 0
      ? [
          `<tr><td></td><td colspan="2" style="padding:2px 0;color:${SOFT}">${escapeHtml(phrases.say('say.earlierSteps', { steps: earlier }))}</td></tr>`,
        ]
      : [];
  const rows = entry.steps.slice(-MOST_STEPS).map((step) => {
    const what =
      step.fields
        .map((field) =>
          escapeHtml(
            phrases.say('say.step', {
              field: field.label,
              before: sideWords(field.before, phrases),
              after: sideWords(field.after, phrases),
            }),
          ),
        )
        .join(', ') || escapeHtml(kindWords(step.kind, phrases));
    return `<tr><td style="padding:2px 14px 2px 0;white-space:nowrap;vertical-align:top">${when(step.hour)}</td><td style="padding:2px 14px 2px 0;vertical-align:top">${what}</td><td style="padding:2px 0;vertical-align:top">${escapeHtml(step.actor)}</td></tr>`;
  });
  return `<table role="presentation" style="border-collapse:collapse;margin:6px 0 0;font-size:14px">${[...before, ...rows].join('')}</table>`;
}

const mark = (field: ShownField, phrases: Phrases) =>
  `${escapeHtml(field.label)} <s style="color:${OLD}">${escapeHtml(sideWords(field.before, phrases))}</s> <mark style="background:${SAFFRON};color:${INK};font-weight:600;padding:0 4px">${escapeHtml(sideWords(field.after, phrases))}</mark>`;

const wordsHtml = (words: Words): string =>
  words.map((part) => (typeof part === 'string' ? escapeHtml(part) : `<b>${escapeHtml(part.strong)}</b>`)).join('');
