import { describe, expect, it } from 'vitest';
import { ruleSchema } from '../../contract/documents/index.ts';
import { DIRECTORY, ME, ruleOf } from '../testing/drawing.tsx';
import { partWords } from './part-words.ts';
import { editedParts, PARTS, type RulePart } from './rule-parts.ts';
import type { Viewer } from './viewer.tsx';

const viewer: Viewer = {
  me: ME,
  directory: DIRECTORY,
  person: (id) => DIRECTORY.people.find((one) => one.id === id)?.name ?? id,
  sources: new Map(DIRECTORY.sources.map((one) => [one.id, one])),
  source: (id) => DIRECTORY.sources.find((one) => one.id === id),
  group: () => undefined,
  folder: () => undefined,
  names: () => ({ person: (id) => id, item: (id) => id }),
};

/** Of each part, documents that differ in one thing each. */
const VARIANTS: Partial<Record<RulePart, unknown[]>> = {
  urgency: ['routine', 'important', 'critical'],
  scope: [
    {},
    { items: ['a'] },
    { items: ['b'] },
    { items: ['a'], linked: true },
    { under: ['f'] },
    { where: { field: 'status', op: 'is', value: 'Agreed' } },
    { where: { field: 'status', op: 'is', value: 'On view' } },
  ].map((more) => ({ sources: ['loans'], ...more })),
  when: [
    null,
    {},
    { kinds: ['created'] },
    { kinds: ['created', 'changed'] },
    { kinds: ['deleted'], if: { changed: 'status' } },
    { if: { changed: 'status' } },
    { if: { changed: ['status', 'due'] } },
    { burst: { count: 3, within: 'PT10M', per: 'item' } },
    { burst: { count: 3, within: 'PT10M', per: 'actor' } },
    { burst: { count: 3, within: 'PT20M', per: 'rule' } },
  ],
  due: [
    null,
    {},
    { offset: '-P14D' },
    { offset: 'P14D' },
    { at: '08:00' },
    { late: 'skip' },
    { repeat: { every: 'P1D', times: 2 } },
    { repeat: { every: 'P1D', times: 3 } },
    { if: { field: 'status', op: 'is', value: 'Agreed' } },
  ].map((more) => more && { field: 'due', ...more }),
  idle: [null, {}, { for: 'P6D' }, { repeat: { every: 'P1D', times: 1 } }, { if: { field: 'note', op: 'filled' } }].map(
    (more) => more && { for: 'P5D', ...more },
  ),
  tally: [
    null,
    {},
    { of: { sum: 'insured' } },
    { per: 'status' },
    { becomes: { op: 'below', value: 3 } },
    { becomes: { op: 'above', value: 4 } },
    { kinds: ['created'] },
  ].map((more) => more && { of: 'items', becomes: { op: 'above', value: 3 }, ...more }),
  report: [
    null,
    {},
    { every: 'week', on: ['TU'] },
    { every: 'month', on: [5] },
    { at: '10:00' },
    { empty: true },
    { if: { field: 'status', op: 'is', value: 'Agreed' } },
  ].map((more) => more && { every: 'day', ...more }),
  by: [{}, { only: [{ person: 'mei' }] }, { except: [{ person: 'mei' }] }, { only: [{ system: '*' }] }],
  during: [
    {},
    { from: '2026-03-04' },
    { until: '2026-03-04' },
    { near: { field: 'due', ahead: 'P1D' } },
    { near: { field: 'due', ahead: 'P1D', behind: 'P1D' } },
  ],
  about: ['any', 'createdByRecipient', 'lastEditedByRecipient', 'namesRecipient'],
  to: [
    [],
    [{ person: 'mei' }],
    [{ person: 'wren' }],
    [{ field: 'registrar' }],
    [{ managerOf: { field: 'registrar' } }],
  ],
  except: [[], [{ person: 'mei' }]],
  channels: [null, ['inApp'], ['inApp', 'email']],
  pace: [
    { kind: 'now' },
    { kind: 'settled', quiet: 'PT10M', most: 'PT2H' },
    { kind: 'settled', quiet: 'PT10M', most: 'PT3H' },
    { kind: 'digest', every: 'day', at: '08:30' },
    { kind: 'digest', every: 'day', at: '08:30', zone: 'Europe/Lisbon' },
    { kind: 'digest', every: 'week', at: '08:30', on: ['TU'] },
  ],
  limit: [null, { per: 'item', within: 'PT1H' }, { per: 'rule', within: 'PT1H' }, { per: 'rule', within: 'PT2H' }],
  together: [true, false],
  ownChanges: [true, false],
  zone: ['UTC', 'Europe/Madrid'],
  message: [
    {},
    { wording: 'w' },
    { subject: 'S' },
    { subject: 'S', body: 'B' },
    { subject: 'S', body: 'B.' },
    { show: ['due'] },
    { doNow: 'Look' },
    { from: 'owner' },
    { replyTo: 'ines@marisma.example' },
  ],
  ack: [
    null,
    {},
    { by: 'everyone' },
    { remind: { after: 'PT30M', times: 2 } },
    { remind: { after: 'PT30M', times: 3 } },
    { escalate: [{ after: 'PT1H', to: [{ person: 'mei' }] }] },
    { escalate: [{ after: 'PT2H', to: [{ person: 'mei' }] }] },
    { closeWhenCeased: false },
    { allClear: true },
  ],
};

describe('a part of a rule in a line', () => {
  it.each(PARTS.filter((part) => part !== 'name'))('differs wherever %s does', (part) => {
    const variants = (VARIANTS[part] ?? []).map((value) => ruleOf({ [part]: value }));
    expect(variants.length).toBeGreaterThan(1);
    const lines = variants.map((one) => partWords(one, part, viewer));
    expect(new Set(lines).size).toBe(variants.length);
    expect(lines.join()).not.toMatch(/undefined|\[object|[{}]/);
  });

  it('is there for every part that a document has, but for whose it is', () => {
    const every = Object.keys(ruleSchema.parse(ruleOf())).filter((key) => key !== 'id' && key !== 'owner');
    expect(new Set(every)).toEqual(new Set(PARTS));
    const other = ruleOf({ zone: 'UTC', urgency: 'critical' });
    expect(editedParts(other, ruleOf())).toEqual(['urgency', 'zone']);
  });
});
