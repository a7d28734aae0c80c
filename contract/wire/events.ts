import { z } from 'zod';
import { messageRowSchema } from './inbox.ts';
import { idSchema } from './shared.ts';

/** What an open page is told the moment it is committed; each is a server-sent event of its `event`'s name. */
export const pageEventSchema = z.discriminatedUnion('event', [
  z.strictObject({ event: z.literal('message'), message: messageRowSchema }),
  z.strictObject({ event: z.literal('item'), source: idSchema, item: idSchema }),
  z.strictObject({ event: z.literal('rules') }),
  z.strictObject({ event: z.literal('outbox') }),
  /** Somebody took on what these people were told of. */
  z.strictObject({ event: z.literal('answered') }),
]);
export type PageEvent = z.output<typeof pageEventSchema>;
