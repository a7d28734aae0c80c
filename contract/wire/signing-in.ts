import { z } from 'zod';
import { choiceSchema } from './accounts.ts';
import type { RouteContract } from './route.ts';
import { whenSchema } from './shared.ts';

const PASSWORD = z.string().min(1).max(200);
/** A code as somebody types it: of their telephone, or a spare one; with signs between as they like. */
const CODE = z.string().trim().min(1).max(40);

/** A name, which is an id or an address, with its password, and a code where a second factor is asked. */
export const signInSchema = z.strictObject({
  name: z.string().trim().min(1).max(254),
  password: PASSWORD,
  code: CODE.optional(),
});
/** What somebody signs in by. */
export type SignIn = z.output<typeof signInSchema>;

/** Of whom a second factor is asked. */
export const askedOfSchema = z.enum(['nobody', 'stewards', 'everybody']);

const sessionSchema = z.strictObject({
  id: z.string(),
  openedAt: whenSchema.nullable(),
  seenAt: whenSchema.nullable(),
  /** How the browser or the program calls itself. */
  agent: z.string(),
  origin: z.string().nullable(),
  isThis: z.boolean(),
});
/** A place where somebody is signed in. */
export type SessionRow = z.output<typeof sessionSchema>;

const pageSchema = z.strictObject({
  second: z.strictObject({
    /** Since when it is on; `null` where it is not. */
    since: whenSchema.nullable(),
    /** Spare codes that have not been used. */
    spare: z.number().int(),
    /** It is asked of them. */
    isAsked: z.boolean(),
    askedOf: askedOfSchema,
  }),
  sessions: z.array(sessionSchema),
});
/** How somebody signs in, and where they are signed in. */
export type SigningInPage = z.output<typeof pageSchema>;

/** One's own password in another's place. */
export const passwordSchema = choiceSchema.extend({ old: PASSWORD });
/** What shows that it is oneself: the password. */
export const provenSchema = z.strictObject({ old: PASSWORD });
/** A first code of what was begun. */
export const firstCodeSchema = z.strictObject({ code: CODE });

const begunSchema = z.strictObject({
  /** In Base32, to be typed where no picture can be taken. */
  secret: z.string(),
  address: z.string(),
  /** The address as a picture to take, in SVG. */
  picture: z.string(),
});
/** A second factor that has been begun. */
export type SecondBegun = z.output<typeof begunSchema>;

/** What the routes of one's own signing in take and answer. */
export const signingInRoutes = {
  'signingIn.read': { answer: pageSchema },
  'signingIn.password': { body: passwordSchema, problems: ['badValues'] },
  'signingIn.beginSecond': { body: provenSchema, answer: begunSchema, problems: ['badValues'] },
  'signingIn.putOnSecond': {
    body: firstCodeSchema,
    answer: z.strictObject({ codes: z.array(z.string()) }),
    problems: ['badValues'],
  },
  'signingIn.dropSecond': { body: provenSchema, problems: ['badValues'] },
  'signingIn.end': {},
  'signingIn.endOthers': {},
  'signingIn.ask': { body: z.strictObject({ of: askedOfSchema }) },
} as const satisfies Record<string, RouteContract>;
