import type { Content, Entry, ReportRow, ReportTable } from './content.ts';
import { phrasesFor } from './locales/index.ts';

/** The items that contents speak of: those they are about, and those that these lead to and are named in them. */
export const itemsIn = (contents: readonly Content[]): string[] =>
  contents.flatMap(({ entries, report }) => [
    ...[...entries, ...(report?.rows ?? [])].flatMap(({ item, linked = [] }) => [item.id, ...linked]),
    ...(report?.gone ?? []).map(({ id }) => id),
  ]);

/**
 * A content as it may be read by whoever may not read, any more, all that it tells of: entries of closed items are left
 * out, and of items that lead to closed ones it says what they are called and no more. Words about the whole, Ojo's and
 * the rule's own, may tell of what is hidden: what is left speaks for itself.
 */
export function readableContent(
  content: Content,
  mayRead: (item: string) => boolean,
): { content: Content; isWhole: boolean } {
  if (content.report) return readableReport(content, content.report, mayRead);
  const left = content.entries.flatMap((entry) => (mayRead(entry.item.id) ? [withoutClosed(entry, mayRead)] : []));
  const isWhole = left.length === content.entries.length && left.every((entry, at) => entry === content.entries[at]);
  if (isWhole) return { content, isWhole };
  const { own: _, sender: _sender, ...bare } = content;
  return { content: { ...bare, headline: headlineOf(left, content.language), lead: '', entries: left }, isWhole };
}

/** A content as pages get it: what it is judged by stays behind. */
export const forPages = (content: Content): Content => ({
  ...content,
  entries: content.entries.map(({ linked: _, ...entry }) => entry),
  ...(content.report ? { report: reportForPages(content.report) } : {}),
});

const reportForPages = ({ beyond: _, ...report }: ReportTable): ReportTable => ({
  ...report,
  rows: report.rows.map(({ linked: _linked, ...row }) => row),
});

/** A report as it may still be read: rows of closed items are left out, and values of those that lead to closed ones. */
function readableReport(
  content: Content,
  report: ReportTable,
  mayRead: (item: string) => boolean,
): { content: Content; isWhole: boolean } {
  const rows = report.rows.flatMap((row): ReportRow[] => {
    if (!mayRead(row.item.id)) return [];
    return row.linked?.some((id) => !mayRead(id)) ? [{ item: row.item, values: row.values.map(() => '') }] : [row];
  });
  const gone = report.gone.filter(({ id }) => mayRead(id));
  const isWhole =
    gone.length === report.gone.length &&
    rows.length === report.rows.length &&
    rows.every((row, at) => row === report.rows[at]);
  if (isWhole) return { content, isWhole };
  const { own: _, sender: _sender, ...bare } = content;
  // How many there were in all tells of what is closed, too.
  const { beyond: _beyond, ...open } = report;
  const left = { ...open, rows, gone, total: rows.length };
  const headline = `${report.rule.name}: ${rows.length}`;
  return { content: { ...bare, headline, lead: '', report: left }, isWhole };
}

function withoutClosed(entry: Entry, mayRead: (item: string) => boolean): Entry {
  if (!entry.linked?.some((id) => !mayRead(id))) return entry;
  const { now: _, linked: _linked, ...bare } = entry;
  const steps = entry.steps.map((step) => ({ ...step, fields: [] }));
  return { ...bare, headline: entry.item.title, fields: [], steps, show: [], why: [] };
}

function headlineOf([first, ...others]: readonly Entry[], language: string | undefined): string {
  const phrases = phrasesFor(language);
  if (!first) return phrases.say('headline.hidden');
  return others.length === 0
    ? first.headline
    : phrases.say('headline.andMore', { headline: first.headline, more: others.length });
}
