import { z } from 'zod';
import { dateSchema } from '../documents/index.ts';
import type { RouteContract } from './route.ts';
import { cameBackSchema, fateSchema, whenSchema } from './shared.ts';

/** What is kept for a time that the house chooses. */
export const KEPT = ['messages', 'trail', 'engine', 'sessions'] as const;
const forDays = (least: number, most: number) => z.number().int().min(least).max(most);
/** Messages go back at least a quarter, the trail a year: pages and counts look so far back. */
export const keptSchema = z.strictObject({
  messages: forDays(90, 36_500).nullable(),
  trail: forDays(366, 36_500).nullable(),
  engine: forDays(30, 36_500).nullable(),
  sessions: forDays(1, 90),
});
/** For how many days each sort is kept. */
export type KeptFor = z.output<typeof keptSchema>;

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
  /** For how many days each sort is kept (`null`: for ever), and how much was taken away on the last days. */
  keeping: z.strictObject({
    days: keptSchema,
    cleaned: z.array(z.strictObject({ day: dateSchema, what: z.enum(KEPT), count: z.number() })),
  }),
  /** Addresses that mail came back from for good, and whose they are. */
  cameBack: z.array(cameBackSchema.extend({ whose: z.string().nullable() })),
  /** Numbers that answered STOP, and whose they are. */
  silenced: z.array(z.strictObject({ number: z.string(), whose: z.string() })),
  /** Machines that fail, and rules in trouble. */
  failing: z.strictObject({ machines: z.array(z.string()), troubles: z.number().int() }),
});
/** How Ojo runs: what waits, what fails, what grows. */
export type RunningPage = z.output<typeof runningSchema>;

/** What the route about how Ojo runs answers; it is for stewards. */
export const runningRoutes = {
  'running.read': { answer: runningSchema },
  'running.keep': { body: keptSchema, problems: ['editedMeanwhile'] },
  /** Mail goes to an address again. */
  'running.resumeAddress': { body: z.strictObject({ address: z.string().min(1).max(254) }) },
} as const satisfies Record<string, RouteContract>;
