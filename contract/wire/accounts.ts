import { z } from 'zod';
import { isZone } from '../../core/time/index.ts';
import { planSchema } from '../documents/index.ts';
import { emailSchema } from '../addresses.ts';
import type { RouteContract } from './route.ts';
import { idSchema, namedSchema, roleSchema } from './shared.ts';

const nameSchema = z.string().trim().min(1).max(200);
const idsSchema = z.array(idSchema).max(500);

const isLocale = (text: string): boolean => {
  try {
    return Intl.getCanonicalLocales(text).length === 1;
  } catch {
    return false;
  }
};

/** What a check of one's own says is wrong, by its code. */
const fault = (code: string) => ({ params: { code, params: {} } });

/** Somebody's account as a steward sets it up. */
export const accountSchema = z.strictObject({
  name: nameSchema,
  title: z.string().trim().max(200),
  /** `null` for somebody whom email does not reach; they sign in by their id. */
  email: emailSchema.nullable(),
  zone: z.string().refine(isZone, fault('noZone')),
  locale: z.string().max(20).refine(isLocale, fault('noLocale')),
  manager: idSchema.nullable(),
  role: roleSchema,
  isActive: z.boolean(),
  /** Sources that they look after, as a coordinator. */
  looksAfter: idsSchema,
  /** Groups to which they belong by themselves. */
  groups: idsSchema,
});
/** Somebody's account: how they are called and reached, what they may do, whom they belong to. */
export type Account = z.output<typeof accountSchema>;

const accountPageSchema = z.strictObject({
  id: idSchema,
  account: accountSchema,
  /** Says whether it is still as it was read. */
  seal: z.string(),
  /** They sign in by a second factor. */
  hasSecond: z.boolean(),
  /** Live rules that are theirs. */
  owns: z.number().int(),
});
/** An account to be edited. */
export type AccountPage = z.output<typeof accountPageSchema>;

const consequencesSchema = z.strictObject({
  /** Who would read less in which sources and folders, or nothing. */
  shutOut: z.array(z.strictObject({ person: idSchema, places: z.array(z.string()) })),
  /** Live rules that would tell nobody any more. */
  silent: z.array(namedSchema),
});
/** What a change of people and groups comes to. */
export type Consequences = z.output<typeof consequencesSchema>;

/** A group: what it is called, who belongs to it, and which groups do. */
export const groupSchema = z.strictObject({ name: nameSchema, members: idsSchema, groups: idsSchema });
/** A group as it is set up. */
export type GroupDefined = z.output<typeof groupSchema>;
const groupRowSchema = groupSchema.extend({
  id: idSchema,
  seal: z.string(),
  /** Everybody in it, by themselves or in a group of it. */
  everybody: idsSchema.max(100_000),
  /** Live rules that name it, and sources and folders whose rights do. */
  usedBy: z.array(z.string()),
});
/** A group with what it comes to. */
export type GroupRow = z.output<typeof groupRowSchema>;

const startSchema = z.strictObject({
  kind: z.enum(['everybody', 'role', 'group']),
  named: z.string().max(120),
  plan: planSchema,
});
/** The plans that people start with, in the order in which they are looked through. */
export const startsSchema = z.array(startSchema).max(50);
const startsPageSchema = z.strictObject({
  starts: startsSchema,
  seal: z.string(),
  /** How many go by each: those whose first it is. */
  goBy: z.array(z.number().int()),
});
/** The plans that people start with, and how many go by each. */
export type StartsPage = z.output<typeof startsPageSchema>;

/** A password as somebody chooses it. */
export const choiceSchema = z.strictObject({ password: z.string().min(12).max(200) });

const SEAL = z.string().max(100);
const linkSchema = z.strictObject({ id: idSchema, link: z.string() });

/** What the routes of accounts, groups and starting plans take and answer; all but one's own welcome are for stewards. */
export const accountRoutes = {
  'accounts.add': { body: accountSchema, answer: linkSchema, status: 201, problems: ['badValues'] },
  'accounts.read': { answer: accountPageSchema },
  'accounts.preview': { body: accountSchema, answer: consequencesSchema, problems: ['badValues'] },
  'accounts.save': {
    body: z.strictObject({ account: accountSchema, seal: SEAL }),
    problems: ['badValues', 'editedMeanwhile'],
  },
  /** A page on which somebody chooses their password, once. */
  'accounts.welcome': { answer: linkSchema },
  /** For somebody who has lost their telephone and their spare codes. */
  'accounts.dropSecond': {},
  'welcome.read': { answer: z.strictObject({ name: z.string(), signsInAs: z.string() }), isOpen: true },
  'welcome.choose': { body: choiceSchema, isOpen: true, problems: ['badValues'] },
  'groups.list': { answer: z.array(groupRowSchema) },
  'groups.add': { body: groupSchema, answer: z.strictObject({ id: idSchema }), status: 201, problems: ['badValues'] },
  'groups.preview': { body: groupSchema, answer: consequencesSchema, problems: ['badValues'] },
  'groups.save': {
    body: z.strictObject({ group: groupSchema, seal: SEAL }),
    problems: ['badValues', 'editedMeanwhile'],
  },
  'groups.drop': {},
  'starts.read': { answer: startsPageSchema },
  'starts.save': {
    body: z.strictObject({ starts: startsSchema, seal: SEAL }),
    problems: ['badValues', 'editedMeanwhile'],
  },
} as const satisfies Record<string, RouteContract>;
