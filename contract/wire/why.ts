import { z } from 'zod';
import { ruleSchema } from '../documents/index.ts';
import type { RouteContract } from './route.ts';
import { explanationSchema } from './rules.ts';
import {
  channelSchema,
  fateSchema,
  namedSchema,
  recipientIdSchema,
  whenSchema,
  withheldReasonSchema,
} from './shared.ts';
import { sampleSchema } from './trail.ts';

/** What a rule came to for one person, of one change. */
export const VERDICTS = [
  'told',
  'gathers',
  'withheld',
  'notReached',
  'undone',
  'skipped',
  'waits',
  'paused',
  'notCaught',
] as const;
const verdictSchema = z.strictObject({
  rule: namedSchema,
  verdict: z.enum(VERDICTS),
  reason: withheldReasonSchema.nullable(),
  messages: z.array(
    z.strictObject({
      id: z.string(),
      channel: channelSchema,
      at: whenSchema,
      fate: fateSchema,
      reply: z.string().nullable(),
      readAt: whenSchema.nullable(),
    }),
  ),
  /** Until when it gathers, or is held. */
  until: whenSchema.nullable(),
  /** The rule as it was then, and how it judged the change. */
  document: ruleSchema,
  explanation: explanationSchema.nullable(),
});
export type Verdict = z.output<typeof verdictSchema>;

const whyPageSchema = z.strictObject({
  sample: sampleSchema,
  person: recipientIdSchema,
  /** Rules that caught the change, or would tell this person of it if they did. */
  verdicts: z.array(verdictSchema),
  /** Further rules that look there, caught nothing and tell others. */
  others: z.number().int(),
});
/** Why somebody heard of a change, or did not. */
export type WhyPage = z.output<typeof whyPageSchema>;

/** What the route takes and answers that says why somebody heard of a change, or did not. */
export const whyRoutes = {
  'changes.why': { query: z.object({ person: recipientIdSchema.optional() }), answer: whyPageSchema },
} as const satisfies Record<string, RouteContract>;
