import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Person, World } from '../people/index.ts';
import { OPEN_MESSAGE, openRule, type Rule } from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import { asChange, type Change, type Fields, type ItemState, type Source } from '../values/index.ts';
import {
  type Content,
  forPages,
  itemsIn,
  makeContent,
  readableContent,
  type SharedEntries,
  type Telling,
} from './index.ts';

const AT = instantOf('2026-03-04T10:15:00Z');
const source = (id: string, to: string): Source => ({
  id,
  kind: 'records',
  name: id,
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'leads', name: 'Leads to', type: 'links', to },
    { id: 'due', name: 'Due', type: 'date' },
  ],
});
const SOURCES = [source('loans', 'vault'), source('vault', 'loans')];
const RULE: Rule = {
  ...openRule('all', 'All', 'ines', ['loans']),
  when: { kinds: [], if: { all: [] }, burst: null },
  message: { ...OPEN_MESSAGE, show: ['leads'] },
};
const DUE: Rule = {
  ...RULE,
  when: null,
  due: { field: 'due', offset: '-P1D', at: '09:00', if: { all: [] }, repeat: null, late: 'now' },
};

/** What an item is called is a word that stands nowhere else. */
const wordOf = (id: string) => `zq${id}x`;
const state = (id: string, from: string, leads: string[]): ItemState => ({
  id,
  source: from,
  folder: null,
  fields: { title: `Thing ${wordOf(id)}`, leads, due: '2026-03-05' },
  createdBy: null,
  lastBy: null,
  lastAt: null,
});
const LOANS = ['a', 'b', 'c'];
const VAULT = ['p', 'q', 'r', 's'];
const leadsOf: Record<string, string[]> = { a: ['p', 'q'], b: ['r'], c: [] };
const ITEMS = new Map([
  ...LOANS.map((id) => [id, state(id, 'loans', leadsOf[id] ?? [])] as const),
  ...VAULT.map((id) => [id, state(id, 'vault', [])] as const),
]);

const personOf = (id: string): Person => ({
  id,
  name: id,
  email: null,
  phone: null,
  zone: 'UTC',
  locale: 'en-GB',
  manager: null,
  active: true,
  plan: null,
});

/** Who reads what, said outright. */
const worldOf = (vaultReaders: string[]): World => ({
  people: new Map(['mei', 'petra'].map((id) => [id, personOf(id)])),
  groups: new Map(),
  sources: new Map(SOURCES.map((one) => [one.id, one])),
  folders: new Map(),
  access: [
    { source: 'loans', readers: [{ person: 'mei' }, { person: 'petra' }] },
    { source: 'vault', readers: vaultReaders.map((person) => ({ person })) },
  ],
  item: (id) => ITEMS.get(id),
});

const changeOf = (id: string): Change => {
  const item = ITEMS.get(id) as ItemState;
  const before: Fields = { ...item.fields, leads: [] };
  return { ...asChange(item, AT), id: `change-${id}`, before, after: item.fields };
};
const telling = (id: string, rule = RULE): Telling => ({
  alert: `alert-${rule.id}`,
  rule,
  source: 'loans',
  item: id,
  occasion: rule.due ? 'due' : 'change',
  at: AT,
  changes: rule.due ? [] : [changeOf(id)],
  reasons: [],
});
const reader = (id: string) => ({ id, name: id, zone: 'UTC', locale: 'en-GB' });
const told = (who: string, items: string[], vaultReaders: string[], shared?: SharedEntries, rule = RULE): Content => {
  const made = makeContent(
    'single',
    items.map((id) => [telling(id, rule)]),
    AT,
    reader(who),
    worldOf(vaultReaders),
    shared,
  );
  if (!made) throw new Error('nothing is told');
  return made;
};
const wordsIn = (content: Content): string[] =>
  [...ITEMS.keys()].filter((id) => JSON.stringify(forPages(content)).includes(wordOf(id)));

describe('what a message says of items that its item leads to', () => {
  it('is their names to whoever may read them, and that there is one to others', () => {
    expect(wordsIn(told('mei', ['a'], ['mei']))).toEqual(['a', 'p', 'q']);
    const content = told('petra', ['a'], ['mei']);
    expect(wordsIn(content)).toEqual(['a']);
    expect(JSON.stringify(content)).toContain('one you may not read');
    expect(itemsIn([content])).toEqual(['a']);
  });

  it('is each reader’s own though many are told at once, of what happened and of a date', () => {
    for (const rule of [RULE, DUE]) {
      const shared: SharedEntries = new Map();
      expect(wordsIn(told('mei', ['a'], ['mei'], shared, rule))).toEqual(['a', 'p', 'q']);
      expect(wordsIn(told('petra', ['a'], ['mei'], shared, rule))).toEqual(['a']);
      const both = ['mei', 'petra'].map((who) => told(who, ['a'], ['mei', 'petra'], new Map(), rule));
      expect(both[0]).toEqual(both[1]);
    }
  });

  it('is made once for those who are told the same', () => {
    const shared: SharedEntries = new Map();
    const readers = ['mei', 'petra'];
    const [one, other] = readers.map((who) => told(who, ['a'], readers, shared));
    expect(one).toBe(other);
    const [plain] = readers.map(() =>
      makeContent('single', [[telling('a')]], AT, { ...reader('mei'), emailFormat: 'text' }, worldOf(readers), shared),
    );
    expect(plain).not.toBe(one);
    expect(plain?.isPlain).toBe(true);
  });

  it('goes, with what else they are told of it, once one of them is closed to a reader', () =>
    fc.assert(
      fc.property(fc.subarray(LOANS, { minLength: 1 }), fc.subarray([...ITEMS.keys()]), (items, open) => {
        const whole = told('mei', items, ['mei']);
        const { content, isWhole } = readableContent(whole, (id) => open.includes(id));
        const readable = items.filter((id) => open.includes(id));
        const isClear = (id: string) => (leadsOf[id] ?? []).every((one) => open.includes(one));
        expect(content.entries.map(({ item }) => item.id)).toEqual(readable);
        expect(isWhole).toBe(readable.length === items.length && items.every(isClear));
        for (const word of wordsIn(content)) expect(open).toContain(word);
        for (const entry of content.entries)
          expect(entry.fields.length > 0).toBe(isClear(entry.item.id) && (leadsOf[entry.item.id] ?? []).length > 0);
        if (isWhole) expect(content).toBe(whole);
      }),
    ));
});
