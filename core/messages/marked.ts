import { BASE_MARK } from './content.ts';

/**
 * A rule's own words may stand out (`**so**`), be listed (`- so`, `1. so`) and be links (`[so](https://…)`). These signs
 * count only where whoever wrote the text put them: they are turned into marks of Unicode's private use area before any
 * value is put in, and values hold none, so that nothing an item holds can pass for a link or a list.
 */
const BOLD = '\ue010';
const ITEM = '\ue011';
const NUMBERED = '\ue012';
const LINK = '\ue013';
const TO = '\ue014';
const END = '\ue015';
/** Stands for a placeholder while the signs around it are read. */
const HELD = '\ue0ff';

const TAGS = /\{\{[\s\S]*?\}\}|\{%[\s\S]*?%\}/g;

/** A template with marks in place of its signs; what stands in a placeholder is left as it is. */
export function marked(template: string): string {
  const held: string[] = [];
  const bare = template.replace(TAGS, (tag) => {
    held.push(tag);
    return HELD;
  });
  const read = bare
    .split('\n')
    .map((line) =>
      line
        .replace(/^- /, ITEM)
        .replace(/^\d{1,2}\. /, NUMBERED)
        .replace(/\[([^\]\n]+)\]\(([^)\s]+)\)/g, `${LINK}$1${TO}$2${END}`)
        .replace(/\*\*(?=\S)(.+?)(?<=\S)\*\*/g, `${BOLD}$1${BOLD}`),
    )
    .join('\n');
  let at = 0;
  return read.replaceAll(HELD, () => held[at++] ?? '');
}

/** A value without anything that would pass for a mark. */
export const withoutMarks = (text: string): string => text.replace(/[\ue000-\ue0ff]/g, '');

/** A run of words of one look. `href` is an address that may be followed; `null` of plain words. */
export interface Run {
  text: string;
  isBold: boolean;
  href: string | null;
}
/** A line of a text: by itself, or one of a list. An empty line parts two paragraphs. */
export interface Line {
  kind: 'line' | 'item' | 'numbered';
  runs: Run[];
}

/** Addresses that a text may lead to: of the web, of mail and telephone, and of Ojo itself. */
const mayFollow = (href: string): boolean =>
  /^(https?:\/\/|mailto:|tel:|\/(?!\/))/i.test(href) || href.startsWith(BASE_MARK);

/** An address that stands by itself, of the web or of Ojo. */
const ADDRESS = new RegExp(`(?:https?://|${BASE_MARK}/)[^\\s<>"]*[^\\s<>".,;:!?)]`, 'g');

/** Plain words, and the addresses among them. */
function runsOf(text: string, isBold: boolean): Run[] {
  const runs: Run[] = [];
  let from = 0;
  for (const found of text.matchAll(ADDRESS)) {
    if (found.index > from) runs.push({ text: text.slice(from, found.index), isBold, href: null });
    runs.push({ text: found[0], isBold, href: found[0] });
    from = found.index + found[0].length;
  }
  if (from < text.length) runs.push({ text: text.slice(from), isBold, href: null });
  return runs;
}

function lineOf(text: string): Line {
  const kinds: Record<string, Line['kind']> = { [ITEM]: 'item', [NUMBERED]: 'numbered' };
  const kind = kinds[text[0] ?? ''] ?? 'line';
  const runs: Run[] = [];
  let isBold = false;
  const put = (plain: string) => {
    for (const [at, part] of plain.split(BOLD).entries()) {
      if (at > 0) isBold = !isBold;
      runs.push(...runsOf(part, isBold));
    }
  };
  let rest = kind === 'line' ? text : text.slice(1);
  for (;;) {
    const found = new RegExp(`${LINK}([^${TO}]*)${TO}([^${END}]*)${END}`).exec(rest);
    if (!found) break;
    put(rest.slice(0, found.index));
    const [whole, words = '', href = ''] = found;
    const said = withoutMarks(words);
    runs.push({ text: said, isBold: isBold || words.includes(BOLD), href: mayFollow(href) ? href : null });
    rest = rest.slice(found.index + whole.length);
  }
  put(rest);
  return { kind, runs };
}

/** A text with its marks, line by line. */
export const linesOf = (text: string): Line[] => text.split('\n').map(lineOf);

/** The same as plain text: lists keep their signs, and a link's address stands behind its words. */
export function plainMarked(text: string): string {
  let number = 0;
  return linesOf(text)
    .map(({ kind, runs }) => {
      number = kind === 'numbered' ? number + 1 : 0;
      const words = runs
        .map(({ text: said, href }) => (href === null || href === said ? said : `${said} (${href})`))
        .join('');
      if (kind === 'item') return `- ${words}`;
      return kind === 'numbered' ? `${number}. ${words}` : words;
    })
    .join('\n');
}
