import { type Request, type Response, Router } from 'express';
import { isTemporalType, fieldOf, formatValue, isEmpty, type Source } from '../../../core/values/index.ts';
import { visibleSources } from '../../access/index.ts';
import { calendarOf, type DatedItem } from '../../calendars/index.ts';
import { one, type Profile, store, type StoredItem } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { listItems, listingOf, MOST_LISTED } from '../listing.ts';

/** Calendar programs ask again after so long, in seconds. */
const AGAIN_S = 1800;

/** The addresses of dated lists, which calendar programs ask for: each shows what its owner may read at that moment. */
export function calendarFeeds(context: Context): Router {
  const routes = Router();
  routes.get('/calendar/:token', (request, response) => sendCalendar(context, request, response));
  return routes;
}

async function sendCalendar(context: Context, request: Request, response: Response): Promise<void> {
  const token = String(request.params.token).replace(/\.ics$/, '');
  const feed = await one(context.pool, store.calendars.byToken(token));
  const directory = await context.directory.current(context.pool);
  const me = directory.people.get(feed?.person ?? '');
  const source = me?.active ? visibleSources(me.id, directory).find(({ id }) => id === feed?.source) : undefined;
  const field = source && fieldOf(source, feed?.field ?? '');
  if (!feed || !me || !source || !field || !isTemporalType(field.type)) return void response.status(404).end();
  const page = { limit: MOST_LISTED, offset: 0 };
  const { items } = await listItems(context, source, listingOf(feed.asked), { me, directory }, page);
  const dated = items.flatMap((item): DatedItem[] => {
    const when = item.fields[field.id];
    return typeof when === 'string' && !isEmpty(when)
      ? [{ item, when, words: wordsOf(item, source, me, directory) }]
      : [];
  });
  const name = `${source.name}: ${field.name}`;
  response
    .set({
      'cache-control': `private, max-age=${AGAIN_S}`,
      'x-robots-tag': 'noindex',
      'x-content-type-options': 'nosniff',
    })
    .type('text/calendar; charset=utf-8')
    .send(calendarOf({ name, site: context.site, againS: AGAIN_S }, dated));
}

/** What an item says in a few lines; items that it leads to are not named there. */
function wordsOf(
  item: StoredItem,
  source: Source,
  me: Profile,
  { people }: { people: ReadonlyMap<string, Profile> },
): string {
  const names = { person: (id: string) => people.get(id)?.name ?? id, item: () => '' };
  return source.fields
    .filter(({ id, type }) => id !== source.titleField && type !== 'longText' && !type.startsWith('link'))
    .flatMap((field) => {
      const words = formatValue(field, item.fields[field.id], me, names);
      return words === '' ? [] : [`${field.name}: ${words}`];
    })
    .join('\n');
}
