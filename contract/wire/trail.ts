import { z } from 'zod';
import { dateSchema, kindSchema, valueSchema } from '../documents/index.ts';
import type { RouteContract } from './route.ts';
import { actorSchema, idSchema, titlesSchema, whenSchema } from './shared.ts';

/** A change as trails list it: who, when, and each field from what to what. */
export const trailRowSchema = z.strictObject({
  id: z.string(),
  at: whenSchema,
  kind: kindSchema,
  actor: actorSchema,
  /** The version of the item that it made; `null` of a look, which makes none. */
  version: z.number().int().nullable(),
  fields: z.array(z.strictObject({ field: z.string(), before: valueSchema, after: valueSchema })),
  folder: z.string().nullable(),
  folderBefore: z.string().nullable(),
  text: z.string().nullable(),
  caughtBy: z.array(z.string()),
});
/** One thing that happened, as a page shows it: the fields that differ alone. */
export type TrailRow = z.output<typeof trailRowSchema>;

/** A change with what is needed to show it by itself. */
export const sampleSchema = z.strictObject({
  source: idSchema,
  item: idSchema,
  title: z.string(),
  row: trailRowSchema,
});
/** A past change as an example of something. */
export type Sample = z.output<typeof sampleSchema>;

const trailEntrySchema = sampleSchema.extend({
  batch: z.strictObject({ id: z.string(), count: z.number().int() }).nullable(),
});
/** One thing of the trail; of a batch one stands for all. */
export type TrailEntry = z.output<typeof trailEntrySchema>;
const trailPageSchema = z.strictObject({
  entries: z.array(trailEntrySchema),
  names: titlesSchema,
  next: z.string().nullable(),
});
export type TrailPage = z.output<typeof trailPageSchema>;

const trailQuerySchema = z.object({
  source: idSchema.optional(),
  item: idSchema.optional(),
  person: actorSchema.optional(),
  kind: kindSchema.optional(),
  field: idSchema.optional(),
  batch: idSchema.optional(),
  from: dateSchema.optional(),
  until: dateSchema.optional(),
  before: z.string().max(60).optional(),
});

/** What the routes of the trail take and answer. */
export const trailRoutes = {
  'trail.list': { query: trailQuerySchema, answer: trailPageSchema },
  'changes.read': { answer: sampleSchema },
} as const satisfies Record<string, RouteContract>;
