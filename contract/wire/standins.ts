import { z } from 'zod';
import { saySchema } from './inbox.ts';
import type { RouteContract } from './route.ts';
import { whenSchema } from './shared.ts';

const mailboxSchema = z.strictObject({ address: z.string(), mails: z.number().int(), lastAt: whenSchema });
export type Mailbox = z.output<typeof mailboxSchema>;
const mailRowSchema = z.strictObject({
  id: z.number().int(),
  sender: z.string(),
  subject: z.string(),
  receivedAt: whenSchema,
});
export type MailRow = z.output<typeof mailRowSchema>;
const mailSchema = mailRowSchema.extend({
  address: z.string(),
  html: z.string().nullable(),
  text: z.string(),
  source: z.string(),
});
export type Mail = z.output<typeof mailSchema>;
const phoneSchema = z.strictObject({ number: z.string(), texts: z.number().int(), lastAt: whenSchema });
export type Phone = z.output<typeof phoneSchema>;
const textRowSchema = z.strictObject({
  id: z.number().int(),
  body: z.string(),
  /** It was sent from that telephone. */
  isAnswer: z.boolean(),
  receivedAt: whenSchema,
});
export type TextRow = z.output<typeof textRowSchema>;

/** What the stand-ins received, to be looked at; only a demo has them. */
export const standInRoutes = {
  'standins.mailboxes': { answer: z.array(mailboxSchema) },
  'standins.mailbox': { answer: z.array(mailRowSchema) },
  'standins.mail': { answer: mailSchema },
  'standins.phones': { answer: z.array(phoneSchema) },
  'standins.phone': { answer: z.array(textRowSchema) },
  'standins.answer': { body: saySchema },
} as const satisfies Record<string, RouteContract>;

/** A text message that came back, as the gateway hands it over. */
export const incomingTextSchema = z.object({
  from: z.string().regex(/^\+?[0-9 ]{6,20}$/),
  text: z.string().max(2000),
  reference: z.string().max(120).optional(),
});
