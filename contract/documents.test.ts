import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { openRule } from '../core/rules/index.ts';
import { instantOf } from '../core/time/index.ts';
import type { Change } from '../core/values/index.ts';
import { changeSchema, inputSchema, ruleSchema, scenarioShape, toCloudEvent } from './documents/index.ts';

const CHANGE: Change = {
  id: 'c1', at: instantOf('2026-03-04T10:15:00Z'), source: 'loans & more', item: 'L-12', kind: 'changed', actor: 'ines', before: { status: 'Agreed' }, after: { status: 'On view' },
  folder: null, folderBefore: null, batch: 'b1', detail: { text: 'as agreed' },
};

describe('a change', () => {
  it('is the same after it went over the wire as an event', () => expect(inputSchema.parse(JSON.parse(JSON.stringify(toCloudEvent(CHANGE))))).toEqual(CHANGE));
  it('is the same as a document', () => expect(changeSchema.parse({ ...CHANGE, at: '2026-03-04T10:15:00Z' })).toEqual(CHANGE));
});

describe('a rule', () => {
  it('has the values shown where a document leaves them out', () => {
    const document = { id: 'r1', name: 'R', owner: 'ines', scope: { sources: ['loans'] }, when: {}, to: [] };
    expect(ruleSchema.parse(document)).toEqual(openRule('r1', 'R', 'ines', ['loans']));
  });

  it('can be written down whole, read again, and is the same', () => {
    const full = ruleSchema.parse({
      id: 'r1', name: 'R', owner: 'ines', urgency: 'critical', zone: 'Europe/Madrid', scope: { sources: ['loans'], items: ['L-1'], linked: true }, due: { field: 'due', offset: '-P14D', repeat: { every: 'P1D', times: 3 } },
      to: [{ managerOf: { linked: 'lender', field: 'keeper' } }], limit: { per: 'item', within: 'PT1H' }, together: false,
      message: { wording: 'w1', from: 'owner' }, ack: { by: 'everyone', remind: { after: 'PT1H', times: 2 }, escalate: [{ after: 'PT2H', to: [{ managerOf: { told: true } }] }] },
    });
    expect(ruleSchema.parse(JSON.parse(JSON.stringify(full)))).toEqual(full);
  });
});

it('schemas are told as JSON Schema 2020-12, with nothing open that is closed', () => {
  const shape = z.toJSONSchema(scenarioShape, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' });
  expect(shape).toMatchObject({ $schema: 'https://json-schema.org/draft/2020-12/schema', type: 'object', additionalProperties: false, required: ['start', 'end'] });
  const rule = z.toJSONSchema(ruleSchema, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' });
  expect(rule.required).toEqual(['id', 'name', 'owner', 'scope', 'to']);
});
