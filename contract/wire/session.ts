import { z } from 'zod';
import { LANGUAGES } from '../../core/locales/index.ts';
import type { RouteContract } from './route.ts';
import { signInSchema } from './signing-in.ts';
import { idSchema, roleSchema, whenSchema } from './shared.ts';

/** Whoever is signed in: who they are, how they read, and the server's instant. */
export const meSchema = z.strictObject({
  id: idSchema,
  name: z.string(),
  title: z.string(),
  role: roleSchema,
  zone: z.string(),
  locale: z.string(),
  unread: z.number().int(),
  isDemo: z.boolean(),
  /** They have to put on a second factor before anything else. */
  owesSecond: z.boolean(),
  /** Of the server's clock, which every shown time goes by. */
  now: whenSchema,
});
/** Who is signed in. */
export type Me = z.output<typeof meSchema>;

const demoPersonSchema = z.strictObject({ id: idSchema, name: z.string(), title: z.string(), role: roleSchema });
export type DemoPerson = z.output<typeof demoPersonSchema>;
const demoSchema = z.strictObject({ password: z.string(), people: z.array(demoPersonSchema) });
/** The people whom anybody may be in a demo, and the password that they share. */
export type Demo = z.output<typeof demoSchema>;

/** The instant to which a clock of tests is set. */
export const clockSchema = z.strictObject({ now: z.iso.datetime({ offset: true }) });

/** What the routes of signing in and of the stream take and answer. */
export const sessionRoutes = {
  'session.open': { body: signInSchema, problems: ['badSignIn', 'codeNeeded', 'badCode'], isOpen: true },
  'session.close': { isOpen: true },
  'session.me': { answer: meSchema },
  'session.speak': { body: z.strictObject({ language: z.enum(LANGUAGES) }) },
  'session.demo': { answer: demoSchema, isOpen: true },
  /** What there is to sign in by beside a password: the name of the house's own sign-in. */
  'session.ways': { answer: z.strictObject({ house: z.string().nullable() }), isOpen: true },
  'session.events': { isRaw: true },
  'test.clock': { body: clockSchema, answer: z.strictObject({ now: whenSchema }), isOpen: true },
} as const satisfies Record<string, RouteContract>;
