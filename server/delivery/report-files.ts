import type { Pool } from 'mysql2/promise';
import { columnsOf, type Phrases, phrasesFor, phrasingOf, type ReportTable } from '../../core/messages/index.ts';
import { mayRead, type Person } from '../../core/people/index.ts';
import { linksIn, type Rule } from '../../core/rules/index.ts';
import { fieldOf, formatValue } from '../../core/values/index.ts';
import {
  type Directory,
  newestRule,
  rows,
  type StoredItem,
  type StoredMessage,
  store,
  worldOf,
} from '../store/index.ts';
import { tableFile } from '../tables/index.ts';
import type { Enclosed } from './carrier.ts';

/** So many items are asked for at once. */
const CHUNK = 1000;

/**
 * The files that go with a report, where its rule says so: every item of it that its reader may read, with the fields
 * that the report shows, as they stand when it is sent, and how it stands to the last report; what is gone comes last.
 * None with what is no report, or goes to no person.
 */
export async function reportFiles(pool: Pool, message: StoredMessage, directory: Directory): Promise<Enclosed[]> {
  const { report } = message.content;
  const rule = report && newestRule(directory, report.rule.id);
  const person = message.recipient === 'person' ? directory.people.get(message.person) : undefined;
  const kinds = rule?.message.attach ?? [];
  if (!rule || !person || kinds.length === 0) return [];
  const table = await tableOf(pool, message, report, { rule, person, directory });
  return Promise.all(
    kinds.map(async (kind): Promise<Enclosed> => {
      const { mediaType, bytes } = await tableFile(table, kind);
      return { name: `${fileName(rule.name)}.${kind}`, mediaType, bytes };
    }),
  );
}

/** A name that every system takes: letters and figures, and a dash between. */
const fileName = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || 'report';

async function itemsBy(pool: Pool, ids: readonly string[]): Promise<StoredItem[]> {
  const found: StoredItem[] = [];
  for (let at = 0; at < ids.length; at += CHUNK)
    found.push(...(await rows(pool, store.items.byIds(ids.slice(at, at + CHUNK)))));
  return found;
}

/** How items stand to the last report, by their ids, in words. */
function marksIn({ rows: shown, gone, beyond }: ReportTable, phrases: Phrases): Map<string, string> {
  const all = { new: beyond?.new ?? [], changed: beyond?.changed ?? [], gone: beyond?.gone ?? [] };
  const of = (mark: 'new' | 'changed') => shown.flatMap((row) => (row.mark === mark ? [row.item.id] : []));
  const worded = (ids: readonly string[], key: 'report.isNew' | 'report.isChanged' | 'report.isOut') =>
    ids.map((id): [string, string] => [id, phrases.say(key)]);
  return new Map([
    ...worded([...of('new'), ...all.new], 'report.isNew'),
    ...worded([...of('changed'), ...all.changed], 'report.isChanged'),
    ...worded([...gone.map(({ id }) => id), ...all.gone], 'report.isOut'),
  ]);
}

/** For whom a table is made, of what rule. */
interface For {
  rule: Rule;
  person: Person;
  directory: Directory;
}

async function tableOf(pool: Pool, message: StoredMessage, report: ReportTable, { rule, person, directory }: For) {
  const phrases = phrasesFor(person.locale);
  const marks = marksIn(report, phrases);
  const behind = await rows(pool, store.messages.alertsBehind([message.id]));
  const there = new Set(behind.flatMap(({ items }) => items));
  const out = [...marks.keys()].filter((id) => !there.has(id));
  const bare = worldOf(directory, new Map());
  const found = [...(await itemsBy(pool, [...there].sort())), ...(await itemsBy(pool, out.sort()))];
  const items = found.filter((item) => mayRead(person.id, item, bare));
  const linked = new Set(items.flatMap(({ source, fields }) => linksIn(directory.sources.get(source), fields)));
  const others = (await itemsBy(pool, [...linked])).filter((item) => mayRead(person.id, item, bare));
  const world = worldOf(directory, new Map([...items, ...others].map((item) => [item.id, item])));
  const columns = columnsOf(rule, directory.sources);
  const own = rule.scope.sources.flatMap((id) => directory.sources.get(id) ?? []);
  const labels = columns.map((id) => own.flatMap((source) => fieldOf(source, id)?.name ?? [])[0] ?? id);
  const cells = items.map((item) => {
    const source = directory.sources.get(item.source);
    if (!source) return [item.title];
    const { names } = phrasingOf(source, person, world, (one) => mayRead(person.id, one, bare));
    const values = columns.map((id) => {
      const field = fieldOf(source, id);
      return field ? formatValue(field, item.fields[id], person, names) : '';
    });
    return [item.title, ...values, marks.get(item.id) ?? ''];
  });
  const [first] = own;
  const title = first ? (fieldOf(first, first.titleField)?.name ?? first.name) : '';
  return { columns: [title, ...labels, phrases.say('report.sinceLast')], rows: cells };
}
