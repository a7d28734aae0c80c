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

/** What each stand-in may do in place of taking what it is handed. */
export const MOODS = {
  mail: ['takes', 'slow', 'busy', 'refuses', 'comesBack', 'drops', 'hangs'],
  text: ['takes', 'late', 'busy', 'refuses', 'lost', 'disordered', 'hangs'],
  hook: ['takes', 'slow', 'busy', 'refuses', 'redirects', 'drops', 'hangs'],
} as const;
/** The stand-ins there are. */
export type StandInName = keyof typeof MOODS;
const seconds = z.number().int().min(0).max(120);
const moodOf = <const D extends readonly [string, ...string[]]>(does: D) =>
  z.strictObject({
    does: z.enum(does),
    /** How slow or late, in seconds. */
    seconds,
    /** Only for addresses, numbers or paths that have this in them; for all where it is empty. */
    only: z.string().trim().max(100),
  });
/** How the stand-ins behave. */
export const moodsSchema = z.strictObject({
  mail: moodOf(MOODS.mail),
  text: moodOf(MOODS.text),
  hook: moodOf(MOODS.hook),
});
export type Moods = z.output<typeof moodsSchema>;
const hookRowSchema = z.strictObject({
  id: z.number().int(),
  path: z.string(),
  body: z.string(),
  receivedAt: whenSchema,
});
export type HookRow = z.output<typeof hookRowSchema>;

/** What the stand-ins received, to be looked at; only a demo has them. */
export const standInRoutes = {
  'standins.mailboxes': { answer: z.array(mailboxSchema) },
  'standins.mailbox': { answer: z.array(mailRowSchema) },
  'standins.mail': { answer: mailSchema },
  'standins.phones': { answer: z.array(phoneSchema) },
  'standins.phone': { answer: z.array(textRowSchema) },
  'standins.answer': { body: saySchema },
  'standins.hooks': { answer: z.array(hookRowSchema) },
  'standins.moods': { answer: moodsSchema },
  'standins.setMoods': { body: moodsSchema },
} as const satisfies Record<string, RouteContract>;

/** A text message that came back, as the gateway hands it over. */
export const incomingTextSchema = z.object({
  from: z.string().regex(/^\+?[0-9 ]{6,20}$/),
  text: z.string().max(2000),
  reference: z.string().max(120).optional(),
});

/** What became of a text that a gateway had taken, as it tells it: by the reference that it was handed over with. */
export const receiptSchema = z.object({
  reference: z.string().regex(/^[0-9a-z]{1,26}$/),
  status: z.enum(['delivered', 'failed', 'underWay']),
  reason: z.string().max(400).optional(),
});
