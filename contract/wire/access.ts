import { z } from 'zod';
import type { Selector } from '../../core/people/index.ts';
import { selectorSchema } from '../documents/index.ts';
import type { RouteContract } from './route.ts';
import { idSchema, namedSchema } from './shared.ts';

const whoSchema = z
  .array(selectorSchema as z.ZodType<Selector>)
  .max(200)
  .nullable();
/** Who may read a place, and who may add and edit there; `null` is everybody here, and everybody who reads there. */
export const rightsSchema = z.strictObject({ readers: whoSchema, adders: whoSchema, editors: whoSchema });
/** Who may do what at a place. */
export type Rights = z.output<typeof rightsSchema>;

const placeSchema = z.strictObject({
  /** `null` for the source itself. */
  folder: idSchema.nullable(),
  rights: rightsSchema,
  /** Who reads all of it whatever it holds, and whether some items name others as well. */
  outright: z.array(idSchema),
  isByItem: z.boolean(),
});
const accessSchema = z.strictObject({ places: z.array(placeSchema), mayChange: z.boolean() });
/** Who may do what in a source: at itself and at each folder that breaks from it. */
export type AccessPage = z.output<typeof accessSchema>;

const askedSchema = z.strictObject({
  folder: idSchema.nullable(),
  /** `null`: the place goes by what stands above it. */
  rights: rightsSchema.nullable(),
});
const previewSchema = z.strictObject({
  /** Who could read something of it and no longer could, and the other way round. */
  shutOut: z.array(idSchema),
  letIn: z.array(idSchema),
  /** Live rules that would tell nobody any more of what they look at here. */
  silent: z.array(namedSchema),
});
/** What a change of access would come to. */
export type AccessPreview = z.output<typeof previewSchema>;

/** Whether it is noted who opens what lies in a folder and beneath. */
export const notesLooksSchema = z.strictObject({ folder: idSchema, isOn: z.boolean() });

/** What the routes of rights take and answer. */
export const accessRoutes = {
  'access.read': { answer: accessSchema },
  'access.preview': { body: askedSchema, answer: previewSchema, problems: ['badValues'] },
  'access.save': { body: askedSchema, problems: ['badValues'] },
  'access.noteLooks': { body: notesLooksSchema },
} as const satisfies Record<string, RouteContract>;
