import { z } from 'zod';
import type { RouteContract } from './route.ts';
import {
  channelSchema,
  fateSchema,
  idSchema,
  namedSchema,
  recipientIdSchema,
  segmentsSchema,
  whenSchema,
  withheldReasonSchema,
} from './shared.ts';

const outboxRowSchema = z.strictObject({
  id: z.string(),
  at: whenSchema,
  person: recipientIdSchema,
  channel: channelSchema.nullable(),
  address: z.string().nullable(),
  form: z.string().nullable(),
  subject: z.string(),
  fate: z.union([fateSchema, z.literal('gathering')]),
  fateAt: whenSchema.nullable(),
  reply: z.string().nullable(),
  tries: z.number().int(),
  retryAt: whenSchema.nullable(),
  readAt: whenSchema.nullable(),
  rules: z.array(namedSchema),
  items: z.array(idSchema),
  reason: withheldReasonSchema.nullable(),
  /** A change that it tells of, or that was withheld: why somebody heard of it can be asked. */
  change: z.strictObject({ source: idSchema, id: z.string() }).nullable(),
});
export type OutboxRow = z.output<typeof outboxRowSchema>;

const outboxMessageSchema = z.strictObject({
  row: outboxRowSchema,
  /** Each try, and what was reported later, in order. */
  attempts: z.array(
    z.strictObject({
      at: whenSchema,
      outcome: z.enum(['taken', 'putOff', 'refused', 'arrived', 'delayed', 'cameBack']),
      reply: z.string().nullable(),
    }),
  ),
  /** As it looked; `null` where the asker may not read all that it tells of. Links that act for its reader are left out. */
  looked: z
    .strictObject({
      html: z.string().nullable(),
      text: z.string(),
      segments: segmentsSchema.nullable(),
      why: z.array(z.string()),
    })
    .nullable(),
});
/** One message of the Outbox, with all that became of it. */
export type OutboxMessage = z.output<typeof outboxMessageSchema>;

const asideRowSchema = z.strictObject({
  id: z.number().int(),
  kind: z.enum(['change', 'act', 'timer']),
  at: whenSchema,
  since: whenSchema,
  /** Of a change: its item, if the reader may read it. */
  item: z.strictObject({ id: idSchema, title: z.string() }).nullable(),
});
/** Something that could not be decided, and stands aside until somebody tries it again. */
export type AsideRow = z.output<typeof asideRowSchema>;

const outboxQuerySchema = z.object({
  fate: z.enum(['delivered', 'open', 'withheld', 'failed']).optional(),
  channel: channelSchema.optional(),
  text: z.string().max(200).default(''),
});

/** What the routes of the Outbox and of what was set aside take and answer. */
export const outboxRoutes = {
  'outbox.list': { query: outboxQuerySchema, answer: z.array(outboxRowSchema) },
  'outbox.read': { answer: outboxMessageSchema },
  'outbox.sendAgain': {},
  'aside.list': { answer: z.array(asideRowSchema) },
  'aside.tryAgain': {},
} as const satisfies Record<string, RouteContract>;
