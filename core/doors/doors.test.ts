import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readingBy } from '../tables/index.ts';
import { faultOf, fieldOf, type Source } from '../values/index.ts';
import { checkMappings, type EventMapping, mapEvent, type OutsideEvent } from './index.ts';
import { isPointer, pointedAt } from './pointer.ts';

const SOURCE: Source = {
  id: 'loans',
  kind: 'list',
  name: 'Loans',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Loan', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
    { id: 'value', name: 'Value', type: 'money' },
    { id: 'weight', name: 'Weight', type: 'number' },
    { id: 'due', name: 'Due', type: 'date' },
    { id: 'seen', name: 'Seen', type: 'boolean' },
    { id: 'tags', name: 'Tags', type: 'choices', options: ['a', 'b', 'c'] },
    { id: 'registrar', name: 'Registrar', type: 'person' },
  ],
};
const READING = readingBy({
  locale: 'en-GB',
  people: [['wren', ['Wren Adeyemi', 'wren@marisma.example']]],
  items: [],
});
const event = (data: unknown, more: Partial<OutsideEvent> = {}): OutsideEvent => ({
  specversion: '1.0',
  id: '1',
  source: 'desk',
  type: 'desk.saved',
  subject: 'L-1',
  data,
  ...more,
});
const keep = (more: Partial<EventMapping> = {}): EventMapping => ({
  type: 'desk.*',
  does: 'keep',
  key: '/subject',
  actor: null,
  text: null,
  fields: SOURCE.fields.map(({ id }) => ({ field: id, from: `/data/${id}`, fixed: null })),
  ...more,
});

describe('a place in an event', () => {
  it('is found as by going there part by part, whatever the parts are called', () => {
    // The naive twin knows the way as a list of parts and never writes it down.
    const way = fc.array(fc.string({ maxLength: 4 }), { maxLength: 4 });
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 4 }), way, (document, parts) => {
        let twin: unknown = document;
        for (const part of parts)
          twin =
            typeof twin === 'object' && twin !== null && Object.hasOwn(twin, part)
              ? (twin as Record<string, unknown>)[part]
              : undefined;
        const pointer = parts.map((part) => `/${part.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');
        expect(isPointer(pointer)).toBe(true);
        expect(pointedAt(document, pointer)).toEqual(twin);
      }),
    );
  });

  it('is none where it does not begin with a slash or breaks off a sign, and leads to nothing that was not sent', () => {
    for (const text of ['subject', 'data/title', '/a/~', '/~2', ' /a']) expect(isPointer(text)).toBe(false);
    for (const pointer of ['/constructor', '/__proto__', '/data/toString', '/data/length'])
      expect(pointedAt(event({ title: 'x' }), pointer)).toBeUndefined();
    expect(pointedAt({ data: ['x', 'y'] }, '/data/1')).toBe('y');
    expect(pointedAt('whole', '')).toBe('whole');
  });
});

describe('an event by its mapping', () => {
  it('becomes values of each type, as programs write them', () => {
    const data = {
      title: 'Tidal Loom',
      status: 'on view',
      value: { amount: '1200.50', currency: 'EUR' },
      weight: 12.25,
      due: '2026-03-04',
      seen: true,
      tags: ['a', 'c'],
      registrar: 'Wren Adeyemi',
    };
    expect(mapEvent([keep()], event(data), SOURCE, READING)).toMatchObject({
      outcome: 'act',
      does: 'keep',
      key: 'L-1',
      set: {
        title: 'Tidal Loom',
        status: 'On view',
        value: data.value,
        weight: 12.25,
        due: '2026-03-04',
        seen: true,
        tags: ['a', 'c'],
        registrar: 'wren',
      },
    });
  });

  it('leaves alone what it does not speak of, and empties what it says is nothing', () => {
    const mapped = mapEvent([keep()], event({ title: 'Tidal Loom', due: null }), SOURCE, READING);
    expect(mapped).toMatchObject({ set: { title: 'Tidal Loom', due: null } });
    expect(Object.keys((mapped as { set: object }).set)).toEqual(['title', 'due']);
  });

  it('is for the first mapping of its type, and passed over where there is none', () => {
    const mappings = [
      keep({ type: 'desk.gone', does: 'remove', fields: [] }),
      keep(),
      keep({ type: '*', does: 'add' }),
    ];
    const does = (type: string) => {
      const mapped = mapEvent(mappings, event({ title: 'x' }, { type }), SOURCE, READING);
      return mapped.outcome === 'act' ? mapped.does : mapped.outcome;
    };
    expect(['desk.gone', 'desk.saved', 'desk', 'other'].map(does)).toEqual(['remove', 'keep', 'add', 'add']);
    expect(mapEvent([keep()], event({}, { type: 'desk' }), SOURCE, READING)).toEqual({ outcome: 'passedOver' });
  });

  it('whatever it carries comes to values that can stand, or to faults that say where', () => {
    fc.assert(
      fc.property(
        fc.dictionary(fc.constantFrom(...SOURCE.fields.map(({ id }) => id)), fc.jsonValue({ maxDepth: 2 })),
        (data) => {
          const mapped = mapEvent([keep()], event(data), SOURCE, READING);
          if (mapped.outcome === 'refused') {
            expect(mapped.faults.length).toBeGreaterThan(0);
            for (const { path } of mapped.faults) expect(path.replace('/data/', '') in data).toBe(true);
            return;
          }
          if (mapped.outcome !== 'act') throw new Error('it has a mapping');
          for (const [id, value] of Object.entries(mapped.set)) {
            const field = fieldOf(SOURCE, id);
            expect(field && value !== null ? faultOf(field, value) : null).toBeNull();
          }
        },
      ),
      { numRuns: 300 },
    );
  });

  it('is refused without the key or the words that its mapping wants', () => {
    const codes = (mapping: EventMapping, given: OutsideEvent) => {
      const mapped = mapEvent([mapping], given, SOURCE, READING);
      return mapped.outcome === 'refused' ? mapped.faults.map(({ code }) => code) : mapped.outcome;
    };
    const says = keep({ does: 'comment', text: '/data/text', fields: [] });
    expect(codes(says, event({}, { subject: undefined }))).toEqual(['noKeyThere', 'noWordsThere']);
    expect(codes(keep(), event({ title: 'x' }, { subject: 'k'.repeat(201) }))).toEqual(['noKeyThere']);
    expect(codes(says, event({ text: 'Here.' }, { subject: 7 }))).toBe('act');
  });
});

it('a mapping that names the item it makes, and nothing twice, can be kept', () => {
  expect(checkMappings([keep()], SOURCE)).toEqual([]);
  expect(checkMappings([keep({ does: 'remove', fields: [] })], SOURCE)).toEqual([]);
  expect(checkMappings([keep({ fields: [] })], SOURCE)).toMatchObject([
    { code: 'titleIsMapped', path: 'mappings.0.fields' },
  ]);
});
