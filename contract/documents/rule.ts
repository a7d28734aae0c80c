import { z } from 'zod';
import type { AccessEntry, Channel, Pace, Plan, Selector } from '../../core/people/index.ts';
import { type Condition, OPERATORS, type Rule, type StateTest } from '../../core/rules/index.ts';
import { isCivilDate, isCivilTime, isDuration, WEEKDAYS } from '../../core/time/index.ts';
import { CHANGE_KINDS, type ChangeKind, type Value } from '../../core/values/index.ts';

export const idSchema = z.string().min(1).max(120);
const dateSchema = z.string().refine(isCivilDate, 'a day as YYYY-MM-DD');
const timeSchema = z.string().refine(isCivilTime, 'a time as HH:MM');
const durationSchema = z.string().refine(isDuration, 'an ISO 8601 duration, such as PT10M or P14D');
const moneySchema = z.strictObject({ amount: z.string(), currency: z.string().regex(/^[A-Z]{3}$/, 'a currency code of three letters') });
export const valueSchema: z.ZodType<Value> = z.union([z.string(), z.number(), z.boolean(), z.array(z.string()), moneySchema, z.null()]);
const operandSchema = z.union([valueSchema, z.array(valueSchema)]);

const fieldTestSchema = z.strictObject({ field: idSchema, op: z.enum(OPERATORS), value: operandSchema.optional(), matchCase: z.boolean().optional() });

/** A test of one state, of any depth. */
const stateTestSchema: z.ZodType<StateTest> = z.lazy(() =>
  z.union([
    fieldTestSchema,
    z.strictObject({ all: z.array(stateTestSchema) }),
    z.strictObject({ any: z.array(stateTestSchema) }),
    z.strictObject({ none: z.array(stateTestSchema) }),
  ]));

const amountSchema = z.union([z.number(), z.string()]);
const movementSchema = z.strictObject({ field: idSchema, by: amountSchema.optional(), percent: amountSchema.optional() });
const membershipSchema = z.strictObject({ field: idSchema, any: z.array(z.string()).optional() });

const conditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    fieldTestSchema,
    z.strictObject({ all: z.array(conditionSchema) }),
    z.strictObject({ any: z.array(conditionSchema) }),
    z.strictObject({ none: z.array(conditionSchema) }),
    z.strictObject({ was: stateTestSchema }),
    z.strictObject({ became: stateTestSchema }),
    z.strictObject({ ceased: stateTestSchema }),
    z.strictObject({ changed: z.union([z.string(), z.array(z.string())]) }),
    z.strictObject({ rose: movementSchema }),
    z.strictObject({ fell: movementSchema }),
    z.strictObject({ gained: membershipSchema }),
    z.strictObject({ lost: membershipSchema }),
  ]));

export const selectorSchema: z.ZodType<Selector> = z.union([
  z.strictObject({ person: idSchema }), z.strictObject({ group: idSchema }), z.strictObject({ field: idSchema }), z.strictObject({ system: z.string() }), z.literal('*'),
]);

export const kindSchema = z.union([z.enum(CHANGE_KINDS), z.string().regex(/^x-/, `one of ${CHANGE_KINDS.join(', ')}, or a name prefixed x-`)]) as unknown as z.ZodType<ChangeKind>;
const channelSchema: z.ZodType<Channel> = z.enum(['inApp', 'email', 'text']);

const digestPaceSchema = z.strictObject({
  kind: z.literal('digest'), every: z.enum(['hour', 'day', 'week', 'month']), at: timeSchema.default('09:00'),
  on: z.array(z.union([z.enum(WEEKDAYS), z.number().int().min(1).max(31)])).min(1).optional(), zone: z.string().nullable().optional(),
});
const paceSchema: z.ZodType<Pace> = z.union([z.strictObject({ kind: z.literal('now') }), digestPaceSchema]);

const urgencySchema = z.enum(['routine', 'important', 'critical']);
const stepSchema = z.strictObject({ channel: channelSchema, after: durationSchema.optional(), pace: paceSchema.optional() });
export const planSchema: z.ZodType<Plan> = z.strictObject({
  reach: z.partialRecord(urgencySchema, z.array(stepSchema)).optional(),
  // Named in documents, and understood as far as they are empty.
  quiet: z.array(z.never()).optional(), own: z.strictObject({}).optional(),
  off: z.array(channelSchema).optional(), ownChanges: z.boolean().nullable().optional(), emailFormat: z.enum(['html', 'text']).optional(),
});

const scopeSchema = z.strictObject({
  sources: z.array(idSchema).min(1), under: z.array(idSchema).default([]), items: z.array(idSchema).default([]), linked: z.literal(false).optional(),
  where: stateTestSchema.default({ all: [] }),
});
const nearSchema = z.strictObject({ field: idSchema, ahead: durationSchema, behind: durationSchema.default('PT0S') });

/**
 * A rule as a JSON document: what may be left out is filled with the value that the specification shows.
 * An unknown key is an error that names its path.
 */
export const ruleSchema = z.strictObject({
  id: idSchema,
  name: z.string().trim().min(1).max(120),
  owner: idSchema,
  urgency: urgencySchema.default('routine'),
  zone: z.string().default('UTC'),
  scope: scopeSchema,
  when: z.strictObject({ kinds: z.array(kindSchema).default([]), if: conditionSchema.default({ all: [] }), burst: z.null().optional() }),
  by: z.strictObject({ only: z.array(selectorSchema).default([]), except: z.array(selectorSchema).default([]) }).default({ only: [], except: [] }),
  during: z.strictObject({ from: dateSchema.nullable().default(null), until: dateSchema.nullable().default(null), near: nearSchema.nullable().default(null) })
    .default({ from: null, until: null, near: null }),
  about: z.literal('any').optional(),
  ownChanges: z.boolean().default(false),
  to: z.array(selectorSchema),
  except: z.array(selectorSchema).default([]),
  channels: z.array(channelSchema).min(1).nullable().default(null),
  pace: paceSchema.default({ kind: 'now' }),
  limit: z.null().optional(),
  together: z.literal(true).optional(),
  message: z.strictObject({ show: z.array(idSchema).default([]), doNow: z.string().trim().max(300).nullable().default(null) }).default({ show: [], doNow: null }),
  ack: z.null().optional(),
});

export const accessSchema: z.ZodType<AccessEntry[]> = z.array(z.strictObject({ source: idSchema.optional(), folder: idSchema.optional(), readers: z.array(selectorSchema) }));

// The document and the engine's own type are the same but for the parts that may only be empty so far.
export const toRule = ({ id, name, owner, urgency, zone, scope, when, by, during, ownChanges, to, except, channels, pace, message }: z.output<typeof ruleSchema>): Rule => ({
  id, name, owner, urgency, zone, by, during, ownChanges, to, except, channels, pace, message,
  scope: { sources: scope.sources, under: scope.under, items: scope.items, where: scope.where },
  when: { kinds: when.kinds, if: when.if },
});
