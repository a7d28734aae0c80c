import { z } from 'zod';
import { LESS_WAYS } from '../../core/people/index.ts';
import { dateSchema, muteSchema, planSchema, ruleSchema } from '../documents/index.ts';
import { formSchema } from './content.ts';
import { emailSchema } from '../addresses.ts';
import type { RouteContract } from './route.ts';
import { documentSchema } from './rules.ts';
import {
  cameBackSchema,
  channelSchema,
  idSchema,
  namedSchema,
  reasonSchema,
  roleSchema,
  titlesSchema,
  urgencySchema,
  whenSchema,
} from './shared.ts';

const personRowSchema = z.strictObject({
  id: idSchema,
  name: z.string(),
  title: z.string(),
  role: roleSchema,
  isActive: z.boolean(),
  manager: idSchema.nullable(),
  groups: z.array(idSchema),
  /** They have Ojo open just now, at whatever server. */
  isHere: z.boolean(),
  /** Messages in Ojo in 30 days, and those that were read. */
  told: z.number().int(),
  read: z.number().int(),
});
export type PersonRow = z.output<typeof personRowSchema>;

const hearsPageSchema = z.strictObject({
  person: idSchema,
  days: z.number().int(),
  hears: z.array(
    z.strictObject({
      rule: ruleSchema,
      isPaused: z.boolean(),
      reasons: z.array(reasonSchema),
      told: z.number().int(),
      read: z.number().int(),
      mayEdit: z.boolean(),
    }),
  ),
});
/** Everything somebody hears: each live rule that tells them, why, and how much of it they read. */
export type HearsPage = z.output<typeof hearsPageSchema>;

/** How somebody wants to be reached, whole. */
export const preferencesSchema = z.strictObject({
  plan: planSchema.nullable(),
  mutes: z.array(muteSchema).max(500),
});
export type DeliveryPreferences = z.output<typeof preferencesSchema>;

const planPageSchema = z.strictObject({
  /** What is left out of a plan has the standard value; `null` is the standard plan. */
  plan: planSchema.nullable(),
  mutes: z.array(muteSchema),
  email: z.string().nullable(),
  /** Where their email goes instead, once confirmed. */
  mailTo: z.string().nullable(),
  phone: z.string().nullable(),
  /** What they start with and have not chosen otherwise; `null` for Ojo's own standard. */
  start: planSchema.nullable(),
  /** In whose place they hear, now or later, and on which days. */
  standsInFor: z.array(z.strictObject({ person: idSchema, from: z.string(), until: z.string() })),
  /** Further addresses that they have confirmed. */
  further: z.array(z.string()),
  /** Their number, which has answered STOP. */
  silenced: z.string().nullable(),
  /** Addresses of theirs that mail came back from for good: nothing goes there. */
  cameBack: z.array(cameBackSchema),
  /** Addresses that wait to be confirmed. */
  asks: z.array(
    z.strictObject({
      channel: z.enum(['email', 'text']),
      address: z.string(),
      askedAt: whenSchema,
      isFurther: z.boolean(),
    }),
  ),
  titles: titlesSchema,
});
export type PlanPage = z.output<typeof planPageSchema>;

const replayedMessageSchema = z.strictObject({
  at: whenSchema,
  channel: channelSchema,
  form: formSchema,
  urgency: urgencySchema,
  subject: z.string(),
  rules: z.array(idSchema),
  arose: z.array(whenSchema),
});
/** A message as it would have reached somebody, and when what is in it happened. */
export type ReplayedMessage = z.output<typeof replayedMessageSchema>;
const weekPageSchema = z.strictObject({
  from: whenSchema,
  /** Under the plan that is kept, and under the one that was asked about. */
  present: z.array(replayedMessageSchema),
  planned: z.array(replayedMessageSchema),
  /** Where somebody hears in one's place on days ahead: of how much of it they may read nothing, and whether they are away themselves then. */
  inPlace: z
    .strictObject({ person: idSchema, told: z.number().int(), unheard: z.number().int(), isAway: z.boolean() })
    .nullable(),
});
export type WeekPage = z.output<typeof weekPageSchema>;

/** One's own ways, and to have a rule that one may edit tell only when its state comes about. */
const lessWaySchema = z.enum([...LESS_WAYS, 'becomes']);
export type AnyLessWay = z.output<typeof lessWaySchema>;
const lessPageSchema = z.strictObject({
  rule: namedSchema.nullable(),
  item: z.strictObject({ id: idSchema, title: z.string() }).nullable(),
  days: z.number().int(),
  before: z.number().int(),
  ways: z.array(z.strictObject({ way: lessWaySchema, after: z.number().int() })),
});
/** The ways to hear less of a rule, with what each would have left of the last days. */
export type LessPage = z.output<typeof lessPageSchema>;
const takeLessSchema = z.strictObject({
  way: lessWaySchema,
  rule: idSchema,
  item: idSchema.nullable().default(null),
  until: dateSchema.nullable().default(null),
});
const lessTakenSchema = preferencesSchema.extend({ rule: ruleSchema.nullable() });
/** How it was before a way to hear less was taken; with the rule, where it was the rule that was changed. */
export type LessTaken = z.output<typeof lessTakenSchema>;

const ownChannelSchema = z.enum(['email', 'text']);
/** An address of one's own, to be confirmed; a number as people write it, with its country's code. */
export const addressSchema = z.discriminatedUnion('channel', [
  z.strictObject({
    channel: z.literal('email'),
    address: emailSchema,
    /** Beside the usual one, for single rules and sources, not in its place. */
    isFurther: z.boolean().optional(),
  }),
  z.strictObject({
    channel: z.literal('text'),
    address: z
      .string()
      .trim()
      .max(40)
      .regex(/^(?:\+|00)[0-9\s()./-]{6,}$/, 'noTelephone'),
  }),
]);
/** The code that came by text, six figures. */
export const codeSchema = z.strictObject({
  code: z
    .string()
    .trim()
    .regex(/^[0-9]{6}$/, 'noCode'),
});
/** Somebody outside, with the address that is asked whether it may be written to. */
export const contactSchema = z.strictObject({ name: z.string().trim().min(1).max(200), email: emailSchema });
const contactRowSchema = z.strictObject({
  id: z.string(),
  name: z.string(),
  email: z.string().nullable(),
  isConfirmed: z.boolean(),
  left: z.union([z.literal('all'), z.array(idSchema)]),
  askedAt: whenSchema.nullable(),
  times: z.number().int(),
  withheld: z.number().int(),
  /** Mail to it came back for good. */
  cameBack: cameBackSchema.nullable(),
});
/** Somebody outside: whether they may be written to, what they left, how often they were asked, and what was withheld meanwhile. */
export type ContactRow = z.output<typeof contactRowSchema>;

export { ownChannelSchema };

/** What the routes of people, plans, addresses and contacts take and answer. */
export const peopleRoutes = {
  'people.list': { answer: z.array(personRowSchema) },
  'people.hears': { answer: hearsPageSchema },
  'plan.read': { answer: planPageSchema },
  'plan.save': { body: preferencesSchema, answer: planPageSchema },
  'plan.week': { body: preferencesSchema, answer: weekPageSchema, problems: ['tooMuchToCount', 'countDropped'] },
  'less.read': {
    query: z.object({ rule: idSchema, item: idSchema.optional() }),
    answer: lessPageSchema,
    problems: ['tooMuchToCount', 'countDropped'],
  },
  'less.take': { body: takeLessSchema, answer: lessTakenSchema, problems: ['badRule'] },
  'less.back': { body: preferencesSchema.extend({ rule: documentSchema.nullable() }), problems: ['badRule'] },
  'addresses.ask': { body: addressSchema },
  'addresses.confirm': { body: codeSchema },
  /** Takes back what was asked and waits for a yes; the address that is confirmed stays. */
  'addresses.forget': {},
  'addresses.remove': {},
  'addresses.removeFurther': {},
  'addresses.trial': { answer: z.strictObject({ address: z.string() }) },
  'contacts.list': { answer: z.array(contactRowSchema) },
  'contacts.add': {
    body: contactSchema,
    answer: z.strictObject({ id: z.string() }),
    status: 201,
    problems: ['badValues'],
  },
  'contacts.rename': { body: contactSchema.pick({ name: true }) },
  'contacts.drop': {},
  'contacts.ask': { answer: z.strictObject({ askedAt: whenSchema }) },
} as const satisfies Record<string, RouteContract>;
