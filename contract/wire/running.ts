import { z } from 'zod';
import type { RouteContract } from './route.ts';
import { cameBackSchema, fateSchema, whenSchema } from './shared.ts';

const runningSchema = z.strictObject({
  at: whenSchema,
  waiting: z.array(
    z.strictObject({
      what: z.enum(['changes', 'acts', 'timers', 'email', 'text', 'webhook', 'aside']),
      count: z.number().int(),
      oldest: whenSchema.nullable(),
    }),
  ),
  /** What became of outgoing messages in a day. */
  fates: z.array(
    z.strictObject({ channel: z.enum(['email', 'text', 'webhook']), fate: fateSchema, count: z.number().int() }),
  ),
  /** The largest tables, in bytes with their indexes. */
  tables: z.array(z.strictObject({ name: z.string(), rows: z.number(), bytes: z.number() })),
  /** Addresses that mail came back from for good, and whose they are. */
  cameBack: z.array(cameBackSchema.extend({ whose: z.string().nullable() })),
  /** Machines that fail, and rules in trouble. */
  failing: z.strictObject({ machines: z.array(z.string()), troubles: z.number().int() }),
});
/** How Ojo runs: what waits, what fails, what grows. */
export type RunningPage = z.output<typeof runningSchema>;

/** What the route about how Ojo runs answers; it is for stewards. */
export const runningRoutes = {
  'running.read': { answer: runningSchema },
  /** Mail goes to an address again. */
  'running.resumeAddress': { body: z.strictObject({ address: z.string().min(1).max(254) }) },
} as const satisfies Record<string, RouteContract>;
