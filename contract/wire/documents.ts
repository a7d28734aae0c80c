import { z } from 'zod';
import { LIMITS } from '../limits.ts';
import type { RouteContract } from './route.ts';
import { fieldsSchema, idSchema, whenSchema } from './shared.ts';
import { itemRowSchema } from './sources.ts';

const EDITED = ['badValues', 'editedMeanwhile', 'gone'] as const;

/** One at least, and not more than so many at once. */
const several = <S extends z.ZodType>(one: S, most: number) =>
  z
    .array(one)
    .min(1)
    .refine((list) => list.length <= most, { params: { code: 'tooManyAtOnce', params: { most } } });

const wordSchema = z.string().trim().max(2000).default('');
/** What somebody does to items beside editing their fields. */
export const itemActSchema = z.discriminatedUnion('act', [
  z.strictObject({
    act: z.literal('comment'),
    text: z.string().trim().min(1).max(5000),
    mentions: z.array(idSchema).max(50).default([]),
  }),
  z.strictObject({ act: z.literal('rename'), name: z.string().trim().min(1).max(250) }),
  z.strictObject({ act: z.literal('move'), folder: idSchema }),
  z.strictObject({ act: z.literal('checkOut') }),
  z.strictObject({ act: z.literal('checkIn') }),
  z.strictObject({ act: z.enum(['submit', 'approve', 'reject']), word: wordSchema }),
  z.strictObject({ act: z.enum(['share', 'unshare']), person: idSchema }),
  /** One edit of each of them: these fields get these values, the others stay. */
  z.strictObject({ act: z.literal('set'), set: fieldsSchema }),
  z.strictObject({ act: z.literal('delete') }),
  z.strictObject({ act: z.literal('restore') }),
]);
/** One act, on one item or on several at once. */
export const itemActsSchema = z.strictObject({ ids: several(idSchema, LIMITS.actItems), act: itemActSchema });

/** What became of one of the items; `why` says in words what stood against it. */
const outcomeSchema = z.strictObject({
  id: idSchema,
  outcome: z.enum(['done', 'unchanged', 'refused']),
  why: z.strictObject({ title: z.string(), detail: z.string().nullable() }).nullable(),
});
const itemActsDoneSchema = z.strictObject({ batch: z.string().nullable(), results: z.array(outcomeSchema) });
/** What became of an act, item by item; of several done at once it is one batch. */
export type ItemActsDone = z.output<typeof itemActsDoneSchema>;

const handedInSchema = z.strictObject({
  upload: z.string(),
  name: z.string(),
  size: z.number().int(),
  mediaType: z.string(),
});
/** Contents as they were handed in: under what they wait to become a document's, and what they turned out to be. */
export type HandedIn = z.output<typeof handedInSchema>;
const versionRowSchema = z.strictObject({
  number: z.number().int(),
  name: z.string(),
  by: idSchema,
  at: whenSchema,
  /** In bytes. */
  size: z.number().int(),
  mediaType: z.string(),
});
/** A version of a document, as pages list it. */
export type DocumentVersionRow = z.output<typeof versionRowSchema>;
const givenSchema = z.strictObject({ upload: z.string().min(1).max(160), name: z.string().min(1).max(1000) });

/** What the routes of documents, and of what is done with items, take and answer. */
export const documentRoutes = {
  'items.acts': { body: itemActsSchema, answer: itemActsDoneSchema, problems: EDITED },
  /** Takes contents as they are, as the body of the request. */
  'contents.handIn': { query: z.object({ name: z.string().min(1).max(1000) }), answer: handedInSchema, status: 201 },
  'documents.add': {
    body: z.strictObject({ folder: idSchema, files: several(givenSchema, 200) }),
    answer: z.array(itemRowSchema),
    status: 201,
    problems: EDITED,
  },
  'documents.versions': { answer: z.array(versionRowSchema) },
  /** A new version: of contents that were handed in, or of what an earlier version held. */
  'documents.addVersion': {
    body: z.union([
      z.strictObject({ upload: z.string().min(1).max(160) }),
      z.strictObject({ number: z.number().int().min(1) }),
    ]),
    answer: itemRowSchema,
    status: 201,
    problems: EDITED,
  },
  /** What a version holds, as it is; a workbook as text as the lines of its first sheet. */
  'items.file': {
    query: z.object({ number: z.coerce.number().int().min(1).optional(), as: z.enum(['download', 'text']).optional() }),
    isRaw: true,
  },
} as const satisfies Record<string, RouteContract>;
