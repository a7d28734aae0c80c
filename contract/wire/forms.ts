import { z } from 'zod';
import type { FieldType } from '../../core/values/index.ts';
import type { RouteContract } from './route.ts';
import { idSchema } from './shared.ts';

/** Whom and what the house knows is not shown to those without an account: no form asks for people and items. */
export const ASKABLE: readonly FieldType[] = [
  'text',
  'longText',
  'number',
  'money',
  'boolean',
  'date',
  'dateTime',
  'choice',
  'choices',
  'url',
  'email',
];

/** A form behind a link, as whoever looks after the source sets it up. */
export const formDefinedSchema = z.strictObject({
  title: z.string().trim().min(1).max(120),
  /** What stands above it, and what is said once it has been sent. */
  about: z.string().trim().max(1000),
  thanks: z.string().trim().max(1000),
  fields: z
    .array(z.strictObject({ field: idSchema, isNeeded: z.boolean() }))
    .min(1)
    .max(100),
  /** So many are taken on one day. */
  most: z.number().int().min(1).max(10_000),
  isOpen: z.boolean(),
});
/** A form behind a link as it is set up. */
export type FormDefined = z.output<typeof formDefinedSchema>;

const formRowSchema = formDefinedSchema.extend({ id: idSchema, link: z.string(), sent: z.number().int() });
/** A form behind a link, with its address and how many have sent it. */
export type FormRow = z.output<typeof formRowSchema>;

/** What the routes of forms behind links take and answer; they are for those who look after the source. */
export const formRoutes = {
  'forms.list': { answer: z.array(formRowSchema) },
  'forms.add': { body: formDefinedSchema, answer: formRowSchema, status: 201, problems: ['badValues'] },
  'forms.save': { body: formDefinedSchema, answer: formRowSchema, problems: ['badValues'] },
  'forms.drop': {},
} as const satisfies Record<string, RouteContract>;
