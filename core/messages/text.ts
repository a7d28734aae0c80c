import type { Channel } from '../people/index.ts';
import { plainWords } from './condition-words.ts';
import {
  ACKNOWLEDGE_MARK,
  BASE_MARK,
  type Content,
  type Entry,
  LEAVE_MARK,
  type ReportTable,
  type ShownField,
} from './content.ts';
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
import { marked, plainMarked } from './marked.ts';
import { segmentsOf, toBasicSet } from './segments.ts';
import { type Phrases, phrasesFor } from './locales/index.ts';
import { kindWords } from './occasion-words.ts';

/** A message's words on a channel: one line for a text message, the plain-text body elsewhere. */
export const wordsOf = (content: Content, channel: Channel, links: MessageLinks): string =>
  channel === 'text' ? textMessage(content, links) : plainText(content, links);

/** Puts the links of one message in place of their marks. */
function withLinks(text: string, content: Content, links: MessageLinks): string {
  const [entry] = content.entries;
  const [rule] = entry?.rules ?? [];
  const less = entry && rule ? lessLink(rule.id, entry, links) : wholeLink(links);
  return text
    .replaceAll(BASE_MARK, links.base)
    .replaceAll(ACKNOWLEDGE_MARK, acknowledgeLink(links))
    .replaceAll(LEAVE_MARK, less);
}

/** The rule's own body where it has one, with the message's links in it. */
export const ownBody = (content: Content, links: MessageLinks): string | null =>
  content.own?.body ? withLinks(content.own.body, content, links) : null;

/** The line under which a message goes: the rule's own, else what the message says. */
export const subjectOf = (content: Content, links: MessageLinks): string =>
  content.own?.subject ? withLinks(content.own.subject, content, links) : content.headline;

/** Whether several items, or what stands above them, ask for a heading. A digest of one item says it all by that item. */
export const hasHead = ({ form, entries }: Content): boolean =>
  entries.length !== 1 || (form !== 'single' && form !== 'digest' && form !== 'summary');

/** What a field is said to be where it is empty. */
export const sideWords = (text: string, phrases: Phrases): string => text || phrases.say('value.empty');

/** Several sources ask for their names between their items. */
export const hasSources = ({ entries }: Content): boolean =>
  new Set(entries.map((entry) => entry.item.source)).size > 1;

/** The plain-text body of an email, between what the house puts above and below it. */
function plainText(content: Content, links: MessageLinks): string {
  const phrases = phrasesFor(content.language);
  const { letterhead, signOff } = links.paper ?? {};
  const above = letterhead ? [plainMarked(marked(letterhead)).trimEnd(), '', ''] : [];
  const below = signOff ? [plainMarked(marked(signOff)).trimEnd(), ''] : [];
  return [...above, ...saidText(content, links, phrases), ...below, ...footText(content, links, phrases)]
    .join('\n')
    .trimEnd()
    .concat('\n');
}

/** What a message says in lines, the last of them empty. */
function saidText(content: Content, links: MessageLinks, phrases: Phrases): string[] {
  const own = ownBody(content, links);
  if (own !== null && !content.report) {
    const doNow = content.entries.flatMap((entry) =>
      entry.doNow.map((line) => `${phrases.say('say.doNow')} ${plainDoNow(line)}`),
    );
    const [entry] = content.entries;
    const below = entry && !links.isBare ? linksText(entry, links, phrases, isAsked(content, links)) : [];
    return [plainMarked(own).trimEnd(), ...(doNow.length > 0 ? ['', ...doNow] : []), '', ...below, ''];
  }
  const usual = hasHead(content) ? [content.headline, ...(content.lead ? [content.lead] : []), ''] : [];
  const head = own === null ? usual : [plainMarked(own).trimEnd(), ''];
  const shown = shownOf(content, links);
  const hidden = content.entries.length - shown.length;
  const isSplit = hasSources(content);
  const lines = shown.flatMap((entry, at) => {
    const isFirst = isSplit && entry.item.source !== shown[at - 1]?.item.source;
    return [
      ...(isFirst ? [entry.item.sourceName.toUpperCase(), ''] : []),
      ...entryText(entry, links, phrases, { isAsking: isAsked(content, links), many: hasHead(content) }),
      '',
    ];
  });
  const more = hidden > 0 ? [`${phrases.say('say.moreItems', { items: hidden })} ${wholeLink(links)}`, ''] : [];
  const go = content.form === 'confirm' ? [`${phrases.say('confirm.press')}: ${wholeLink(links)}`, ''] : [];
  const rule = content.rule ? ruleLink(content.rule.id, links) : null;
  const look = rule === null ? [] : [`${phrases.say('notice.seeRule')}: ${rule}`, ''];
  const table = content.report ? reportText(content.report, links, phrases) : [];
  return [...head, ...table, ...lines, ...more, ...go, ...look];
}

/** A report in lines: each item with what its columns hold, and what is gone since the last. */
function reportText(
  { columns, rows, total, gone, doNow }: ReportTable,
  links: MessageLinks,
  phrases: Phrases,
): string[] {
  const lines = rows.flatMap(({ item, values, mark }) => [
    `${item.title}${mark ? ` (${phrases.say(mark === 'new' ? 'report.isNew' : 'report.isChanged')})` : ''}`,
    ...columns.map((label, at) => `  ${label}: ${sideWords(values[at] ?? '', phrases)}`),
  ]);
  const hidden = total - rows.length;
  return [
    ...lines,
    ...(hidden > 0 ? ['', `${phrases.say('say.moreItems', { items: hidden })} ${wholeLink(links)}`] : []),
    ...(gone.length > 0
      ? ['', phrases.say('report.isGone', { titles: phrases.and(gone.map(({ title }) => title)) })]
      : []),
    ...(doNow ? ['', `${phrases.say('say.doNow')} ${plainDoNow(doNow)}`] : []),
    '',
  ];
}

function footText(content: Content, links: MessageLinks, phrases: Phrases): string[] {
  const again = links.again ? [`${phrases.say('say.again')}: ${links.again}`] : [];
  if (links.leave)
    return content.form === 'confirm'
      ? []
      : [
          phrases.say('say.youAsked'),
          `${phrases.say('say.leaveRule')}: ${links.leave.rule}`,
          `${phrases.say('say.leaveAll', { site: links.name })}: ${links.leave.all}`,
        ];
  return content.form === 'digest' || content.form === 'summary' || content.form === 'notice'
    ? [
        ...again,
        `${phrases.say('say.allMessages')}: ${links.base}/inbox`,
        `${phrases.say('say.howReached')}: ${links.base}/plan`,
      ]
    : again;
}

function entryText(
  entry: Entry,
  links: MessageLinks,
  phrases: Phrases,
  { isAsking, many }: { isAsking: boolean; many: boolean },
): string[] {
  const [only] = entry.steps;
  const empty = (text: string) => sideWords(text, phrases);
  const fieldLine = (field: ShownField) => `${field.label}: ${empty(field.before)} → ${empty(field.after)}`;
  // Among many the headline of an item that changed in one field has said it already.
  const isSaid = many && entry.kind === 'changed' && entry.fields.length === 1;
  const lines = many ? [entry.headline] : [entry.headline, ''];
  if (entry.fields.length > 0 && !isSaid) lines.push(...entry.fields.map(fieldLine));
  if (entry.kind !== null) lines.push(...entry.notes);
  lines.push(...nowLines(entry, phrases));
  if (entry.steps.length === 1 && only) lines.push(phrases.say('say.by', { actor: only.actor, when: only.when }));
  else if (entry.steps.length > 0) {
    const earlier = entry.steps.length - MOST_STEPS;
    if (earlier > 0) lines.push(`  ${phrases.say('say.earlierSteps', { steps: earlier })}`);
    lines.push(
      ...entry.steps
        .slice(-MOST_STEPS)
        .map(
          (step) =>
            `  ${step.hour}  ${step.actor}: ${step.fields.map(fieldLine).join('; ') || kindWords(step.kind, phrases)}`,
        ),
    );
  }
  if (entry.show.length > 0) lines.push('', ...entry.show.map(({ label, value }) => `${label}: ${empty(value)}`));
  if (entry.doNow.length > 0)
    lines.push('', ...entry.doNow.map((line) => `${phrases.say('say.doNow')} ${plainDoNow(line)}`));
  if (!many) lines.push('');
  return [...lines, ...linksText(entry, links, phrases, isAsking)];
}

/** How an item stands by now, where it changed again since what is told of it: *Now Status Returned*. */
export const nowLines = ({ now = [] }: Entry, phrases: Phrases): string[] =>
  now.map(({ label, value }) =>
    phrases.say('say.now', { field: label, value: sideWords(value, phrases) }).replace(/\s+/g, ' '),
  );

/** Why its reader heard, by which rule, and where to go from here. */
function linksText(entry: Entry, links: MessageLinks, phrases: Phrases, isAsking: boolean): string[] {
  const why = [
    `${phrases.say('say.why')} ${entry.why.map(plainWords).join(' ')}`,
    ...entry.rules.map(
      ({ id, name }) =>
        `${phrases.say('say.rule', { rules: 1 })} ${[name, ruleLink(id, links)].filter(Boolean).join(' ')}`,
    ),
    ...(isAsking && entry.asks ? [`${phrases.say('say.acknowledge')}: ${acknowledgeLink(links)}`] : []),
  ];
  if (links.leave) return [...why, `${phrases.say('say.wholeMessage')}: ${wholeLink(links)}`];
  return [
    ...why,
    ...entry.rules.slice(0, 1).map(({ id }) => `${phrases.say('say.lessOfThis')}: ${lessLink(id, entry, links)}`),
    `${phrases.say('say.open', { title: entry.item.title })}: ${itemLink(entry, links)}`,
  ];
}

/** A text message: one line with a short link, in the fullest wording that fits one segment of GSM-7, else the fullest. */
function textMessage(content: Content, links: MessageLinks): string {
  const phrases = phrasesFor(content.language);
  const answer = links.code && isAsked(content, links) ? ` ${phrases.say('say.answerCode', { code: links.code })}` : '';
  const own = ownBody(content, links);
  if (own !== null)
    return toBasicSet([plainMarked(own), sharedDoNow(content)].join(' ').replace(/\s+/g, ' ').trim() + answer);
  const [entry] = content.entries;
  if (content.form === 'confirm' || content.form === 'trial') return toBasicSet(content.headline);
  if (content.form === 'digest' || content.form === 'summary' || content.entries.length > 1 || !entry)
    return toBasicSet(`${content.headline}.${sharedDoNow(content)} ${links.short ?? `${links.base}/inbox`}${answer}`);
  const link = links.short ?? itemLink(entry, links);
  if (content.form === 'allClear' || content.form === 'passed') return toBasicSet(`${content.headline}. ${link}`);
  const before =
    content.form === 'reminder' || content.form === 'escalation' ? `${phrases.say(`text.${content.form}`)} ` : '';
  const forms = wordings(entry, phrases).map((form) =>
    toBasicSet(`${before}${entry.item.title}${form} ${link}${answer}`),
  );
  return forms.find((form) => segmentsOf(form).count === 1) ?? (forms[0] as string);
}

/** What to do now, where it is one and the same for all that is told. */
function sharedDoNow({ entries, report }: Content): string {
  if (report) return report.doNow ? ` ${plainDoNow(report.doNow)}` : '';
  const lines = new Set(entries.map((entry) => plainDoNow(entry.doNow.join(' '))));
  const [line] = lines;
  return lines.size === 1 && line ? ` ${line}` : '';
}

/** What to do now as plain words; a link's address stands behind its words. */
export const plainDoNow = (line: string): string => plainMarked(marked(line));

/** What a text message may say after the item's name, the fullest first. */
function wordings(entry: Entry, phrases: Phrases): string[] {
  const doNow = entry.doNow[0] ? ` ${plainDoNow(entry.doNow[0])}` : '';
  if (entry.kind === null) return [`: ${entry.notes.join(', ')}.${doNow}`, `: ${entry.notes[0] ?? ''}.${doNow}`];
  const step = entry.steps.at(-1);
  const bare = (text: string) => sideWords(text, phrases).replace(/[.\s]+$/, '');
  const moves = entry.fields.map((field) =>
    phrases.say('text.change', { field: field.label, before: bare(field.before), after: bare(field.after) }),
  );
  const kind = kindWords(entry.kind, phrases);
  const what = moves.length > 0 && entry.kind === 'changed' ? `: ${moves.join(', ')}` : ` ${kind}`;
  const lead = moves.length > 0 && entry.kind === 'changed' ? `: ${moves[0]}` : what;
  const by = step ? phrases.say('text.by', { actor: step.actor }) : '';
  const when = step ? `, ${step.hour}` : '';
  // What to do is what a text is for: everything else is shortened first.
  return [`${what}${by}${when}`, `${lead}${by}${when}`, `${lead}${by}`, lead].map((form) => `${form}.${doNow}`);
}
