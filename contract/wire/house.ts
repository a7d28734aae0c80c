import { z } from 'zod';
import { EYED } from '../../core/rules/index.ts';
import { emailSchema, senderNameSchema } from '../addresses.ts';
import type { RouteContract } from './route.ts';
import { idSchema } from './shared.ts';

const ADDRESS = { params: { code: 'noAddress', params: {} } };
const MISSING = { params: { code: 'empty', params: {} } };
/** Nothing at all is no text. */
const marksSchema = z
  .string()
  .max(2000)
  .nullable()
  .transform((text) => (text?.trim() ? text.trim() : null));

/** What stands above and below every email, with signs for what stands out; `null` where nothing does. */
export const paperSchema = z.strictObject({ letterhead: marksSchema, signOff: marksSchema });

/** A name that messages may come in. Of a person their own name and address stand, so that these are left out. */
export const senderSchema = z
  .strictObject({
    kind: z.enum(['person', 'team', 'house']),
    person: z.string().default(''),
    name: senderNameSchema.default(''),
    address: z.string().trim().max(254).default(''),
  })
  .superRefine(({ kind, person, name, address }, context) => {
    const report = (path: string, issue: object) => context.addIssue({ code: 'custom', path: [path], ...issue });
    if (kind === 'person') {
      if (person === '') report('person', MISSING);
      return;
    }
    if (name === '') report('name', MISSING);
    if (!emailSchema.safeParse(address).success) report('address', ADDRESS);
  });

const senderRowSchema = z.strictObject({
  id: idSchema,
  kind: z.enum(['person', 'team', 'house']),
  person: idSchema.nullable(),
  name: z.string(),
  /** Empty where it is a person's who has left or has no address: messages come from Ojo then. */
  address: z.string(),
});
/** A name that messages may come in, as pages show it. */
export type SenderOption = z.output<typeof senderRowSchema>;

/** How the house speaks, as pages show it. */
export const houseSchema = z.strictObject({
  letterhead: z.string().nullable(),
  signOff: z.string().nullable(),
  senders: z.array(senderRowSchema),
  /** Which rules a second pair of eyes looks at before they are live. */
  secondEyes: z.array(z.enum(EYED)),
});

/** What the routes of the house's own words take and answer. */
export const houseRoutes = {
  'house.savePaper': { body: paperSchema },
  'house.saveEyes': { body: z.strictObject({ kinds: z.array(z.enum(EYED)).max(EYED.length) }) },
  'senders.create': { body: senderSchema, answer: z.strictObject({ id: idSchema }), status: 201 },
  'senders.save': { body: senderSchema, answer: z.strictObject({ id: idSchema }) },
  'senders.drop': {},
} as const satisfies Record<string, RouteContract>;
