import { z } from 'zod';
import { sourceSchema, stateTestSchema } from '../documents/index.ts';
import type { RouteContract } from './route.ts';
import { fieldsSchema, idSchema, namedSchema, itemNameSchema, titlesSchema, whenSchema } from './shared.ts';
import { houseSchema } from './house.ts';
import { eyeSchema, recipientRowSchema, storedWordingSchema } from './rules.ts';
import { trailRowSchema } from './trail.ts';

const directorySchema = z.strictObject({
  people: z.array(z.strictObject({ id: idSchema, name: z.string(), title: z.string(), isActive: z.boolean() })),
  groups: z.array(
    z.strictObject({ id: idSchema, name: z.string(), members: z.array(idSchema), groups: z.array(idSchema) }),
  ),
  sources: z.array(
    sourceSchema.extend({
      about: z.string(),
      sheetOf: idSchema.optional(),
      /** Who adds to it, each in a word, where the reader may not. */
      onlyAddedBy: z.array(z.string()).optional(),
    }),
  ),
  folders: z.array(
    z.strictObject({
      id: idSchema,
      source: idSchema,
      name: z.string(),
      parent: idSchema.nullable(),
      /** Whether it is noted who opens what lies in it and beneath. */
      notesLooks: z.boolean(),
    }),
  ),
  contacts: z.array(z.strictObject({ id: z.string(), name: z.string(), isConfirmed: z.boolean() })),
  webhooks: z.array(z.string()),
  /** What acts on a source without being a person. */
  systems: z.array(z.strictObject({ source: idSchema, name: z.string() })),
  wordings: z.array(storedWordingSchema),
  house: houseSchema,
  /** Sources for which the reader makes rules for others. */
  coordinates: z.array(idSchema),
  /** Who looks after each source that the reader sees, and who after all of Ojo: whom to ask. */
  keepers: z.array(z.strictObject({ source: idSchema, people: z.array(idSchema) })),
  stewards: z.array(idSchema),
});
/** What pages need to name and to offer: people, groups, sources, addresses outside. */
export type DirectoryPage = z.output<typeof directorySchema>;

const sourceRowSchema = z.strictObject({
  id: idSchema,
  items: z.number().int(),
  lastAt: whenSchema.nullable(),
  byFolder: z.record(z.string(), z.number().int()),
  rules: z.number().int(),
});
export type SourceRow = z.output<typeof sourceRowSchema>;

/** An item as tables list it, with its last change as far as the reader may know of it. */
export const itemRowSchema = z.strictObject({
  id: idSchema,
  source: idSchema,
  folder: idSchema.nullable(),
  title: z.string(),
  fields: fieldsSchema,
  version: z.number().int(),
  isDeleted: z.boolean(),
  lastAt: whenSchema,
  lastBy: z.string(),
  last: trailRowSchema.nullable(),
});
export type ItemRow = z.output<typeof itemRowSchema>;

const itemListSchema = z.strictObject({
  total: z.number().int(),
  items: z.array(itemRowSchema),
  names: titlesSchema,
});
export type ItemList = z.output<typeof itemListSchema>;

const itemPageSchema = z.strictObject({
  item: itemRowSchema,
  names: titlesSchema,
  trail: z.array(trailRowSchema),
  hears: z.array(recipientRowSchema),
  eyes: z.array(eyeSchema),
  file: z.strictObject({ name: z.string(), mediaType: z.string(), number: z.number().int() }).nullable(),
  /** Whether it is noted who opens it, and when each who did opened it last, the latest first. */
  looks: z.strictObject({ isNoted: z.boolean(), last: z.array(z.strictObject({ person: idSchema, at: whenSchema })) }),
  mayEdit: z.boolean(),
  /** Who edits it, each in a word, where the reader may not. */
  onlyEditedBy: z.array(z.string()).optional(),
});
export type ItemPage = z.output<typeof itemPageSchema>;

/** A state test as it stands in an address: JSON of the documents' own shape. */
const whereSchema = z
  .string()
  .max(8000)
  .transform((text, context) => {
    try {
      return stateTestSchema.parse(JSON.parse(text));
    } catch {
      context.addIssue({
        code: 'custom',
        message: 'a state test as JSON, such as {"field":"status","op":"is","value":"Agreed"}',
      });
      return z.NEVER;
    }
  });
/** Which items of a source are asked for, in which order, from which place on. */
export const listQuerySchema = z.object({
  text: z.string().max(200).default(''),
  folder: idSchema.optional(),
  offset: z.coerce.number().int().min(0).default(0),
  where: whereSchema.optional(),
  sort: idSchema.optional(),
  down: z.enum(['1']).optional(),
});
const createSchema = z.strictObject({ set: fieldsSchema, folder: idSchema.nullable().default(null) });
const editSchema = z.strictObject({ from: z.number().int().min(1), set: fieldsSchema });
const fromSchema = z.strictObject({ from: z.number().int().min(1) });

const foundSchema = z.strictObject({
  items: z.array(itemNameSchema),
  /** Items that say it, and are not called so. */
  saying: z.array(itemNameSchema),
  rules: z.array(namedSchema),
  sources: z.array(namedSchema),
});
export type Found = z.output<typeof foundSchema>;

const askedSchema = z.strictObject({
  text: z.string().max(200).optional(),
  where: z.string().max(8000).optional(),
  sort: z.string().max(120).optional(),
  down: z.string().max(1).optional(),
});
/** A view as it is named: what is asked of a source's items, and under what name that is kept. */
export const nameViewSchema = z.strictObject({ name: z.string().trim().min(1).max(120), asked: askedSchema });
const viewSchema = z.strictObject({ id: z.string(), name: z.string(), owner: idSchema, asked: askedSchema });
/** A named view of a source: what was asked of its items. */
export type View = z.output<typeof viewSchema>;

/** Minutes within which most edits follow the one before, and minutes of quiet after which they are over. */
const rhythmSchema = z.strictObject({ within: z.int().min(1), quiet: z.int().min(1) });

const EDITED = ['badValues', 'editedMeanwhile', 'gone'] as const;

/** What the routes of sources, views and items take and answer. */
export const sourceRoutes = {
  'directory.read': { answer: directorySchema },
  'find.text': { query: z.object({ text: z.string().max(200).default('') }), answer: foundSchema },
  'sources.list': { answer: z.array(sourceRowSchema) },
  /** Who may read an item, or something of a source; for those who make rules for others there. */
  'sources.readers': { query: z.object({ item: idSchema.optional() }), answer: z.array(idSchema) },
  /** How edits of one item follow each other, by what the asker may read of the last 90 days; `null` where there is too little to go by. */
  'sources.rhythm': { query: z.object({ item: idSchema.optional() }), answer: rhythmSchema.nullable() },
  'views.list': { answer: z.array(viewSchema) },
  'views.name': { body: nameViewSchema, answer: viewSchema, status: 201, problems: ['badValues'] },
  'views.drop': {},
  'items.list': { query: listQuerySchema, answer: itemListSchema },
  'items.create': { body: createSchema, answer: itemRowSchema, status: 201, problems: EDITED },
  'items.read': { answer: itemPageSchema },
  'items.edit': { body: editSchema, answer: itemRowSchema, problems: EDITED },
  'items.remove': { body: fromSchema, answer: itemRowSchema, problems: EDITED },
  /** Gives an item the fields that it had after one of its changes. */
  'items.bringBack': {
    body: fromSchema.extend({ change: z.string().min(1).max(120) }),
    answer: itemRowSchema,
    problems: EDITED,
  },
  'items.restore': { body: fromSchema, answer: itemRowSchema, problems: EDITED },
} as const satisfies Record<string, RouteContract>;
