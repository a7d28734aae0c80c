import fc from 'fast-check';
import { instantOf, printInstant } from '../time/index.ts';
import { describe, expect, it } from 'vitest';
import { FIELD_TYPES, type Field, type Fields, isEmpty, sameValue, type Source, type Value } from '../values/index.ts';
import {
  asItWas,
  type Cell,
  defused,
  faultsOfMapping,
  gridOf,
  guessColumns,
  guessKey,
  ITEM_ID,
  type Known,
  type Mapping,
  planTable,
  readCell,
  writeCell,
} from './index.ts';

const LOCALES = ['en-GB', 'en-US', 'es-ES', 'de-DE', 'sv-SE'];
const PEOPLE = new Map([
  ['p1', 'Ada Marlowe'],
  ['p2', 'Bruno; Senior'],
  ['p3', 'Ada Marlowe'],
]);
const reading = (locale: string) => ({
  locale,
  person: (text: string) => named(text, PEOPLE),
  item: (_source: string, text: string) => named(text, PEOPLE),
});
const writing = { person: (id: string) => nameOf(id), item: (_source: string, id: string) => nameOf(id) };

function named(text: string, of: ReadonlyMap<string, string>): string | null {
  if (of.has(text)) return text;
  const found = [...of].filter(([, name]) => name === text);
  return found.length === 1 ? (found[0]?.[0] ?? null) : null;
}
/** A name where it names one alone and can stand among others. */
function nameOf(id: string): string {
  const name = PEOPLE.get(id) ?? id;
  return !name.includes(';') && [...PEOPLE.values()].filter((one) => one === name).length === 1 ? name : id;
}

const OPTIONS = ['Agreed', 'On view', 'Returned'];
/** Two have each other's names by now. */
const NAMES = { Agreed: 'Returned', Returned: 'Agreed' };
const decimal = fc
  .tuple(fc.integer({ min: -9_999_999, max: 9_999_999 }), fc.integer({ min: 0, max: 4 }))
  .map(([figures, places]) => (figures / 10 ** places).toFixed(places));
const line = fc.string({ unit: 'grapheme', maxLength: 20 }).map((text) => text.normalize('NFC').trim());
const day = fc
  .integer({ min: instantOf('1990-01-01T00:00:00Z') / 1000, max: instantOf('2099-12-31T00:00:00Z') / 1000 })
  .map((seconds) => printInstant(seconds * 1000));
const ids = fc.constantFrom(...PEOPLE.keys());
const VALUES: Record<Field['type'], fc.Arbitrary<Value>> = {
  text: line,
  longText: fc.array(line, { maxLength: 3 }).map((lines) => lines.join('\n').trim()),
  number: fc.oneof(
    decimal,
    fc.integer(),
    fc.double({ noNaN: true, min: -1e6, max: 1e6 }).map((one) => Number(one.toFixed(3))),
  ),
  money: fc.record({ amount: decimal, currency: fc.constantFrom('EUR', 'GBP') }),
  boolean: fc.boolean(),
  date: day.map((text) => text.slice(0, 10)),
  dateTime: day,
  choice: fc.constantFrom(...OPTIONS),
  choices: fc.uniqueArray(fc.constantFrom(...OPTIONS)),
  person: ids,
  people: fc.uniqueArray(ids),
  link: ids,
  links: fc.uniqueArray(ids),
  url: fc.constantFrom('https://reedgate.example/a?b=c', 'http://x.example/'),
  email: fc.constantFrom('ada@marlowe.example'),
};
const FIELDS = FIELD_TYPES.map(
  (type): Field => ({
    id: type,
    name: `A ${type}`,
    type,
    to: 'others',
    ...(type.startsWith('choice') ? { options: OPTIONS, optionNames: NAMES } : {}),
  }),
);
const fieldOfType = fc.constantFrom(...FIELDS);

describe('a cell', () => {
  it('is written so that it is read as the same value in any language, also behind the sign that keeps it from being a formula', () => {
    const cell = fieldOfType.chain((field) => fc.record({ field: fc.constant(field), value: VALUES[field.type] }));
    fc.assert(
      fc.property(cell, fc.constantFrom(...LOCALES), fc.boolean(), ({ field, value }, locale, isText) => {
        const written = writeCell(field, value, writing);
        const kept: Cell = isText && written !== null ? asItWas(defused(String(written))) : written;
        const read = readCell(field, kept, reading(locale));
        expect(read).toHaveProperty('value');
        expect(sameValue(field.type, value, 'value' in read ? read.value : null) || isEmpty(value)).toBe(true);
      }),
      { seed: 7, numRuns: 6000 },
    );
  });

  it('never begins as a formula does once it is defused, and is again what it was', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^['=+@\-\ta-c]{0,8}$/), (text) => {
        expect(defused(text)).not.toMatch(/^[=+\-@\t\r]/);
        expect(asItWas(defused(text))).toBe(text);
      }),
      { seed: 8, numRuns: 2000 },
    );
  });

  it.each([
    ['number', 'about 5', 'needsNumber'],
    ['money', '500', 'needsMoney'],
    ['date', '31/02/2026', 'needsDate'],
    ['choice', 'Lost', 'unknownOption'],
    ['person', 'Ada Marlowe', 'namesNobody'],
    ['links', 'p1; nobody', 'namesNoItem'],
    ['email', 'ada at marlowe', 'needsAddress'],
  ] as const)('of a %s says of "%s" what stands against it', (type, text, code) => {
    const field = FIELDS.find((one) => one.type === type) as Field;
    expect(readCell(field, text, reading('en-GB'))).toMatchObject({ fault: { code } });
  });
});

describe('a table', () => {
  it('begins at its first line with anything in it, names every column once, and leaves out empty lines', () => {
    const grid = gridOf([[], ['', ' '], ['Name', '', 'Name', null], ['a', 1, true, null], [' ', null], ['b']]);
    expect(grid).toEqual({
      columns: ['Name', 'B', 'Name 2'],
      rows: [
        { line: 4, cells: ['a', 1, true] },
        { line: 6, cells: ['b', null, null] },
      ],
    });
  });

  it('tells of each column what it seems to hold, and which tells rows apart', () => {
    const rows = Array.from({ length: 9 }, (_, at) => [
      `No ${at}`,
      at * 1.5,
      `EUR ${at},000`,
      at % 2 ? 'Packed' : 'Open',
      '03/04/2026',
      at % 2 ? 'yes' : 'no',
      '0042',
      '2026-03-04T10:00:00Z',
    ]);
    const grid = gridOf([['Crate', 'Weight', 'Value', 'State', 'Due', 'Sealed', 'Shelf', 'Seen'], ...rows]);
    expect(guessColumns(grid, 'en-GB').map(({ type }) => type)).toEqual([
      'text',
      'number',
      'money',
      'choice',
      'date',
      'boolean',
      'choice',
      'dateTime',
    ]);
    expect(guessKey(grid)).toBe(0);
  });
});

describe('what a table would come to', () => {
  const source: Source = {
    id: 'crates',
    kind: 'list',
    name: 'Crates',
    titleField: 'text',
    fields: FIELDS.filter(({ type }) => ['text', 'number', 'choice'].includes(type)),
  };
  const mapping: Mapping = { columns: ['text', 'number', 'choice'], key: 'text', absent: 'delete' };
  const row = fc.tuple(
    fc.constantFrom('a', 'b', 'c', 'd', 'é', '', ' a'),
    fc.constantFrom('1', '2', '', 'many'),
    fc.constantFrom('Agreed', 'agreed', '', 'Lost'),
  );
  const known = fc
    .uniqueArray(fc.record({ text: fc.constantFrom('a', 'b', 'c', 'e\u0301'), number: fc.constantFrom(1, '2', 3) }), {
      selector: ({ text }) => text,
    })
    .map((all) => all.map((fields, at): Known => ({ id: `i${at}`, fields })));
  const plan = (rows: Cell[][], items: readonly Known[]) =>
    planTable(gridOf([['text', 'number', 'choice'], ...rows]), mapping, source, items, reading('en-GB'));

  it('accounts for each row once, and once it is done the same table changes nothing more', () => {
    fc.assert(
      fc.property(fc.array(row, { maxLength: 8 }), known, (rows, items) => {
        const first = plan(rows, items);
        expect(first.rows).toHaveLength(rows.filter((cells) => cells.some((cell) => cell.trim() !== '')).length);
        const after = new Map(items.map(({ id, fields }): [string, Fields] => [id, fields]));
        for (const id of first.deleted) after.delete(id);
        for (const [at, done] of first.rows.entries()) {
          if (done.outcome === 'new') after.set(`n${at}`, done.set);
          if (done.outcome === 'changed') after.set(done.item, { ...after.get(done.item), ...done.set });
        }
        const again = plan(
          rows,
          [...after].map(([id, fields]) => ({ id, fields })),
        );
        expect(again.deleted).toEqual([]);
        expect(again.rows.map(({ outcome }) => outcome)).toEqual(
          first.rows.map(({ outcome }) => (outcome === 'refused' ? 'refused' : 'unchanged')),
        );
      }),
      { seed: 9, numRuns: 1500 },
    );
  });

  it('names the fault, its column and its line', () => {
    const { rows } = plan(
      [
        ['a', 'many', 'Lost'],
        ['a', '1', ''],
        ['', '1', ''],
      ],
      [],
    );
    expect(rows).toMatchObject([
      {
        line: 2,
        faults: [
          { column: 'number', code: 'needsNumber' },
          { column: 'choice', code: 'unknownOption' },
        ],
      },
      { line: 3, faults: [{ column: null, code: 'keyTwice', params: { line: '2' } }] },
      { line: 4, faults: [{ column: null, code: 'keyEmpty' }] },
    ]);
  });

  it('goes by ids where a column holds them, and makes new items of rows without', () => {
    const grid = gridOf([
      ['id', 'text'],
      ['i1', 'b'],
      ['', 'c'],
      ['i9', 'd'],
    ]);
    const items = [{ id: 'i1', fields: { text: 'a' } }];
    const by = planTable(
      grid,
      { columns: [ITEM_ID, 'text'], key: ITEM_ID, absent: 'leave' },
      source,
      items,
      reading('en-GB'),
    );
    expect(by.rows.map(({ outcome }) => outcome)).toEqual(['changed', 'new', 'refused']);
  });

  it('refuses a mapping that cannot be', () => {
    const codes = (columns: Mapping['columns'], key: string | null) =>
      faultsOfMapping({ columns, key, absent: 'leave' }, source).map(({ code }) => code);
    expect(codes(['text', 'text'], null)).toEqual(['fieldTwice']);
    expect(codes(['strange', null], 'number')).toEqual(['unknownField', 'keyWithoutColumn']);
    expect(codes([null], null)).toEqual(['noColumnUsed']);
  });
});
