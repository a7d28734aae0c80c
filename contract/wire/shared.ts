import { z } from 'zod';
import { WITHHELD_REASONS } from '../../core/decide/index.ts';
import { CHANNELS, type Channel, type Reason } from '../../core/people/index.ts';
import { idSchema, urgencySchema, valueSchema } from '../documents/index.ts';

/** An instant on the wire: ISO 8601 in UTC. */
export type When = string;
/** An instant, ISO 8601 in UTC. */
export const whenSchema = z.iso.datetime();

/** A person's id, a contact's or a webhook's; outside addresses are as long as addresses may be. */
export const recipientIdSchema = z.string().min(1).max(270);
/** Whoever changes something: a person's id, or a system's name. */
export const actorSchema = z.string().max(140);
/** A message's id: 26 signs of Crockford's base 32. */
export const messageIdSchema = z.string().length(26);
/** By what a message goes. */
export const channelSchema: z.ZodType<Channel> = z.enum(CHANNELS);
/** What became of a message on its way out. */
export const fateSchema = z.enum(['waiting', 'sending', 'delivered', 'failed', 'withheld']);
export type Fate = z.output<typeof fateSchema>;
/** What somebody may do in Ojo. */
export const roleSchema = z.enum(['member', 'coordinator', 'steward']);
/** Why somebody did not hear. */
export const withheldReasonSchema = z.enum(WITHHELD_REASONS);

/** Why somebody was reached. */
export const reasonSchema: z.ZodType<Reason> = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('person') }),
  z.strictObject({ kind: z.literal('group'), group: idSchema }),
  z.strictObject({ kind: z.literal('field'), field: idSchema }),
  z.strictObject({ kind: z.literal('linked'), linked: idSchema, field: idSchema }),
  z.strictObject({ kind: z.literal('creator') }),
  z.strictObject({ kind: z.literal('lastEditor') }),
  z.strictObject({ kind: z.literal('follower') }),
  z.strictObject({ kind: z.literal('mentioned') }),
  z.strictObject({ kind: z.literal('managerOf'), person: idSchema }),
  z.strictObject({ kind: z.literal('address') }),
  z.strictObject({ kind: z.literal('told') }),
]);

/** An item as it is named where it is not shown. */
export const itemNameSchema = z.strictObject({ id: idSchema, title: z.string(), source: idSchema });
/** A thing with its name. */
export const namedSchema = z.strictObject({ id: idSchema, name: z.string() });
/** Titles of linked items that the reader may see, by id. */
export const titlesSchema = z.record(z.string(), z.string());
/** An item's fields, by the field's id. */
export const fieldsSchema = z.record(idSchema, valueSchema);
export { idSchema, urgencySchema };

/** An address that mail came back from for good, since when, in the receiving server's words. */
export const cameBackSchema = z.strictObject({ address: z.string(), since: whenSchema, reply: z.string() });
export type CameBack = z.output<typeof cameBackSchema>;

/** How a text travels: its alphabet, its length in that alphabet's units, and in how many segments. */
export const segmentsSchema = z.strictObject({
  alphabet: z.enum(['GSM-7', 'UCS-2']),
  units: z.number().int(),
  count: z.number().int(),
});
