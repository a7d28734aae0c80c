import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Directory } from './directory.ts';
import { toldOutside } from './answering.ts';

const PEOPLE = ['mei', 'ines', 'wren'];
const RULES = ['one', 'two', 'gone'];
const ITEMS = ['loan', 'object'];
const item = (id: string) => ({ id, source: id, folder: null, fields: {}, createdBy: null, lastBy: null }) as never;

it('what goes outside is what each rule’s owner, who is here, and whoever put it live may all read; of a rule that nobody knows, nothing', () =>
  fc.assert(
    fc.property(
      fc.record(Object.fromEntries(ITEMS.map((id) => [id, fc.subarray(PEOPLE)]))),
      fc.subarray(PEOPLE),
      fc.record({
        one: fc.record({ owner: fc.constantFrom(...PEOPLE), editor: fc.constantFrom(...PEOPLE) }),
        two: fc.record({ owner: fc.constantFrom(...PEOPLE), editor: fc.constantFrom(...PEOPLE) }),
      }),
      fc.subarray(RULES),
      (readers, here, answering, rules) => {
        const directory = {
          people: new Map(PEOPLE.map((id) => [id, { id, active: here.includes(id) }])),
          groups: new Map(),
          folders: new Map(),
          sources: new Map(),
          access: ITEMS.map((id) => ({ source: id, readers: (readers[id] ?? []).map((person) => ({ person })) })),
          answering: new Map(Object.entries(answering)),
        } as unknown as Directory;
        const isTold = toldOutside(directory, rules, new Map(ITEMS.map((id) => [id, item(id)])));
        for (const id of ITEMS) {
          const all = rules.every((rule) => {
            const who = rule === 'gone' ? null : answering[rule as 'one' | 'two'];
            return (
              who !== null &&
              here.includes(who.owner) &&
              readers[id]?.includes(who.owner) &&
              readers[id]?.includes(who.editor)
            );
          });
          expect(isTold(id)).toBe(all);
        }
      },
    ),
  ));
