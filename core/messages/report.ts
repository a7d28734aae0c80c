import type { World } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import type { Instant } from '../time/index.ts';
import {
  type Field,
  fieldOf,
  formatDay,
  formatInstant,
  formatValue,
  isTemporalType,
  type Source,
} from '../values/index.ts';
import { fieldsNamed } from './condition-words.ts';
import type { AddressedReader, Content, ReportRow, ReportTable } from './content.ts';
import { phrasingOf, type Sees, titleOf } from './entry.ts';
import { senderOf } from './forms.ts';
import type { Wordings } from './house.ts';
import { phrasesFor } from './locales/index.ts';
import { ownWords } from './wording.ts';
import { linksIn } from '../rules/index.ts';

/** So many rows stand in the message itself; of more it says how many there are. */
const MOST_ROWS = 200;
/** So many columns a report has that names none itself. */
const FEW_COLUMNS = 4;

/** One item of a report, with how it stands to the last one. */
export interface Listed {
  source: string;
  item: string;
  mark?: 'new' | 'changed' | 'gone';
}

/** The fields that a report shows beside the names of its items: those it names, else those that it asks about. */
export function columnsOf({ message: { show }, report, scope }: Rule, sources: ReadonlyMap<string, Source>): string[] {
  if (show.length > 0) return show;
  const own = scope.sources.flatMap((id) => sources.get(id) ?? []);
  const named = [...(report ? fieldsNamed(report.if) : []), ...fieldsNamed(scope.where)];
  return [...new Set(named)]
    .filter((id) => own.every((source) => source.titleField !== id && fieldOf(source, id)))
    .slice(0, FEW_COLUMNS);
}

/** A report to one reader: the table as its items stand, and in a line how many there are and which comes first. */
export function makeReport(
  rule: Rule,
  listed: readonly Listed[],
  at: Instant,
  reader: AddressedReader,
  world: World & Wordings,
  sees: Sees,
): Content {
  const phrases = phrasesFor(reader.locale);
  const own = rule.scope.sources.flatMap((id) => world.sources.get(id) ?? []);
  const columns = columnsOf(rule, world.sources);
  const there = listed.filter(({ mark }) => mark !== 'gone');
  const labels = columns.map((id) => own.flatMap((source) => fieldOf(source, id)?.name ?? [])[0] ?? id);
  const out = listed.filter(({ mark }) => mark === 'gone');
  const isEnclosed = (rule.message.attach ?? []).length > 0 && Math.max(there.length, out.length) > MOST_ROWS;
  const table: ReportTable = {
    rule: { id: rule.id, name: rule.name },
    columns: labels,
    rows: there.slice(0, MOST_ROWS).map((one) => rowOf(one, columns, reader, world, sees)),
    total: there.length,
    gone: out.slice(0, MOST_ROWS).map(({ item, source }) => ({ id: item, title: nameOf(item, source, world) })),
    ...(rule.message.doNow === null ? {} : { doNow: rule.message.doNow }),
    ...(isEnclosed ? { beyond: beyondOf(there.slice(MOST_ROWS), out.slice(MOST_ROWS)) } : {}),
  };
  const words = ownOf(rule, there, at, reader, world, sees);
  const sender = senderOf([rule], world);
  return {
    form: 'report',
    language: phrases.language,
    headline: headlineOf(rule, there, columns, reader, world),
    when: formatInstant(at, reader),
    lead: leadOf(listed, reader.locale),
    entries: [],
    report: table,
    ...(words ? { own: { subject: words.subject, body: words.body } } : {}),
    ...(words?.hasFailed ? { ownFailed: true as const } : {}),
    ...(sender ? { sender } : {}),
    ...(reader.emailFormat === 'text' ? { isPlain: true } : {}),
  };
}

/** The rule's own words over its table, which speak of the first item; none where there is nothing to report. */
function ownOf(
  rule: Rule,
  [first]: readonly Listed[],
  at: Instant,
  reader: AddressedReader,
  world: World & Wordings,
  sees: Sees,
) {
  if (!first) return null;
  const { source, item } = first;
  const telling = { alert: '', rule, source, item, occasion: 'report' as const, at, changes: [], reasons: [] };
  return ownWords('report', [[telling]], nameOf(item, source, world), reader, world, sees);
}

/** The ids of what has no room in the message, as far as it is marked. */
function beyondOf(there: readonly Listed[], out: readonly Listed[]): NonNullable<ReportTable['beyond']> {
  const marked = (by: Listed['mark']) => there.flatMap(({ item, mark }) => (mark === by ? [item] : []));
  return { new: marked('new'), changed: marked('changed'), gone: out.map(({ item }) => item) };
}

const standing = (item: string, world: World) => world.item(item) ?? world.lastState?.(item);
function nameOf(item: string, sourceId: string, world: World): string {
  const source = world.sources.get(sourceId);
  return source ? titleOf(source, item, standing(item, world)?.fields ?? {}) : item;
}

function rowOf(
  { item, source: id, mark }: Listed,
  columns: readonly string[],
  reader: AddressedReader,
  world: World,
  sees: Sees,
): ReportRow {
  const source = world.sources.get(id) as Source;
  const fields = standing(item, world)?.fields ?? {};
  const { names } = phrasingOf(source, reader, world, sees);
  const linked = linksIn(source, fields).filter((one) => {
    const other = world.item(one);
    return other !== undefined && sees(other);
  });
  return {
    item: { id: item, title: titleOf(source, item, fields), source: id },
    values: columns.map((column) => {
      const field = fieldOf(source, column);
      return field ? formatValue(field, fields[column], reader, names) : '';
    }),
    ...(mark === 'new' || mark === 'changed' ? { mark } : {}),
    ...(linked.length > 0 ? { linked } : {}),
  };
}

/** *Loans due soon: 7, first Reed Gate on 3 December 2026*; where no date is asked about or shown, without the day. */
function headlineOf(
  rule: Rule,
  there: readonly Listed[],
  columns: readonly string[],
  reader: AddressedReader,
  world: World,
): string {
  const phrases = phrasesFor(reader.locale);
  const [first] = there;
  if (!first) return phrases.say('report.nothing', { rule: rule.name });
  const source = world.sources.get(first.source) as Source;
  const field = columns.flatMap((id): Field[] => {
    const one = fieldOf(source, id);
    return one && isTemporalType(one.type) ? [one] : [];
  })[0];
  const earliest = field ? earliestOf(there, field, world) : null;
  const items = there.length;
  if (!earliest)
    return phrases.say('report.first', { rule: rule.name, items, title: nameOf(first.item, first.source, world) });
  return phrases.say('report.firstOn', {
    rule: rule.name,
    items,
    title: nameOf(earliest.item, earliest.source, world),
    day: formatDay(earliest.day.slice(0, 10), reader.locale),
  });
}

/** The item whose date comes first, with it; `null` where none has one. */
function earliestOf(
  there: readonly Listed[],
  field: Field,
  world: World,
): (Pick<Listed, 'item' | 'source'> & { day: string }) | null {
  let first: (Pick<Listed, 'item' | 'source'> & { day: string }) | null = null;
  for (const { item, source } of there) {
    const day = String(standing(item, world)?.fields[field.id] ?? '');
    if (day !== '' && (first === null || day < first.day)) first = { item, source, day };
  }
  return first;
}

/** What is new, changed and gone since the last report; nothing where nothing is. */
function leadOf(listed: readonly Listed[], locale: string): string {
  const phrases = phrasesFor(locale);
  const counted = (['new', 'changed', 'gone'] as const).flatMap((mark) => {
    const items = listed.filter((one) => one.mark === mark).length;
    return items > 0 ? [phrases.say(`report.${mark}`, { items })] : [];
  });
  return counted.length > 0 ? phrases.say('report.since', { counted: phrases.and(counted) }) : '';
}
