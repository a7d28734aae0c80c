import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { openRule } from '../core/rules/index.ts';
import { instantOf } from '../core/time/index.ts';
import type { Change } from '../core/values/index.ts';
import {
  changeSchema,
  inputSchema,
  nestingFault,
  ruleSchema,
  scenarioShape,
  schemaFaults,
  shapeFault,
  toCloudEvent,
} from './documents/index.ts';
import { LIMITS } from './limits.ts';

const CHANGE: Change = {
  id: 'c1',
  at: instantOf('2026-03-04T10:15:00Z'),
  source: 'loans & more',
  item: 'L-12',
  kind: 'changed',
  actor: 'ines',
  before: { status: 'Agreed' },
  after: { status: 'On view' },
  folder: null,
  folderBefore: null,
  batch: 'b1',
  detail: { text: 'as agreed' },
};

describe('a change', () => {
  it('is the same after it went over the wire as an event', () =>
    expect(inputSchema.parse(JSON.parse(JSON.stringify(toCloudEvent(CHANGE))))).toEqual(CHANGE));
  it('is the same as a document', () =>
    expect(changeSchema.parse({ ...CHANGE, at: '2026-03-04T10:15:00Z' })).toEqual(CHANGE));
});

describe('a rule', () => {
  it('has the values shown where a document leaves them out', () => {
    const document = { id: 'r1', name: 'R', owner: 'ines', scope: { sources: ['loans'] }, when: {}, to: [] };
    expect(ruleSchema.parse(document)).toEqual(openRule('r1', 'R', 'ines', ['loans']));
  });

  it('can be written down whole, read again, and is the same', () => {
    const full = ruleSchema.parse({
      id: 'r1',
      name: 'R',
      owner: 'ines',
      urgency: 'critical',
      zone: 'Europe/Madrid',
      scope: { sources: ['loans'], items: ['L-1'], linked: true },
      due: { field: 'due', offset: '-P14D', repeat: { every: 'P1D', times: 3 } },
      to: [{ managerOf: { linked: 'lender', field: 'keeper' } }],
      limit: { per: 'item', within: 'PT1H' },
      together: false,
      message: { wording: 'w1', from: 'owner' },
      ack: {
        by: 'everyone',
        remind: { after: 'PT1H', times: 2 },
        escalate: [{ after: 'PT2H', to: [{ managerOf: { told: true } }] }],
      },
    });
    expect(ruleSchema.parse(JSON.parse(JSON.stringify(full)))).toEqual(full);
  });
});

it('schemas are told as JSON Schema 2020-12, with nothing open that is closed', () => {
  const shape = z.toJSONSchema(scenarioShape, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' });
  expect(shape).toMatchObject({
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    type: 'object',
    additionalProperties: false,
    required: ['start', 'end'],
  });
  const rule = z.toJSONSchema(ruleSchema, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' });
  expect(rule.required).toEqual(['id', 'name', 'owner', 'scope', 'to']);
});

describe('a document that is no document', () => {
  const base = { id: 'r1', name: 'R', owner: 'ines', scope: { sources: ['loans'] }, to: [{ person: 'ines' }] };
  const nested = (levels: number): unknown =>
    levels === 0 ? { field: 'status', op: 'filled' } : { all: [nested(levels - 1)] };
  const deep = (levels: number): unknown => (levels === 0 ? 1 : [deep(levels - 1)]);

  it.each<[string, unknown, string | null]>([
    ['goes too deep', deep(LIMITS.depth + 1), 'tooDeep'],
    ['goes as deep as it may', deep(LIMITS.depth), null],
    ['has too long a list', { list: Array(LIMITS.list + 1).fill(0) }, 'tooLong'],
    ['has as long a list as it may', { list: Array(LIMITS.list).fill(0) }, null],
    ['holds too much', Array.from({ length: 100 }, () => Array(150).fill(0)), 'tooLarge'],
    ['has groups in groups too often', { ...base, when: { if: nested(LIMITS.nesting + 1) } }, 'tooDeep'],
    ['has groups in groups as often as it may', { ...base, when: { if: nested(LIMITS.nesting) } }, null],
    ['is a text', 'abc', null],
    ['is nothing', null, null],
  ])('is refused before it is looked at where it %s', (_name, document, code) =>
    expect((shapeFault(document) ?? nestingFault(document))?.code ?? null).toBe(code),
  );

  it('is explained by some twenty faults, however many there are', () => {
    const bad = {
      ...base,
      when: {
        if: { any: Array.from({ length: 1500 }, (_, at) => ({ field: 'a', op: `op${at}`, value: { of: at } })) },
      },
    };
    const result = ruleSchema.safeParse(bad);
    if (result.success) throw new Error('it should not be read');
    const faults = schemaFaults(result.error, ruleSchema);
    expect(faults.length).toBe(LIMITS.faults + 1);
    expect(faults.at(-1)?.code).toBe('more');
  });

  it.each(['P400000000D', 'PT999999999999H', 'P121M', '-P3661D', `P${'9'.repeat(80)}D`])(
    'has no duration such as %s',
    (duration) => {
      for (const part of [
        { idle: { for: duration } },
        { when: {}, pace: { kind: 'settled', quiet: duration } },
        { when: { burst: { count: 2, within: duration, per: 'item' } } },
        { due: { field: 'due', offset: duration } },
      ])
        expect(ruleSchema.safeParse({ ...base, ...part }).success).toBe(false);
    },
  );

  it.each(['P120M', 'P3650D', '-P3650D', 'PT87600H', 'P0D'])('may have a duration such as %s', (duration) =>
    expect(ruleSchema.safeParse({ ...base, due: { field: 'due', offset: duration } }).success).toBe(true),
  );
});
