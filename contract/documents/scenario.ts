import { z } from 'zod';
import type { Scenario } from '../../core/decide/index.ts';
import { instantOf, parseInstant } from '../../core/time/index.ts';
import { FIELD_TYPES } from '../../core/values/index.ts';
import { accessSchema, idSchema, kindSchema, planSchema, ruleSchema, toRule, valueSchema } from './rule.ts';

const instantSchema = z.string().refine((text) => parseInstant(text) !== null, 'an instant as ISO 8601 with offset').transform(instantOf);
const fieldsSchema = z.record(z.string(), valueSchema);

const sourceSchema = z.strictObject({
  id: idSchema, kind: z.enum(['folders', 'list', 'records', 'stream']), name: z.string(), titleField: z.string(),
  fields: z.array(z.strictObject({ id: idSchema, name: z.string(), type: z.enum(FIELD_TYPES), options: z.array(z.string()).optional(), to: z.string().optional() })),
});

const personSchema = z.strictObject({
  id: idSchema, name: z.string(), email: z.string().nullable().default(null), phone: z.string().nullable().default(null), zone: z.string().default('UTC'),
  locale: z.string().default('en-GB'), manager: z.string().nullable().default(null), active: z.boolean().default(true), plan: planSchema.nullable().default(null),
  mutes: z.array(z.never()).optional(),
});
const groupSchema = z.strictObject({ id: idSchema, name: z.string(), members: z.array(idSchema).default([]), groups: z.array(idSchema).default([]) });
const folderSchema = z.strictObject({ id: idSchema, source: idSchema, name: z.string(), parent: z.string().nullable().default(null) });
const itemSchema = z.strictObject({
  id: idSchema, source: idSchema, folder: z.string().nullable().default(null), fields: fieldsSchema,
  createdBy: z.string().nullable().default(null), lastBy: z.string().nullable().default(null), lastAt: instantSchema.nullable().default(null),
});

const changeSchema = z.strictObject({
  id: idSchema, at: instantSchema, source: idSchema, item: idSchema, kind: kindSchema, actor: z.string(),
  before: fieldsSchema.nullable().default(null), after: fieldsSchema.nullable().default(null),
  folder: z.string().nullable().default(null), folderBefore: z.string().nullable().default(null), batch: z.null().optional(),
  detail: z.looseObject({ mentions: z.array(z.string()).optional(), text: z.string().optional() }).default({}),
}).transform((change) => ({ ...change, batch: null }));
const actSchema = z.union([
  z.strictObject({ do: z.literal('read'), at: instantSchema, person: idSchema }),
  z.strictObject({ do: z.literal('access'), at: instantSchema, access: accessSchema }),
]);

/** A whole run as one document: who and what there is, the rules, what happens. */
export const scenarioSchema = z.strictObject({
  start: instantSchema, end: instantSchema,
  people: z.array(personSchema).default([]), groups: z.array(groupSchema).default([]), contacts: z.array(z.never()).optional(),
  access: accessSchema.default([]), sources: z.array(sourceSchema).default([]), folders: z.array(folderSchema).default([]),
  followers: z.array(z.never()).optional(), items: z.array(itemSchema).default([]),
  rules: z.array(ruleSchema.extend({ from: instantSchema.optional() })).default([]),
  inputs: z.array(z.union([changeSchema, actSchema])).default([]),
}).transform((document): Scenario => ({
  ...document,
  rules: document.rules.map(({ from, ...rule }) => ({ rule: toRule(rule), from: from ?? document.start })),
}));
