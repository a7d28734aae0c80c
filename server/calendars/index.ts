import ical, { type ICalCalendarData } from 'ical-generator';
import { itemPath, type Site } from '../../core/messages/index.ts';
import { isCivilDate } from '../../core/time/index.ts';
import type { StoredItem } from '../store/index.ts';

/** An item with its day (RFC 3339, full-date) or instant, and what is said of it. */
export interface DatedItem {
  item: Pick<StoredItem, 'id' | 'title' | 'version' | 'lastAt'>;
  when: string;
  words: string;
}

/** What a calendar is called, where its items are looked at, and after how many seconds it is asked for again. */
interface CalendarHead {
  name: string;
  site: Site;
  againS: number;
}

const OWN_PROPERTIES = /^X-[^\r\n]*(\r\n [^\r\n]*)*\r\n/gm;

/** Dated items as a calendar (RFC 5545): a day is a whole day in every zone, an instant stands in UTC. */
export function calendarOf({ name, site, againS }: CalendarHead, items: readonly DatedItem[]): string {
  const data: ICalCalendarData = {
    name,
    prodId: { company: site.name, product: 'Ojo' },
    ttl: againS,
    events: items.map(({ item, when, words }) => {
      const isDay = isCivilDate(when);
      return {
        id: `${item.id}@${new URL(site.base).hostname}`,
        sequence: item.version,
        // The calendar says the same until the item does not.
        stamp: new Date(item.lastAt),
        lastModified: new Date(item.lastAt),
        start: new Date(isDay ? `${when}T00:00:00Z` : when),
        allDay: isDay,
        // A day's own date, wherever the server stands.
        timezone: 'UTC',
        summary: item.title,
        description: words,
        url: site.base + itemPath(item.id),
      };
    }),
  };
  // What no standard knows (RFC 5545, RFC 7986) says nothing that the others do not.
  return ical(data).toString().replace(OWN_PROPERTIES, '');
}
