import { z } from 'zod';
import { printInstant } from '../../core/time/index.ts';
import type { Change } from '../../core/values/index.ts';
import { idSchema } from './rule.ts';

const TYPE = 'ojo.item.';

/** A change on the wire: an event of CloudEvents 1.0 in its JSON format. `(source, id)` identifies it, `subject` is the item, `type` ends in the kind. */
export const cloudEventSchema = z.looseObject({
  specversion: z.literal('1.0'),
  id: idSchema,
  source: z.string().min(1),
  type: z.string().startsWith(TYPE),
  subject: idSchema,
  time: z.string(),
  datacontenttype: z.literal('application/json').optional(),
  data: z.record(z.string(), z.unknown()),
});

/** The document of a change that an event carries; attributes that Ojo does not know are left out. */
export function fromCloudEvent(event: z.output<typeof cloudEventSchema>): Record<string, unknown> {
  return {
    ...event.data,
    id: event.id,
    source: decodeURIComponent(event.source),
    item: event.subject,
    kind: event.type.slice(TYPE.length),
    at: event.time,
  };
}

/** A change as an event on the wire; `fromCloudEvent` reads it back. */
export function toCloudEvent({
  id,
  source,
  item,
  kind,
  at,
  actor,
  before,
  after,
  folder,
  folderBefore,
  batch,
  detail,
}: Change): z.input<typeof cloudEventSchema> {
  return {
    specversion: '1.0',
    id,
    source: encodeURIComponent(source),
    type: TYPE + kind,
    subject: item,
    time: printInstant(at),
    datacontenttype: 'application/json',
    data: { actor, before, after, folder, folderBefore, batch, detail },
  };
}
