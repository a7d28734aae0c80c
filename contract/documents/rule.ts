import { emailSchema } from '../addresses.ts';
import { unionByKey } from './by-key.ts';
import { z } from 'zod';
import { LIMITS } from '../limits.ts';
import {
  type AccessEntry,
  asKind,
  type Channel,
  type Pace,
  type Plan,
  type Selector,
} from '../../core/people/index.ts';
import {
  ABOUT,
  type Condition,
  OPEN_MESSAGE,
  OPERATORS,
  type Rule,
  type StateTest,
  TALLY_OPS,
} from '../../core/rules/index.ts';
import { isCivilDate, isCivilTime, isDuration, WEEKDAYS } from '../../core/time/index.ts';
import { CHANGE_KINDS, type ChangeKind, type Value } from '../../core/values/index.ts';

/** An id: opaque text of 1 to 120 signs. */
export const idSchema = z.string().min(1).max(120);
/** A civil day, `YYYY-MM-DD` (RFC 3339, full-date). */
export const dateSchema = z.string().refine(isCivilDate, 'a day as YYYY-MM-DD').meta({ format: 'date' });
const timeSchema = z.string().refine(isCivilTime, 'a time as HH:MM').meta({ pattern: '^([01]\\d|2[0-3]):[0-5]\\d$' });
const durationSchema = z
  .string()
  .refine(isDuration, 'an ISO 8601 duration, such as PT10M or P14D')
  .meta({ format: 'duration' });
const lengthSchema = z
  .string()
  .refine((text) => isDuration(text) && !text.startsWith('-'), 'an ISO 8601 duration, such as PT10M or P14D')
  .meta({ format: 'duration' });
const moneySchema = z.strictObject({
  amount: z.string(),
  currency: z.string().regex(/^[A-Z]{3}$/, 'a currency code of three letters'),
});
/** A field's value, of whatever type; whether it fits its field says `checkValue`. */
export const valueSchema: z.ZodType<Value> = z.union([
  z.string(),
  z.number(),
  z.boolean(),
  z.array(z.string()),
  moneySchema,
  z.null(),
]);
const operandSchema = z.union([valueSchema, z.array(valueSchema), z.strictObject({ field: idSchema })]);

const fieldTestSchema = z.strictObject({
  field: idSchema,
  op: z.enum(OPERATORS),
  value: operandSchema.optional(),
  matchCase: z.boolean().optional(),
});

/** A test of one state, of any depth. */
export const stateTestSchema: z.ZodType<StateTest> = z
  .lazy(() =>
    unionByKey(
      ['op', 'all', 'any', 'none', 'through'],
      [
        fieldTestSchema,
        z.strictObject({ all: z.array(stateTestSchema) }),
        z.strictObject({ any: z.array(stateTestSchema) }),
        z.strictObject({ none: z.array(stateTestSchema) }),
        linkedTestSchema,
      ],
    ),
  )
  .meta({ id: 'stateTest' });

const linkedTestSchema = z.strictObject({
  through: idSchema,
  holds: stateTestSchema,
  every: z.boolean().optional(),
});

const amountSchema = z.union([z.number(), z.string()]);
const movementSchema = z.strictObject({
  field: idSchema,
  by: amountSchema.optional(),
  percent: amountSchema.optional(),
});
const membershipSchema = z.strictObject({ field: idSchema, any: z.array(z.string()).optional() });

/** A condition on a change, nested at most as deep as `MOST_DEEP` says. */
export const conditionSchema: z.ZodType<Condition> = z
  .lazy(() =>
    unionByKey(
      ['op', 'through', 'all', 'any', 'none', 'was', 'became', 'ceased', 'changed', 'rose', 'fell', 'gained', 'lost'],
      [
        fieldTestSchema,
        linkedTestSchema,
        z.strictObject({ all: z.array(conditionSchema) }),
        z.strictObject({ any: z.array(conditionSchema) }),
        z.strictObject({ none: z.array(conditionSchema) }),
        z.strictObject({ was: stateTestSchema }),
        z.strictObject({ became: stateTestSchema }),
        z.strictObject({ ceased: stateTestSchema }),
        z.strictObject({ changed: z.union([z.string(), z.array(z.string()).min(1)]) }),
        z.strictObject({ rose: movementSchema }),
        z.strictObject({ fell: movementSchema }),
        z.strictObject({ gained: membershipSchema }),
        z.strictObject({ lost: membershipSchema }),
      ],
    ),
  )
  .meta({ id: 'condition' });

/** Whom a rule names. */
export const selectorSchema: z.ZodType<Selector> = z
  .lazy(() =>
    z.union([
      z.strictObject({ person: idSchema }),
      z.strictObject({ group: idSchema }),
      z.strictObject({ field: idSchema }),
      z.strictObject({ linked: idSchema, field: idSchema }),
      z.strictObject({ creator: z.literal(true) }),
      z.strictObject({ lastEditor: z.literal(true) }),
      z.strictObject({ followers: z.literal(true) }),
      z.strictObject({ mentioned: z.literal(true) }),
      z.strictObject({ managerOf: selectorSchema }),
      z.strictObject({ contact: idSchema }),
      z.strictObject({ webhook: z.string().min(1).max(500) }),
      z.strictObject({ told: z.literal(true) }),
      z.strictObject({
        cases: z.array(z.strictObject({ if: stateTestSchema, to: z.array(selectorSchema) })).min(1),
        else: z.array(selectorSchema).optional(),
      }),
      z.strictObject({ tell: selectorSchema, channels: z.array(z.enum(['inApp', 'email', 'text'])).min(1) }),
      z.strictObject({ system: z.string() }),
      z.literal('*'),
    ]),
  )
  .meta({ id: 'selector' });

/** A kind of change; of a stream's sender prefixed `x-`. */
export const kindSchema = z.union([
  z.enum(CHANGE_KINDS),
  z.string().regex(/^x-/, `one of ${CHANGE_KINDS.join(', ')}, or a name prefixed x-`),
]) as unknown as z.ZodType<ChangeKind>;
const ownChannelSchema: z.ZodType<Channel> = z.enum(['inApp', 'email', 'text']);

const daysSchema = z.array(z.union([z.enum(WEEKDAYS), z.number().int().min(1).max(31)])).min(1);
const digestPaceSchema = z.strictObject({
  kind: z.literal('digest'),
  every: z.enum(['hour', 'day', 'week', 'month']),
  at: timeSchema.default('09:00'),
  on: daysSchema.optional(),
  zone: z.string().nullable().optional(),
});
const nowPaceSchema = z.strictObject({ kind: z.literal('now') });
const settledPaceSchema = z.strictObject({
  kind: z.literal('settled'),
  quiet: lengthSchema.default('PT10M'),
  most: lengthSchema.default('PT2H'),
});
/** How soon a rule's alerts are told. */
export const paceSchema: z.ZodType<Pace> = z.union([nowPaceSchema, settledPaceSchema, digestPaceSchema]);

/** How urgent a rule's messages are. */
export const urgencySchema = z.enum(['routine', 'important', 'critical']);
const stepSchema = z.strictObject({
  channel: ownChannelSchema,
  after: lengthSchema.optional(),
  when: z.enum(['away', 'always']).optional(),
  pace: z.union([nowPaceSchema, digestPaceSchema]).optional(),
});
const stepsSchema = z.array(stepSchema);
/** A person's delivery plan: steps for each urgency, quiet hours, the format of email. */
export const planSchema: z.ZodType<Plan> = z.strictObject({
  reach: z.partialRecord(urgencySchema, stepsSchema).optional(),
  quiet: z
    .array(z.strictObject({ days: z.array(z.enum(WEEKDAYS)).min(1), from: timeSchema, to: timeSchema }))
    .optional(),
  own: z.record(idSchema, stepsSchema).optional(),
  off: z
    .array(ownChannelSchema)
    .refine((off) => !off.includes('inApp'), 'email or text: what is in Ojo cannot be off')
    .optional(),
  ownChanges: z.boolean().nullable().optional(),
  emailFormat: z.enum(['html', 'text']).optional(),
  ways: z
    .array(
      z.strictObject({
        sources: z.array(idSchema).min(1).optional(),
        kinds: z.array(kindSchema).min(1).optional(),
        steps: stepsSchema,
      }),
    )
    .optional(),
  absent: z
    .strictObject({ from: dateSchema, until: dateSchema, deputy: idSchema.nullable() })
    .refine(({ from, until }) => from <= until, 'the last day is not before the first')
    .optional(),
  emailTo: z
    .strictObject({
      rules: z.record(idSchema, emailSchema).optional(),
      sources: z.record(idSchema, emailSchema).optional(),
    })
    .optional(),
});

const OPEN = { all: [] };
const scopeSchema = z.strictObject({
  sources: z.array(idSchema).min(1),
  under: z.array(idSchema).default([]),
  items: z.array(idSchema).default([]),
  linked: z.boolean().default(false),
  where: stateTestSchema.default(OPEN),
});
const repeatSchema = z.strictObject({ every: lengthSchema, times: z.number().int().min(1).max(1000) });
const whenSchema = z.strictObject({
  kinds: z.array(kindSchema).default([]),
  if: conditionSchema.default(OPEN),
  burst: z
    .strictObject({
      count: z.number().int().min(2).max(10_000),
      within: lengthSchema,
      per: z.enum(['item', 'actor', 'rule']),
    })
    .nullable()
    .default(null),
});
const dueSchema = z.strictObject({
  field: idSchema,
  offset: z.union([durationSchema, z.array(durationSchema).min(1).max(LIMITS.leads)]).default('PT0S'),
  at: timeSchema.nullable().default(null),
  if: stateTestSchema.default(OPEN),
  repeat: repeatSchema.nullable().default(null),
  late: z.enum(['now', 'skip']).default('now'),
});
const idleSchema = z.strictObject({
  for: lengthSchema,
  if: stateTestSchema.default(OPEN),
  repeat: repeatSchema.nullable().default(null),
});
const tallySchema = z.strictObject({
  of: z.union([z.literal('items'), z.strictObject({ sum: idSchema })]),
  per: idSchema.nullable().default(null),
  becomes: z.strictObject({ op: z.enum(TALLY_OPS), value: z.union([z.number(), z.string(), moneySchema]) }),
  kinds: z.array(kindSchema).default([]),
});
const reportSchema = z.strictObject({
  every: z.enum(['day', 'week', 'month']),
  at: timeSchema.default('09:00'),
  on: daysSchema.optional(),
  if: stateTestSchema.default(OPEN),
  empty: z.boolean().default(false),
});
const nearSchema = z.strictObject({ field: idSchema, ahead: lengthSchema, behind: lengthSchema.default('PT0S') });
const ackSchema = z.strictObject({
  by: z.enum(['anyone', 'everyone']).default('anyone'),
  remind: z
    .strictObject({ after: lengthSchema, times: z.number().int().min(1).max(100) })
    .nullable()
    .default(null),
  escalate: z.array(z.strictObject({ after: lengthSchema, to: z.array(selectorSchema).min(1) })).default([]),
  closeWhenCeased: z.boolean().default(true),
  allClear: z.boolean().default(false),
});
const messageSchema = z.strictObject({
  wording: idSchema.nullable().default(null),
  subject: z.string().max(500).nullable().default(null),
  body: z.string().max(20_000).nullable().default(null),
  show: z.array(idSchema).default([]),
  doNow: z.string().trim().max(300).nullable().default(null),
  from: z.union([z.enum(['ojo', 'owner']), z.strictObject({ sender: idSchema })]).default('ojo'),
  replyTo: z.string().trim().max(254).nullable().default(null),
  attach: z
    .array(z.enum(['csv', 'xlsx']))
    .max(2)
    .optional(),
});
const bySchema = z.strictObject({
  only: z.array(selectorSchema).default([]),
  except: z.array(selectorSchema).default([]),
});
const duringSchema = z.strictObject({
  from: dateSchema.nullable().default(null),
  until: dateSchema.nullable().default(null),
  near: nearSchema.nullable().default(null),
});

/** The parts of a rule as a JSON document; an unknown key is an error that names its path. */
export const rulePartsSchema = z.strictObject({
  id: idSchema,
  name: z.string().trim().min(1).max(120),
  owner: idSchema,
  urgency: urgencySchema.default('routine'),
  zone: z.string().default('UTC'),
  scope: scopeSchema,
  when: whenSchema.nullable().default(null),
  due: dueSchema.nullable().default(null),
  idle: idleSchema.nullable().default(null),
  tally: tallySchema.nullable().default(null),
  report: reportSchema.nullable().default(null),
  by: bySchema.default({ only: [], except: [] }),
  during: duringSchema.default({ from: null, until: null, near: null }),
  about: z.enum(ABOUT).default('any'),
  ownChanges: z.boolean().default(false),
  to: z.array(selectorSchema),
  except: z.array(selectorSchema).default([]),
  channels: z.array(ownChannelSchema).min(1).nullable().default(null),
  pace: paceSchema.default({ kind: 'now' }),
  limit: z
    .strictObject({ per: z.enum(['item', 'rule']), within: lengthSchema })
    .nullable()
    .default(null),
  together: z.boolean().default(true),
  message: messageSchema.default(OPEN_MESSAGE),
  ack: ackSchema.nullable().default(null),
});

/** A rule, filled where the document leaves something out. What the specification asks beyond the shape is checked against its sources. */
export const ruleSchema = rulePartsSchema.transform((rule): Rule => rule);

/** Cases and channels of one's own are for those whom a rule tells: nobody reads by them. */
const readerSchema = selectorSchema.refine(isReader, 'whoever may read: a person, a group, whom a field names …');
function isReader(selector: Selector): boolean {
  const within = asKind(selector, 'managerOf')?.managerOf;
  return !asKind(selector, 'cases') && !asKind(selector, 'tell') && (within === undefined || isReader(within));
}

/** Who may read what: entries of a source, a folder or an item. */
export const accessSchema: z.ZodType<AccessEntry[]> = z.array(
  z
    .strictObject({ source: idSchema.optional(), folder: idSchema.optional(), readers: z.array(readerSchema) })
    .refine(({ source, folder }) => (source === undefined) !== (folder === undefined), 'either a source or a folder'),
);
