import { z } from 'zod';
import { type Content, FORMS, type Words } from '../../core/messages/index.ts';
import type { ChangeKind } from '../../core/values/index.ts';
import { kindSchema } from '../documents/index.ts';
import { namedSchema, urgencySchema } from './shared.ts';

const wordsSchema: z.ZodType<Words> = z.array(z.union([z.string(), z.strictObject({ strong: z.string() })]));

const shownFieldSchema = z.strictObject({ id: z.string(), label: z.string(), before: z.string(), after: z.string() });

const shownStepSchema = z.strictObject({
  change: z.string(),
  at: z.string(),
  when: z.string(),
  hour: z.string(),
  kind: kindSchema as z.ZodType<ChangeKind>,
  actor: z.string(),
  fields: z.array(shownFieldSchema),
});

/** What a message says of one item. */
export const entrySchema = z.strictObject({
  item: z.strictObject({
    id: z.string(),
    title: z.string(),
    source: z.string(),
    sourceName: z.string(),
    folder: z.array(z.string()),
  }),
  urgency: urgencySchema,
  asks: z.boolean().optional(),
  rules: z.array(namedSchema),
  headline: z.string(),
  kind: (kindSchema as z.ZodType<ChangeKind>).nullable(),
  notes: z.array(z.string()),
  fields: z.array(shownFieldSchema),
  steps: z.array(shownStepSchema),
  now: z.array(z.strictObject({ label: z.string(), value: z.string() })).optional(),
  isBack: z.boolean(),
  show: z.array(z.strictObject({ label: z.string(), value: z.string() })),
  doNow: z.array(z.string()),
  why: z.array(wordsSchema),
});

/** What sort of message it is; notices, trials, confirmations and what is passed on are Ojo's own. */
export const formSchema = z.enum([...FORMS, 'notice', 'trial', 'confirm', 'passed']);

const reportSchema = z.strictObject({
  rule: namedSchema,
  columns: z.array(z.string()),
  rows: z.array(
    z.strictObject({
      item: z.strictObject({ id: z.string(), title: z.string(), source: z.string() }),
      values: z.array(z.string()),
      mark: z.enum(['new', 'changed']).optional(),
    }),
  ),
  total: z.number().int(),
  gone: z.array(z.strictObject({ id: z.string(), title: z.string() })),
  doNow: z.string().optional(),
});

/** What a message says, before it takes the shape of a channel. */
export const contentSchema: z.ZodType<Content> = z.strictObject({
  form: formSchema,
  language: z.string().optional(),
  headline: z.string(),
  when: z.string(),
  lead: z.string(),
  entries: z.array(entrySchema),
  report: reportSchema.optional(),
  ownFailed: z.literal(true).optional(),
  own: z.strictObject({ subject: z.string().nullable(), body: z.string().nullable() }).optional(),
  sender: z
    .strictObject({ name: z.string().nullable(), address: z.string().optional(), replyTo: z.string().nullable() })
    .optional(),
  ask: z.string().optional(),
  thread: z.string().optional(),
  rule: namedSchema.optional(),
  isPlain: z.boolean().optional(),
});
