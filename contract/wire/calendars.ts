import { z } from 'zod';
import type { RouteContract } from './route.ts';
import { idSchema } from './shared.ts';

const askedSchema = z.strictObject({
  text: z.string().max(200).optional(),
  /** A state test, as JSON. */
  where: z.string().max(8000).optional(),
});
const feedSchema = z.strictObject({ id: idSchema, link: z.string(), field: idSchema, asked: askedSchema });
/** A dated list as calendar programs ask for it, by an address of one's own. */
export type CalendarFeedRow = z.output<typeof feedSchema>;

/** What the routes of one's own calendar feeds take and answer. */
export const calendarRoutes = {
  'calendars.list': { answer: z.array(feedSchema) },
  'calendars.add': {
    body: z.strictObject({ field: idSchema, asked: askedSchema }),
    answer: feedSchema,
    status: 201,
    problems: ['badValues'],
  },
  'calendars.drop': {},
} as const satisfies Record<string, RouteContract>;
