import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkRule, compileState, openRule } from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import { comparison, fields, SOURCE } from './generate.ts';
import { stateHolds } from './whole/judging.ts';

const AT = instantOf('2026-03-04T10:00:00Z');
const ZONE = 'Europe/Madrid';
const IN = { source: SOURCE, zone: ZONE, sources: new Map([[SOURCE.id, SOURCE]]) };
const NONE = { item: () => undefined };

describe('two fields compared', () => {
  it('are judged as their values written out would be', () =>
    fc.assert(
      fc.property(comparison, fields, fc.boolean(), (test, state, areSame) => {
        const other = (test.value as { field: string }).field;
        const seen = areSame ? { ...state, [other]: state[test.field] ?? null } : state;
        expect(compileState(test, IN)(seen, AT, NONE)).toBe(
          stateHolds(test, seen, AT, SOURCE, { zone: ZONE, items: new Map() }),
        );
      }),
      { numRuns: 2000 },
    ));

  it('have to be there, of one type, and compared by what compares single values', () => {
    const faultsOf = (test: object) =>
      checkRule(
        { ...openRule('r', 'R', 'ines', [SOURCE.id]), when: { kinds: [], if: test as never, burst: null }, to: ['*'] },
        { sources: new Map([[SOURCE.id, SOURCE]]), folders: new Map() },
      ).map(({ code, path }) => [code, path]);
    const beside = (field: string, op: string, other: string) => faultsOf({ field, op, value: { field: other } });
    expect(beside('insured', 'above', 'agreed').filter(([, path]) => path?.startsWith('when'))).toEqual([]);
    expect(beside('insured', 'above', 'nowhere')).toContainEqual(['unknownField', 'when.if.value.field']);
    expect(beside('insured', 'above', 'humidity')).toContainEqual(['otherType', 'when.if.value.field']);
    expect(beside('insured', 'between', 'agreed')).toContainEqual(['comparesNoFields', 'when.if.value']);
    expect(beside('title', 'contains', 'once')).toContainEqual(['comparesNoFields', 'when.if.value']);
  });
});
