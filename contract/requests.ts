import { z } from 'zod';
import { LESS_WAYS } from '../core/people/index.ts';
import {
  dateSchema,
  idSchema,
  kindSchema,
  paceSchema,
  planSchema,
  stateTestSchema,
  valueSchema,
} from './documents/index.ts';

/** What a request may carry. */
export const signInSchema = z.strictObject({
  name: z.string().trim().min(1).max(254),
  password: z.string().min(1).max(200),
});
export const fieldsSchema = z.record(idSchema, valueSchema);
export const editSchema = z.strictObject({ from: z.number().int().min(1), set: fieldsSchema });
export const createSchema = z.strictObject({ set: fieldsSchema, folder: idSchema.nullable().default(null) });
export const fromSchema = z.strictObject({ from: z.number().int().min(1) });
export const documentSchema = z.strictObject({ document: z.record(z.string(), z.unknown()) });
export const draftSchema = z.strictObject({
  revision: z.number().int().min(0),
  document: z.record(z.string(), z.unknown()),
});
const daysSchema = z.union([z.literal(7), z.literal(30), z.literal(90)]);
export const costSchema = z.strictObject({ document: z.record(z.string(), z.unknown()), days: daysSchema.default(30) });
/** A rule tried on a past change, or on an item; the message shown is that of `person`. */
export const trySchema = z.strictObject({
  document: z.record(z.string(), z.unknown()),
  change: idSchema.optional(),
  item: idSchema.optional(),
  person: z.string().max(140).optional(),
});
export const putLiveSchema = z.strictObject({
  revision: z.number().int().min(0),
  why: z.string().trim().max(500).nullable().default(null),
  isSure: z.boolean().default(false),
});
const idsSchema = z.array(idSchema).min(1).max(200);
const catchUpSchema = z.enum(['each', 'summary', 'skip']);
export const actsSchema = z.discriminatedUnion('act', [
  z.strictObject({ act: z.literal('pause'), ids: idsSchema }),
  z.strictObject({ act: z.literal('resume'), ids: idsSchema, catchUp: catchUpSchema }),
  z.strictObject({ act: z.literal('end'), ids: idsSchema }),
  z.strictObject({ act: z.literal('handOver'), ids: idsSchema, to: idSchema }),
  z.strictObject({ act: z.literal('pace'), ids: idsSchema, pace: paceSchema }),
  z.strictObject({ act: z.literal('delete'), ids: idsSchema }),
  z.strictObject({ act: z.literal('undelete'), ids: idsSchema }),
]);
export type RuleAct = z.input<typeof actsSchema>;
export const readSchema = z.union([
  z.strictObject({ ids: z.array(z.string().length(26)).min(1).max(500) }),
  z.strictObject({ all: z.literal(true) }),
]);
export const messagesSchema = z.strictObject({ ids: z.array(z.string().length(26)).min(1).max(500) });
export const clockSchema = z.strictObject({ now: z.iso.datetime({ offset: true }) });

/** A state test as it stands in an address: JSON of the documents' own shape. */
const whereSchema = z
  .string()
  .max(8000)
  .transform((text, context) => {
    try {
      return stateTestSchema.parse(JSON.parse(text));
    } catch {
      context.addIssue({
        code: 'custom',
        message: 'a state test as JSON, such as {"field":"status","op":"is","value":"Agreed"}',
      });
      return z.NEVER;
    }
  });
export const listQuerySchema = z.object({
  text: z.string().max(200).default(''),
  folder: idSchema.optional(),
  offset: z.coerce.number().int().min(0).default(0),
  where: whereSchema.optional(),
  sort: idSchema.optional(),
  down: z.enum(['1']).optional(),
});
export const todayQuerySchema = z.object({ since: z.iso.datetime({ offset: true }) });
export const trailQuerySchema = z.object({
  source: idSchema.optional(),
  item: idSchema.optional(),
  person: z.string().max(140).optional(),
  kind: kindSchema.optional(),
  field: idSchema.optional(),
  batch: idSchema.optional(),
  from: dateSchema.optional(),
  until: dateSchema.optional(),
  before: z.string().max(60).optional(),
});
/** What a named view of a source holds: what was asked of its items. */
export const viewSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  asked: z.strictObject({
    text: z.string().max(200).optional(),
    where: z.string().max(8000).optional(),
    sort: idSchema.optional(),
    down: z.string().max(1).optional(),
  }),
});
export const wordingSchema = z
  .strictObject({
    id: z.string().optional(),
    name: z.string().trim().min(1).max(120),
    subject: z.string().max(500).nullable(),
    body: z.string().max(20_000).nullable(),
  })
  .transform(({ name, subject, body }) => ({ name, subject, body }));
const muteSchema = z.strictObject({
  rule: idSchema.optional(),
  item: idSchema.optional(),
  until: z.string().max(40).optional(),
});
/** How somebody wants to be reached, whole. */
export const hearingSchema = z.strictObject({ plan: planSchema.nullable(), mutes: z.array(muteSchema).max(500) });
export const lessQuerySchema = z.object({ rule: idSchema, item: idSchema.optional() });
/** One's own ways, and to have a rule that one may edit tell only when its state comes about. */
export const lessSchema = z.strictObject({
  way: z.enum([...LESS_WAYS, 'becomes']),
  rule: idSchema,
  item: idSchema.nullable().default(null),
  until: dateSchema.nullable().default(null),
});
export const lessBackSchema = z.strictObject({
  plan: planSchema.nullable(),
  mutes: z.array(muteSchema).max(500),
  rule: z.record(z.string(), z.unknown()).nullable(),
});
/** A rule for one person about something to keep an eye on; without `person`, for whoever asks. */
export const eyeSchema = z.strictObject({ document: z.record(z.string(), z.unknown()), person: idSchema.optional() });
export const inboxQuerySchema = z.object({
  unread: z.enum(['1']).optional(),
  waits: z.enum(['1']).optional(),
  text: z.string().max(200).optional(),
  rule: idSchema.optional(),
  source: idSchema.optional(),
  urgency: z.enum(['routine', 'important', 'critical']).optional(),
  by: z.string().max(140).optional(),
  before: z.string().max(80).optional(),
});
export const outboxQuerySchema = z.object({
  fate: z.enum(['delivered', 'open', 'withheld', 'failed']).optional(),
  channel: z.enum(['inApp', 'email', 'text', 'webhook']).optional(),
  text: z.string().max(200).default(''),
});
/** A text message that came back, as the gateway hands it over. */
export const incomingTextSchema = z.object({
  from: z.string().regex(/^\+?[0-9 ]{6,20}$/),
  text: z.string().max(2000),
  reference: z.string().max(120).optional(),
});
export const channelSchema = z.enum(['email', 'text']);
/** An address of one's own, to be confirmed; a number as people write it, with its country's code. */
export const addressSchema = z.union([
  z.strictObject({ channel: z.literal('email'), address: z.email().max(254) }),
  z.strictObject({
    channel: z.literal('text'),
    address: z
      .string()
      .trim()
      .regex(/^\+[0-9 ]{7,20}$/, 'a number with its country, such as +34 600 555 014'),
  }),
]);
export const codeSchema = z.strictObject({
  code: z
    .string()
    .trim()
    .regex(/^[0-9]{6}$/, 'the six figures of the message'),
});
/** Passing an item on, as a message told of it or as it stands. */
export const passSchema = z.strictObject({
  item: idSchema,
  message: z.string().length(26).optional(),
  people: z.array(idSchema).max(200).default([]),
  groups: z.array(idSchema).max(50).default([]),
  word: z.string().trim().max(2000).default(''),
});
export const saySchema = z.strictObject({ words: z.string().trim().min(1).max(2000) });
