import { z } from 'zod';
import type { RouteContract } from './route.ts';
import { fieldsSchema, idSchema, titlesSchema } from './shared.ts';
import { listQuerySchema } from './sources.ts';

/** Contents that were handed in, and of a workbook which of its sheets. */
const fileSchema = z.strictObject({
  upload: z.string().min(1).max(160),
  sheet: z.string().max(200).nullable().default(null),
});
const mappingSchema = z.strictObject({
  /** For each column the field it goes to, `id` for the item's own, `null` where it is left out. */
  columns: z.array(idSchema.nullable()).min(1).max(200),
  key: idSchema.nullable(),
});

const lookedSchema = z.strictObject({
  rows: z.number().int(),
  sheets: z.array(z.string()),
  columns: z.array(z.strictObject({ name: z.string(), samples: z.array(z.string()), field: idSchema.nullable() })),
  key: idSchema.nullable(),
});
/** What a file holds, and which field each of its columns seems to be. */
export type TableLooked = z.output<typeof lookedSchema>;

const countsSchema = z.strictObject({
  new: z.number().int(),
  changed: z.number().int(),
  unchanged: z.number().int(),
  refused: z.number().int(),
});
/** How many rows come to what. */
export type TableCounts = z.output<typeof countsSchema>;

const plannedRowSchema = z.strictObject({
  line: z.number().int(),
  outcome: z.enum(['new', 'changed', 'unchanged', 'refused']),
  title: z.string(),
  set: fieldsSchema,
  before: fieldsSchema,
  faults: z.array(
    z.strictObject({ column: z.string().nullable(), code: z.string(), params: z.record(z.string(), z.unknown()) }),
  ),
});
/** What one row would come to: the values it gives, those that stand now, what stands against it. */
export type PlannedRow = z.output<typeof plannedRowSchema>;

const plannedSchema = z.strictObject({
  counts: countsSchema,
  /** What it comes to as one text: said again when it is done, so that it is what was looked at. */
  seal: z.string(),
  /** The first of each sort; the counts tell how many there are. */
  rows: z.array(plannedRowSchema),
  names: titlesSchema,
});
/** What a whole file would come to. */
export type TablePlanned = z.output<typeof plannedSchema>;

/** What the routes of files that go into and out of sources take and answer. */
export const tableRoutes = {
  'tables.look': { body: fileSchema, answer: lookedSchema },
  'tables.plan': {
    body: fileSchema.extend({ mapping: mappingSchema }),
    answer: plannedSchema,
    problems: ['badValues'],
  },
  'tables.take': {
    body: fileSchema.extend({ mapping: mappingSchema, seal: z.string().max(100) }),
    answer: z.strictObject({ batch: z.string(), counts: countsSchema }),
    problems: ['badValues', 'editedMeanwhile', 'gone'],
  },
  /** How far what one is taking has come; `null` where nothing of it is written yet, or all is. */
  'tables.progress': {
    query: z.object({ upload: z.string().min(1).max(120) }),
    answer: z.strictObject({
      progress: z.strictObject({ done: z.number().int(), total: z.number().int() }).nullable(),
    }),
  },
  /** What is asked of a source's items as a file: of the same shape as it can come in. */
  'tables.out': {
    query: listQuerySchema.omit({ offset: true }).extend({ as: z.enum(['csv', 'xlsx', 'json']) }),
    isRaw: true,
  },
} as const satisfies Record<string, RouteContract>;
