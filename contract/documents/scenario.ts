import { z } from 'zod';
import type { Act, Scenario, ScenarioInput } from '../../core/decide/index.ts';
import { instantOf, parseInstant } from '../../core/time/index.ts';
import { type Change, FIELD_TYPES } from '../../core/values/index.ts';
import { cloudEventSchema, fromCloudEvent } from './cloud-event.ts';
import {
  accessSchema,
  dateSchema,
  idSchema,
  kindSchema,
  planSchema,
  rulePartsSchema,
  ruleSchema,
  valueSchema,
} from './rule.ts';

const instantSchema = z
  .string()
  .refine((text) => parseInstant(text) !== null, 'an instant as ISO 8601 with offset')
  .meta({ format: 'date-time' })
  .transform(instantOf);
const fieldsSchema = z.record(z.string(), valueSchema);
const nameless = z.string().nullable().default(null);

/** A source with its fields. */
export const sourceSchema = z.strictObject({
  id: idSchema,
  kind: z.enum(['folders', 'list', 'records', 'stream']),
  name: z.string(),
  titleField: z.string(),
  fields: z.array(
    z.strictObject({
      id: idSchema,
      name: z.string(),
      type: z.enum(FIELD_TYPES),
      options: z.array(z.string()).optional(),
      optionNames: z.record(z.string(), z.string()).optional(),
      to: z.string().optional(),
    }),
  ),
});

const untilSchema = z.union([
  dateSchema,
  z.string().refine((text) => parseInstant(text) !== null, 'a day, or an instant with offset'),
]);
/** What somebody does not want to hear, and until when. */
export const muteSchema = z.strictObject({
  rule: idSchema.optional(),
  item: idSchema.optional(),
  until: untilSchema.optional(),
});
const personSchema = z.strictObject({
  id: idSchema,
  name: z.string(),
  email: nameless,
  phone: nameless,
  zone: z.string().default('UTC'),
  locale: z.string().default('en-GB'),
  manager: nameless,
  active: z.boolean().default(true),
  plan: planSchema.nullable().default(null),
  mutes: z.array(muteSchema).default([]),
});
const groupSchema = z.strictObject({
  id: idSchema,
  name: z.string(),
  members: z.array(idSchema).default([]),
  groups: z.array(idSchema).default([]),
});
const contactSchema = z
  .strictObject({
    id: idSchema,
    name: z.string().optional(),
    email: nameless,
    confirmed: z.boolean().default(false),
    unsubscribed: z
      .union([z.literal(true), z.literal(false).transform((): string[] => []), z.array(idSchema)])
      .default([]),
  })
  .transform(({ name, ...contact }) => ({ ...contact, name: name ?? contact.email ?? contact.id }));
const folderSchema = z.strictObject({ id: idSchema, source: idSchema, name: z.string(), parent: nameless });
/** A text that several rules share. */
const wordingSchema = z.strictObject({
  id: idSchema,
  name: z.string().default(''),
  subject: z.string().nullable().default(null),
  body: z.string().nullable().default(null),
});
const itemSchema = z.strictObject({
  id: idSchema,
  source: idSchema,
  folder: nameless,
  fields: fieldsSchema,
  createdBy: nameless,
  lastBy: nameless,
  lastAt: instantSchema.nullable().default(null),
});

/** A change as a document of its own, section 1. */
export const changeSchema = z
  .strictObject({
    id: idSchema,
    at: instantSchema,
    source: idSchema,
    item: idSchema,
    kind: kindSchema,
    actor: z.string(),
    before: fieldsSchema.nullable().default(null),
    after: fieldsSchema.nullable().default(null),
    folder: nameless,
    folderBefore: nameless,
    batch: nameless,
    detail: z.looseObject({ mentions: z.array(z.string()).optional(), text: z.string().optional() }).default({}),
  })
  .transform((change): Change => change);

/** What becomes of what a paused rule caught. */
export const catchUpSchema = z.enum(['each', 'summary', 'skip']);
/** An alert as the engine names it, in logs. */
const alertSchema = z.string().min(1);
const acts = {
  read: { person: idSchema, alerts: z.array(alertSchema).optional() },
  acknowledge: { person: idSchema, rule: idSchema, item: idSchema.optional(), alert: alertSchema.optional() },
  again: {
    person: idSchema,
    rule: idSchema,
    item: idSchema.optional(),
    alert: alertSchema.optional(),
    when: instantSchema,
  },
  pause: { rule: idSchema },
  resume: { rule: idSchema, catchUp: catchUpSchema },
  publish: { rule: ruleSchema },
  mute: { person: idSchema, rule: idSchema.optional(), item: idSchema.optional(), until: untilSchema.optional() },
  confirm: { contact: idSchema },
  unsubscribe: { contact: idSchema, rule: idSchema.optional() },
  arrive: { person: idSchema },
  leave: { person: idSchema },
  access: { access: accessSchema },
} satisfies Record<Act['do'], z.ZodRawShape>;
const actOf = (name: Act['do']) => z.strictObject({ do: z.literal(name), at: instantSchema, ...acts[name] });
const [firstAct, ...otherActs] = (Object.keys(acts) as Act['do'][]).map(actOf);
const actSchema = z.discriminatedUnion('do', [
  firstAct as ReturnType<typeof actOf>,
  ...otherActs,
]) as unknown as z.ZodType<Act>;

/** A change as an event of CloudEvents 1.0. */
const eventSchema = cloudEventSchema.transform(fromCloudEvent).pipe(changeSchema);

/** A change, by itself or as a CloudEvent, or what somebody does, told by `do` in place of `kind`. */
export const inputSchema = z.unknown().transform((input, context): ScenarioInput => {
  // Judged by what it says it is, so that a fault names its path and not every shape that did not fit.
  const says = (key: string) => typeof input === 'object' && input !== null && key in input;
  const changed = says('specversion') ? eventSchema : changeSchema;
  const result = (says('do') ? actSchema : changed).safeParse(input);
  if (result.success) return result.data;
  for (const issue of result.error.issues)
    context.addIssue({ ...issue, message: issue.message } as Parameters<typeof context.addIssue>[0]);
  return z.NEVER;
});

const settingShape = {
  start: instantSchema,
  end: instantSchema,
  people: z.array(personSchema).default([]),
  groups: z.array(groupSchema).default([]),
  contacts: z.array(contactSchema).default([]),
  access: accessSchema.default([]),
  sources: z.array(sourceSchema).default([]),
  folders: z.array(folderSchema).default([]),
  followers: z.array(z.strictObject({ item: idSchema, person: idSchema })).default([]),
  wordings: z.array(wordingSchema).default([]),
  items: z.array(itemSchema).default([]),
  rules: z.array(rulePartsSchema.extend({ from: instantSchema.optional() })).default([]),
};

/** A whole run as one document: who and what there is, the rules, what happens. */
export const scenarioSchema = z
  .strictObject({ ...settingShape, inputs: z.array(inputSchema).default([]) })
  .transform((document): Scenario & { inputs: ScenarioInput[] } => ({
    ...document,
    rules: document.rules.map(({ from, ...rule }) => ({ rule, from: from ?? document.start })),
  }));

/** The same shape for export as JSON Schema, which knows no transformed inputs. */
export const scenarioShape = z.strictObject({
  ...settingShape,
  inputs: z.array(z.union([changeSchema, actSchema])).default([]),
});
