import { describe, expect, it } from 'vitest';
import type { Selector } from '../../../../core/people/index.ts';
import { casesOf, readRows, tableOf, valueNamed } from './cases.ts';

const FIELD = {
  id: 'exhibition',
  name: 'Exhibition',
  type: 'choice' as const,
  options: ['ww', 'sf'],
  optionNames: { ww: 'Woven Waters', sf: 'Small Fires' },
};
const NAMES: Record<string, Selector> = { 'inés calder': { person: 'ines' }, registrars: { group: 'registrars' } };
const find = {
  who: (name: string) => NAMES[name.toLowerCase()],
  value: (text: string) => valueNamed(FIELD, text),
};

describe('recipients by case as a table', () => {
  it('are written as they were read', () => {
    const table = {
      field: 'exhibition',
      rows: [{ value: 'ww', to: [{ person: 'ines' }] }],
      otherwise: [{ group: 'registrars' }],
    };
    expect(tableOf(casesOf(table))).toEqual(table);
    expect(casesOf({ ...table, otherwise: [] })).not.toHaveProperty('else');
  });

  it('are no table where they ask for more than what one field is', () => {
    const of = (...tests: object[]): Selector => ({
      cases: tests.map((test) => ({ if: test, to: [{ person: 'ines' }] })),
    });
    const is = (field: string) => ({ field, op: 'is', value: 'x' });
    expect(tableOf(of(is('a'), is('b')))).toBeNull();
    expect(tableOf(of({ field: 'a', op: 'filled' }))).toBeNull();
    expect(tableOf(of({ all: [is('a')] }))).toBeNull();
    expect(tableOf({ person: 'ines' })).toBeNull();
  });

  it('are filled from the lines of a file, and say by line what they do not know', () => {
    const lines = [
      ['Exhibition', 'Who'],
      ['Woven Waters', 'Inés Calder; Registrars'],
      ['sf', 'Registrars'],
      ['Small Fires', 'Nobody Known'],
      ['Lost Show', 'Registrars'],
      ['Woven Waters'],
      ['', ''],
    ];
    expect(readRows(lines, FIELD, find)).toEqual([
      { row: { value: 'ww', to: [{ person: 'ines' }, { group: 'registrars' }] } },
      { row: { value: 'sf', to: [{ group: 'registrars' }] } },
      { line: 4, unknown: 'Nobody Known' },
      { line: 5, unknown: 'Lost Show' },
      { line: 6, unknown: 'Woven Waters' },
    ]);
  });
});
