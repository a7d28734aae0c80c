import { z } from 'zod';
import { BODY_KINDS } from '../../core/messages/index.ts';
import { webAddressSchema } from '../addresses.ts';
import type { RouteContract } from './route.ts';
import { idSchema, whenSchema } from './shared.ts';

/** A machine that rules may tell: what it is called, and where it is posted to. */
export const machineSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  url: webAddressSchema,
  /** How it is told: by an event, or in JSON or text of the house's own. */
  kind: z.enum(BODY_KINDS),
  /** The template of that; asked for nothing where it is an event. */
  template: z.string().max(8000),
});
/** A machine as it is set up. */
export type MachineDefined = z.output<typeof machineSchema>;

const machineRowSchema = machineSchema.extend({
  id: idSchema,
  url: z.string(),
  owner: idSchema.nullable(),
  isPaused: z.boolean(),
  /** Since when nothing has gone there. */
  failingSince: whenSchema.nullable(),
  /** Live rules that tell it. */
  rules: z.array(z.string()),
  /** Until when the secret before the present one signs as well. */
  oldSecretUntil: whenSchema.nullable(),
});
/** A machine that rules may tell, with how it does. */
export type MachineRow = z.output<typeof machineRowSchema>;

const secretSchema = z.strictObject({ id: idSchema, secret: z.string() });

/** What the routes of machines take and answer; they are for stewards. */
export const machineRoutes = {
  'machines.list': { answer: z.array(machineRowSchema) },
  /** The secret is told here once. */
  'machines.add': { body: machineSchema, answer: secretSchema, status: 201, problems: ['badValues'] },
  'machines.save': { body: machineSchema.extend({ isPaused: z.boolean() }), problems: ['badValues'] },
  /** How a message would look to it: the last that went to the asker, else a made-up one. */
  'machines.preview': {
    body: machineSchema.pick({ kind: true, template: true }),
    answer: z.strictObject({ contentType: z.string(), body: z.string() }),
    problems: ['badValues'],
  },
  'machines.rotate': { answer: secretSchema },
  /** Posts an event that says nothing, and tells what came of it. */
  'machines.try': { answer: z.strictObject({ isTaken: z.boolean(), reply: z.string() }) },
  'machines.drop': {},
} as const satisfies Record<string, RouteContract>;
