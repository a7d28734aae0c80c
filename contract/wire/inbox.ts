import { z } from 'zod';
import { contentSchema, entrySchema, formSchema } from './content.ts';
import type { RouteContract } from './route.ts';
import {
  channelSchema,
  fateSchema,
  idSchema,
  itemNameSchema,
  messageIdSchema,
  namedSchema,
  recipientIdSchema,
  urgencySchema,
  whenSchema,
  withheldReasonSchema,
} from './shared.ts';
import { trailRowSchema } from './trail.ts';

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

/** An item that others changed since: the net of it, and what had it told. */
const movedSchema = z.strictObject({ at: whenSchema, by: z.array(z.string()), entry: entrySchema });
export type MovedItem = z.output<typeof movedSchema>;

/** Something that comes on a day ahead: a date of items of one's own, a date or standstill that a rule will tell, or what follows an alert. */
const comingSchema = z.strictObject({
  what: z.enum(['date', 'due', 'idle', 'report', 'again', 'remind', 'escalate']),
  /** The instant; of a date without an hour the midnight at which its day begins for the reader. */
  at: whenSchema,
  isDay: z.boolean(),
  urgency: urgencySchema,
  /** The date's field, in a source. */
  field: z.strictObject({ source: idSchema, id: idSchema }).nullable(),
  rule: namedSchema.nullable(),
  items: z.array(itemNameSchema),
  /** How many items there are in all; the first of them are named. */
  count: z.number().int(),
  to: z.array(recipientIdSchema),
});
export type Coming = z.output<typeof comingSchema>;

const todayPageSchema = z.strictObject({
  since: whenSchema,
  /** Whether anything reaches them at all: an eye, or a rule that told them lately. */
  hears: z.boolean(),
  /** What waits for them to take it on, with what follows while nobody does. */
  waiting: z.array(messageRowSchema.extend({ next: z.array(nextSchema) })),
  moved: z.array(movedSchema),
  /** How many items moved that are not shown here, and how many that were not for them. */
  more: z.number().int(),
  others: z.number().int(),
  coming: z.array(comingSchema),
  digests: z.array(
    z.strictObject({ at: whenSchema, channels: z.array(channelSchema), items: z.number().int(), first: z.string() }),
  ),
});
/** The first page: what waits for its reader, what moved since an instant in what they hear of, what comes, and what gathers for them. */
export type TodayPage = z.output<typeof todayPageSchema>;

const messagePageSchema = messageRowSchema.extend({
  /** The reader is asked to acknowledge it, and has not yet. */
  waits: z.boolean(),
  /** When it comes again, as its reader asked. */
  again: whenSchema.nullable(),
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
  /** What gathers for the reader's digest at an instant, as it would be told now. */
  'today.gathering': { query: z.object({ at: z.iso.datetime({ offset: true }) }), answer: z.array(entrySchema) },
  'today.read': { query: z.object({ since: z.iso.datetime({ offset: true }) }), answer: todayPageSchema },
  'inbox.list': { query: inboxQuerySchema, answer: inboxPageSchema },
  'inbox.markRead': { body: readSchema, answer: unreadSchema },
  'inbox.markUnread': { body: messagesSchema, answer: unreadSchema },
  'inbox.acknowledge': { body: messagesSchema, answer: unreadSchema },
  /** Tells of these messages once more, in Ojo, at an instant to come. */
  'inbox.again': {
    body: messagesSchema.extend({ when: z.iso.datetime({ offset: true }) }),
    answer: z.strictObject({ when: whenSchema }),
  },
  'messages.read': { answer: messagePageSchema },
  'threads.check': { body: passSchema, answer: passCheckSchema },
  'threads.begin': {
    body: passSchema,
    answer: z.strictObject({ thread: z.string(), told: z.array(idSchema), mayNot: z.array(idSchema) }),
  },
  'threads.read': { answer: threadPageSchema },
  'threads.say': { body: saySchema, answer: threadPageSchema },
} as const satisfies Record<string, RouteContract>;
