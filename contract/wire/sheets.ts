import { z } from 'zod';
import { FIELD_TYPES } from '../../core/values/index.ts';
import type { RouteContract } from './route.ts';
import { idSchema } from './shared.ts';

const sheetFaultSchema = z.strictObject({
  line: z.number().int().nullable(),
  column: z.string().nullable(),
  code: z.string(),
  params: z.record(z.string(), z.unknown()),
});
const watchedSchema = z.strictObject({
  /** The source whose items are the rows. */
  source: idSchema,
  key: z.string(),
  sheet: z.string().nullable(),
  /** The version of the document that the rows are of, and what of it could not be taken. */
  number: z.number().int(),
  faults: z.array(sheetFaultSchema),
  isWatching: z.boolean(),
  /** Which column is which field, by its name. */
  columns: z.record(z.string(), idSchema),
});
const lookedSchema = z.strictObject({
  /** `null` where its newest version is no table. */
  table: z
    .strictObject({
      rows: z.number().int(),
      sheets: z.array(z.string()),
      columns: z.array(z.strictObject({ name: z.string(), type: z.enum(FIELD_TYPES), tellsApart: z.boolean() })),
    })
    .nullable(),
  watched: watchedSchema.nullable(),
});
/** What a table document holds, and whether its rows are watched. */
export type SheetLooked = z.output<typeof lookedSchema>;

/** What the routes of table documents take and answer. */
export const sheetRoutes = {
  'sheets.look': { query: z.object({ sheet: z.string().max(200).optional() }), answer: lookedSchema },
  'sheets.watch': {
    body: z.strictObject({ key: z.string().min(1).max(1000), sheet: z.string().max(200).nullable().default(null) }),
    answer: watchedSchema,
    problems: ['badValues', 'gone'],
  },
  'sheets.leave': {},
} as const satisfies Record<string, RouteContract>;
