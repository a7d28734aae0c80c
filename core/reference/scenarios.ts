import fc from 'fast-check';
import type { Setting } from '../decide/index.ts';
import type { Person } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import type { Change, Fields } from '../values/index.ts';
import { fields, FOLDERS, ITEMS, rule, SOURCE } from './generate.ts';

const START = instantOf('2026-03-27T20:00:00Z');
const MINUTE = 60_000;
const PEOPLE = ['ines', 'mei', 'bo'];
const ZONES = ['Europe/Madrid', 'America/New_York', 'Asia/Tokyo'];

const person = (id: string, at: number): Person => ({ id, name: id, email: `${id}@marisma.example`, phone: null, zone: ZONES[at] ?? 'UTC', locale: 'en-GB', manager: null, active: true, plan: null });

/** A generated run: rules of one sort each, and changes that follow upon one another, item by item. */
export interface Generated extends Setting {
  inputs: Change[];
}

const step = fc.record({
  item: fc.constantFrom(...ITEMS), gap: fc.oneof(fc.constantFrom(0, 10, 60), fc.integer({ min: 1, max: 200 })), set: fields, kept: fc.subarray(SOURCE.fields.map((field) => field.id), { maxLength: 3 }),
  deed: fc.constantFrom('edit', 'edit', 'edit', 'edit', 'back', 'delete', 'move', 'comment'), actor: fc.constantFrom(...PEOPLE, 'system:import'), folder: fc.constantFrom(...FOLDERS), isBatch: fc.boolean(),
});

/** Rules that gather until things settle, gather for digests, or tell at once; limits and batches among them. */
const anyRule = fc.record({
  base: rule, isOpen: fc.boolean(), quiet: fc.constantFrom('PT10M', 'PT30M'), most: fc.constantFrom('PT20M', 'PT2H'), every: fc.constantFrom<'hour' | 'day'>('hour', 'day'), at: fc.constantFrom('02:30', '08:30', '00:00'),
  kind: fc.constantFrom('settled', 'settled', 'digest', 'now'), together: fc.boolean(), ownChanges: fc.boolean(), to: fc.subarray(PEOPLE, { minLength: 1 }),
}).map(({ base, isOpen, quiet, most, every, at, kind, together, ownChanges, to }): Rule => ({
  ...base, together, ownChanges, channels: ['inApp'], to: to.map((id) => ({ person: id })),
  // Half of the rules look for one field alone, so that much is caught, and much is put back.
  ...(isOpen ? { when: { kinds: [], if: { became: { field: 'status', op: 'is', value: 'On view' } }, burst: null }, scope: { ...base.scope, under: [], items: [], where: { all: [] } }, by: { only: [], except: [] } } : {}),
  pace: kind === 'settled' ? { kind, quiet, most } : kind === 'digest' ? { kind, every, at } : { kind: 'now' },
}));

export const scenario: fc.Arbitrary<Generated> = fc.record({ rules: fc.array(anyRule, { minLength: 1, maxLength: 3 }), steps: fc.array(step, { minLength: 1, maxLength: 14 }) }).map(({ rules, steps }) => {
  const inputs: Change[] = [];
  const now = new Map<string, { fields: Fields | null; folder: string }>();
  const first = new Map<string, Fields>();
  let at = START;
  for (const [number, { item, gap, set, kept, deed, actor, folder, isBatch }] of steps.entries()) {
    const known = now.get(item);
    const isOneBatch = isBatch && number > 0 && inputs.at(-1)?.item !== item;
    if (!isOneBatch) at += gap * MINUTE;
    const before = known?.fields ?? null;
    const exists = before !== null;
    const after: Fields | null = !exists ? set : deed === 'delete' ? null : deed === 'comment' || deed === 'move' ? before : deed === 'back' ? (first.get(item) ?? before) : { ...before, ...Object.fromEntries(kept.map((id) => [id, set[id] ?? null])) };
    if (!exists) first.set(item, set);
    const kind: Change['kind'] = !exists ? (known ? 'restored' : 'created') : deed === 'delete' ? 'deleted' : deed === 'move' ? 'moved' : deed === 'comment' ? 'commented' : 'changed';
    const place = exists && deed !== 'move' ? (known?.folder ?? folder) : folder;
    inputs.push({ id: `c${number}`, at, source: SOURCE.id, item, kind, actor, before, after, folder: place, folderBefore: exists ? (known?.folder ?? place) : null, batch: isBatch ? `b${at}` : null, detail: {} });
    now.set(item, { fields: after, folder: place });
  }
  return {
    start: START, end: at + 40 * 60 * MINUTE, people: PEOPLE.map(person), groups: [], contacts: [], sources: [SOURCE], followers: [], wordings: [], access: [], items: [],
    folders: FOLDERS.map((id, index) => ({ id, source: SOURCE.id, name: id, parent: index === 1 ? (FOLDERS[0] ?? null) : null })),
    rules: rules.map((one, index) => ({ rule: { ...one, id: `r${index}` }, from: START })), inputs,
  };
});

