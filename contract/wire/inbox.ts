import { z } from 'zod';
import { contentSchema, formSchema } from './content.ts';
import type { RouteContract } from './route.ts';
import {
  channelSchema,
  fateSchema,
  idSchema,
  messageIdSchema,
  recipientIdSchema,
  urgencySchema,
  whenSchema,
  withheldReasonSchema,
} from './shared.ts';
import { sampleSchema, trailRowSchema } from './trail.ts';

/** A message as the inbox lists it; instants are ISO 8601 in UTC. */
export const messageRowSchema = z.strictObject({
  id: z.string(),
  at: whenSchema,
  form: formSchema,
  urgency: urgencySchema,
  subject: z.string(),
  content: contentSchema,
  readAt: whenSchema.nullable(),
});
export type MessageRow = z.output<typeof messageRowSchema>;

const inboxPageSchema = z.strictObject({
  messages: z.array(messageRowSchema),
  unread: z.number().int(),
  next: z.string().nullable(),
});
export type InboxPage = z.output<typeof inboxPageSchema>;

const nextSchema = z.strictObject({
  what: z.enum(['remind', 'escalate']),
  at: whenSchema,
  to: z.array(recipientIdSchema),
});

const todayPageSchema = z.strictObject({
  since: whenSchema,
  /** How many things they keep an eye on. */
  eyes: z.number().int(),
  /** What waits for them to take it on, with what follows while nobody does. */
  waiting: z.array(messageRowSchema.extend({ next: z.array(nextSchema) })),
  changes: z.array(sampleSchema),
  isCut: z.boolean(),
  digests: z.array(z.strictObject({ channel: channelSchema, at: whenSchema, items: z.number().int() })),
});
/** The first page: what waits for its reader, what happened in what they keep an eye on since an instant, and what gathers for them. */
export type TodayPage = z.output<typeof todayPageSchema>;

const messagePageSchema = messageRowSchema.extend({
  /** The reader is asked to acknowledge it, and has not yet. */
  waits: z.boolean(),
  /** Who has acknowledged it so far. */
  answered: z.array(idSchema),
  /** What follows while nobody does, in order: reminders, and who hears next. */
  next: z.array(nextSchema),
  others: z.array(
    z.strictObject({
      person: recipientIdSchema,
      channels: z.array(z.strictObject({ channel: channelSchema, at: whenSchema, fate: fateSchema })),
      readAt: whenSchema.nullable(),
    }),
  ),
  /** Of whoever looks after the rule; nobody else is told why somebody did not hear. */
  withheld: z.array(z.strictObject({ person: recipientIdSchema, reason: withheldReasonSchema })),
  /** What happened to its items after what it tells, oldest first; `isBack` where they are as they were before it. */
  since: z.array(z.strictObject({ item: idSchema, isBack: z.boolean(), rows: z.array(trailRowSchema) })),
  /** The readings around the figures that its rule compares them with. */
  reading: z
    .strictObject({
      item: idSchema,
      field: idSchema,
      lines: z.array(z.number()),
      points: z.array(z.strictObject({ at: whenSchema, value: z.number() })),
    })
    .nullable(),
});
/** One message whole: what it says, who has it, what follows, who else was told, and what happened since. */
export type MessagePage = z.output<typeof messagePageSchema>;

const inboxQuerySchema = z.object({
  unread: z.enum(['1']).optional(),
  waits: z.enum(['1']).optional(),
  text: z.string().max(200).optional(),
  rule: idSchema.optional(),
  source: idSchema.optional(),
  urgency: urgencySchema.optional(),
  by: z.string().max(140).optional(),
  before: z.string().max(80).optional(),
});
const messageIdsSchema = z.array(messageIdSchema).min(1).max(500);
const messagesSchema = z.strictObject({ ids: messageIdsSchema });
const readSchema = z.union([messagesSchema, z.strictObject({ all: z.literal(true) })]);
const unreadSchema = z.strictObject({ unread: z.number().int() });

/** What is passed on, to whom, with a word of one's own. */
export const passSchema = z.strictObject({
  item: idSchema,
  message: messageIdSchema.optional(),
  people: z.array(idSchema).max(200).default([]),
  groups: z.array(idSchema).max(50).default([]),
  word: z.string().trim().max(2000).default(''),
});
/** An item that is passed on, as a message told of it or as it stands, and to whom. */
export type Passing = z.input<typeof passSchema>;
/** A word in a thread: 1 to 2000 signs. */
export const saySchema = z.strictObject({ words: z.string().trim().min(1).max(2000) });
const passCheckSchema = z.strictObject({ may: z.array(idSchema), mayNot: z.array(idSchema) });
const threadPageSchema = z.strictObject({
  id: z.string(),
  item: z.strictObject({ id: idSchema, title: z.string(), source: idSchema }),
  beganBy: idSchema,
  at: whenSchema,
  people: z.array(idSchema),
  words: z.array(z.strictObject({ person: idSchema, at: whenSchema, words: z.string() })),
});
/** What those say to whom something was passed on. */
export type ThreadPage = z.output<typeof threadPageSchema>;

/** What the routes of Today, inbox, messages and threads take and answer. */
export const inboxRoutes = {
  'today.read': { query: z.object({ since: z.iso.datetime({ offset: true }) }), answer: todayPageSchema },
  'inbox.list': { query: inboxQuerySchema, answer: inboxPageSchema },
  'inbox.markRead': { body: readSchema, answer: unreadSchema },
  'inbox.markUnread': { body: messagesSchema, answer: unreadSchema },
  'inbox.acknowledge': { body: messagesSchema, answer: unreadSchema },
  'messages.read': { answer: messagePageSchema },
  'threads.check': { body: passSchema, answer: passCheckSchema },
  'threads.begin': {
    body: passSchema,
    answer: z.strictObject({ thread: z.string(), told: z.array(idSchema), mayNot: z.array(idSchema) }),
  },
  'threads.read': { answer: threadPageSchema },
  'threads.say': { body: saySchema, answer: threadPageSchema },
} as const satisfies Record<string, RouteContract>;
