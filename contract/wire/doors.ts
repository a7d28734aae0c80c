import { z } from 'zod';
import { LIMITS } from '../limits.ts';
import { DEEDS } from '../../core/doors/index.ts';
import type { RouteContract } from './route.ts';
import { idSchema, whenSchema } from './shared.ts';

const pointerSchema = z.string().trim().max(LIMITS.pointer).nullable();
/** What becomes of events of one sort. */
export const mappingSchema = z.strictObject({
  type: z.string().trim().min(1).max(200),
  does: z.enum(DEEDS),
  key: pointerSchema,
  actor: pointerSchema,
  text: pointerSchema,
  fields: z
    .array(z.strictObject({ field: idSchema, from: pointerSchema, fixed: z.string().max(LIMITS.line).nullable() }))
    .max(200),
});
/** A door as it is set up: what it is called, and what becomes of what comes. */
export const doorSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  isOpen: z.boolean(),
  mappings: z.array(mappingSchema).min(1).max(40),
});
/** A door as it is set up. */
export type DoorDefined = z.output<typeof doorSchema>;

const doorRowSchema = doorSchema.extend({
  id: idSchema,
  owner: idSchema,
  lastAt: whenSchema.nullable(),
  taken: z.number(),
  refused: z.number(),
});
/** A door by which another program hands changes in, with how much came. */
export type DoorRow = z.output<typeof doorRowSchema>;

const keySchema = z.strictObject({ id: idSchema, key: z.string() });

/** An event of CloudEvents 1.0 in its JSON format, as far as doors ask of it; further attributes stay. */
export const outsideEventSchema = z.looseObject({
  specversion: z.literal('1.0'),
  id: z.string().min(1).max(300),
  source: z.string().min(1).max(500),
  type: z.string().min(1).max(300),
});

const faultSchema = z.strictObject({
  code: z.string(),
  path: z.string(),
  params: z.record(z.string(), z.unknown()),
  words: z.string(),
});
const memberSchema = z.strictObject({
  /** The event's own id and source, as it bore them. */
  id: z.string().nullable(),
  source: z.string().nullable(),
  outcome: z.enum(['taken', 'repeated', 'unchanged', 'passedOver', 'refused', 'notTried']),
  item: z.string().optional(),
  change: z.string().optional(),
  faults: z.array(faultSchema).optional(),
});
/** What became of one event. */
export type DoorMember = z.output<typeof memberSchema>;
/** What became of each event of a batch, in its order. */
export const doorAnswerSchema = z.array(memberSchema);

const triedSchema = z.strictObject({
  outcome: z.enum(['keep', 'add', 'comment', 'remove', 'passedOver', 'refused']),
  key: z.string().nullable(),
  /** Whose doing it would be: a person's id, or the door's own name as a system. */
  actor: z.string().nullable(),
  text: z.string().nullable(),
  fields: z.array(z.strictObject({ field: z.string(), words: z.string() })),
  faults: z.array(faultSchema),
});
/** What a sample would come to. */
export type DoorTried = z.output<typeof triedSchema>;

/** What the routes of doors take and answer; they are for stewards. */
export const doorRoutes = {
  'doors.list': { answer: z.array(doorRowSchema) },
  /** The key is told here once. */
  'doors.add': { body: doorSchema, answer: keySchema, status: 201, problems: ['badValues', 'editedMeanwhile'] },
  'doors.save': { body: doorSchema, problems: ['badValues', 'editedMeanwhile'] },
  'doors.rekey': { answer: keySchema, problems: ['editedMeanwhile'] },
  'doors.drop': { problems: ['editedMeanwhile'] },
  /** What a sample event would come to; nothing is kept. */
  'doors.try': {
    body: z.strictObject({ mappings: z.array(mappingSchema).max(40), sample: z.string().max(20_000) }),
    answer: triedSchema,
    problems: ['badValues'],
  },
} as const satisfies Record<string, RouteContract>;
