import type { Pool } from 'mysql2/promise';
import { ruleSchema } from '../contract/documents/index.ts';
import { DAY_MS, HOUR_MS } from '../core/time/index.ts';
import { addDocuments, addVersion, publishRule, watchSheet } from '../server/acts/index.ts';
import { receiveContents } from '../server/contents/index.ts';
import { SettableClock } from '../server/kit/index.ts';
import { DirectoryCache, inTransaction, query, rows, run, store, type StoredItem } from '../server/store/index.ts';
import { tableFile } from '../server/tables/index.ts';

const FOLDER = 'woven-floor';
const HEAD = 'Crate,Weight in kg,Packed by,State,Truck';
const CRATES = [
  ['WW-01', '41.5', 'Mei Tanaka', 'Packed', '1'],
  ['WW-02', '12', 'Bruno Castellanos', 'Ordered', ''],
  ['WW-03', '73', 'Mei Tanaka', 'Packed', '1'],
  ['WW-04', '28.2', 'Greta Solheim', 'Packed', '2'],
  ['WW-05', '9', '', 'Ordered', ''],
  ['WW-06', '55', 'Greta Solheim', 'In transit', '2'],
];
/** What each version after the first changes: by crate and column. */
const EDITS: { days: number; cells: [crate: string, column: number, cell: string][] }[] = [
  {
    days: 6,
    cells: [
      ['WW-02', 3, 'Packed'],
      ['WW-02', 1, '14.5'],
      ['WW-05', 2, 'Bruno Castellanos'],
    ],
  },
  {
    days: 1,
    cells: [
      ['WW-03', 4, '2'],
      ['WW-05', 3, 'Packed'],
    ],
  },
];

const csv = (lines: readonly (readonly string[])[]) => `${[HEAD, ...lines.map((line) => line.join(','))].join('\n')}\n`;

/**
 * Table documents, handed in and changed by the same acts as by hand: one whose rows are watched, with a rule on one of
 * its cells, and a workbook. What happened to them is told to nobody any more.
 */
export async function layOutTables(pool: Pool, now: number): Promise<void> {
  const directory = new DirectoryCache();
  const asking = async (id: string) => {
    const known = await directory.current(pool);
    const me = known.people.get(id);
    if (!me) throw new Error(`the demo has nobody ${id}`);
    return { me, directory: known };
  };
  const handIn = async (name: string, bytes: Buffer, by: string, at: number) =>
    (await receiveContents(pool, streamOf(bytes), { name, by, at })).id;
  const add = async (name: string, bytes: Buffer, by: string, at: number): Promise<StoredItem> => {
    const caller = await asking(by);
    const source = caller.directory.sources.get('papers');
    if (!source) throw new Error('the demo has no papers');
    const files = [{ upload: await handIn(name, bytes, by, at), name }];
    const [done] = await addDocuments(
      { pool, clock: new SettableClock(at) },
      source,
      { folder: FOLDER, files },
      caller,
      null,
    );
    return (done as { item: StoredItem }).item;
  };

  const begun = now - 9 * DAY_MS;
  const list = await add('Crates of Woven Waters.csv', Buffer.from(csv(CRATES)), 'hugo', begun);
  const clock = new SettableClock(begun + HOUR_MS);
  const { source } = await watchSheet({ pool, clock }, list, { key: 'Crate', sheet: null }, await asking('hugo'));
  const lines = CRATES.map((line) => [...line]);
  for (const { days, cells } of EDITS) {
    for (const [crate, column, cell] of cells) {
      const line = lines.find(([name]) => name === crate);
      if (line) line[column] = cell;
    }
    const at = now - days * DAY_MS;
    const upload = await handIn(list.title, Buffer.from(csv(lines)), 'mei', at);
    const caller = await asking('mei');
    const papers = caller.directory.sources.get('papers');
    if (papers) await addVersion({ pool, clock: new SettableClock(at) }, list, papers, { upload }, caller, null);
  }
  const sums = [
    ['Woven Waters', 'EUR 2410000', 'Tidal Mutual'],
    ['Small Fires', 'EUR 1180000', 'Tidal Mutual'],
  ];
  const book = await tableFile({ columns: ['Exhibition', 'Sum insured', 'Insurer'], rows: sums }, 'xlsx');
  await add('Sums insured.xlsx', book.bytes, 'noor', now - 4 * DAY_MS);
  await ruleOnOneCell(pool, source, now);
  await run(pool, query('DELETE FROM change_queue'));
}

/** Who hears when the heaviest crate is weighed anew. */
async function ruleOnOneCell(pool: Pool, source: string, now: number): Promise<void> {
  const crate = (await rows(pool, store.items.titlesIn(source, { sql: 'TRUE', params: [] }))).find(
    ({ title }) => title === 'WW-03',
  );
  if (!crate) throw new Error('the demo has no heavy crate');
  const rule = ruleSchema.parse({
    id: 'heaviest-crate',
    name: 'The heaviest crate is weighed anew',
    owner: 'hugo',
    urgency: 'important',
    zone: 'Europe/Madrid',
    scope: { sources: [source], items: [crate.id] },
    when: { kinds: [], if: { changed: 'weight-in-kg' } },
    to: [{ person: 'mei' }, { person: 'ilse' }],
    channels: null,
  });
  await inTransaction(pool, async (on) => {
    await run(on, store.rules.create(rule, rule.owner, now - DAY_MS));
    await publishRule(on, rule, 1, rule.owner, now - DAY_MS);
  });
}

async function* streamOf(bytes: Buffer): AsyncGenerator<Buffer> {
  yield bytes;
}
