import { z } from 'zod';
import type { RouteContract } from './route.ts';
import { whenSchema } from './shared.ts';

/** For so many days at most a token lets a program ask. */
const MOST_DAYS = 366;
/** A token as somebody asks for it: what it is for, what it may do, and for how long. */
export const tokenSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  scope: z.enum(['read', 'write']),
  days: z.number().int().min(1).max(MOST_DAYS),
});
/** A token as somebody asks for it. */
export type TokenAsked = z.output<typeof tokenSchema>;
const tokenRowSchema = tokenSchema.omit({ days: true }).extend({
  id: z.string(),
  madeAt: whenSchema,
  expiresAt: whenSchema,
  usedAt: whenSchema.nullable(),
});
/** A token of one's own, without what it is shown by. */
export type TokenRow = z.output<typeof tokenRowSchema>;

/** What the routes of personal tokens take and answer. */
export const tokenRoutes = {
  'tokens.list': { answer: z.array(tokenRowSchema) },
  /** The token is told here once. */
  'tokens.make': { body: tokenSchema, answer: z.strictObject({ id: z.string(), token: z.string() }), status: 201 },
  'tokens.end': {},
} as const satisfies Record<string, RouteContract>;
