import { z } from 'zod';
import { FIELD_TYPES } from '../../core/values/index.ts';
import { LIMITS } from '../limits.ts';
import type { RouteContract } from './route.ts';
import { idSchema } from './shared.ts';

const nameSchema = z.string().trim().min(1).max(200);
const optionSchema = z
  .string()
  .trim()
  .min(1)
  .max(200)
  .regex(/^[^;\n]*$/);
const fieldSchema = z.strictObject({
  /** `null` for one that is new. */
  id: idSchema.nullable(),
  name: nameSchema,
  type: z.enum(FIELD_TYPES),
  /** What can be chosen: each as it was made, `null` for one that is new, and as it is called. */
  options: z.array(z.strictObject({ id: optionSchema.nullable(), name: optionSchema })).max(200),
  to: idSchema.nullable(),
});
/** A source as a steward defines it. */
export const sourceDefinedSchema = z.strictObject({
  name: nameSchema,
  about: z.string().trim().max(400),
  kind: z.enum(['list', 'records']),
  fields: z.array(fieldSchema).min(1).max(LIMITS.sourceFields),
  /** The place of the field that names an item. */
  title: z.number().int().min(0),
});
/** A source as a steward defines it: its fields in their order, and which of them names an item. */
export type SourceDefined = z.output<typeof sourceDefinedSchema>;

const guessedSchema = z.strictObject({
  rows: z.number().int(),
  fields: z.array(fieldSchema),
  title: z.number().int(),
});
/** What the columns of a file seem to hold, as fields of a source to be. */
export type FieldsGuessed = z.output<typeof guessedSchema>;

/** What the routes of defining sources take and answer. */
export const definingRoutes = {
  'sources.define': {
    body: sourceDefinedSchema,
    answer: z.strictObject({ id: idSchema }),
    status: 201,
    problems: ['badValues'],
  },
  'sources.redefine': { body: sourceDefinedSchema, problems: ['badValues'] },
  /** Guesses fields of a file, handed in as it is. */
  'sources.guess': { query: z.object({ name: z.string().min(1).max(1000) }), answer: guessedSchema },
} as const satisfies Record<string, RouteContract>;
