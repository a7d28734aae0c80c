import { randomBytes } from 'node:crypto';
import { Refusal } from '../../../contract/problems.ts';
import type { CalendarFeedRow } from '../../../contract/wire/index.ts';
import { fieldOf, isTemporalType } from '../../../core/values/index.ts';
import { visibleSource } from '../../access/index.ts';
import { originNow } from '../../kit/index.ts';
import { type CalendarFeed, inTransaction, newId, rows, run, runAll, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { listItems, listingOf } from '../listing.ts';
import type { Handlers } from '../register.ts';

/** So many feeds of one source somebody has at once. */
const MOST = 20;

/** Dated lists for calendar programs, each by an address of one's own that shows what its owner may read. */
export const calendarHandlers: Handlers<'calendars.list' | 'calendars.add' | 'calendars.drop'> = {
  async 'calendars.list'(context, { params, asking }) {
    const { id } = visibleSource(params.source, asking);
    const feeds = await rows(context.pool, store.calendars.ofPerson(asking.me.id, id));
    return feeds.map((feed) => rowOf(feed, context));
  },

  async 'calendars.add'(context, { params, body: { field: id, asked }, asking }) {
    const { pool, clock } = context;
    const source = visibleSource(params.source, asking);
    const field = fieldOf(source, id);
    if (!field || !isTemporalType(field.type))
      throw new Refusal('badValues', {
        faults: [{ code: 'needsDateField', path: 'field', params: { field: field?.name ?? id } }],
      });
    // What could not be listed is refused now, not to a calendar program later.
    await listItems(context, source, listingOf(asked), asking, { limit: 1, offset: 0 });
    const known = await rows(pool, store.calendars.ofPerson(asking.me.id, source.id));
    if (known.length >= MOST) throw new Refusal('badRequest', { because: 'manyFeeds' });
    const now = clock.now();
    const feed: CalendarFeed = {
      id: newId(now),
      token: randomBytes(24).toString('hex'),
      person: asking.me.id,
      source: source.id,
      field: id,
      asked: asked as CalendarFeed['asked'],
    };
    await inTransaction(pool, (on) =>
      runAll(on, [
        store.calendars.add(feed, now),
        store.audit.add({
          at: now,
          kind: 'exported',
          actor: asking.me.id,
          origin: originNow(),
          about: { source: source.name, rows: 0, as: 'ics' },
        }),
      ]),
    );
    return rowOf(feed, context);
  },

  async 'calendars.drop'({ pool }, { params, asking }) {
    const done = await run(pool, store.calendars.remove(params.id, asking.me.id));
    if (done.affectedRows === 0) throw new Refusal('notFound');
  },
};

const rowOf = ({ id, token, field, asked }: CalendarFeed, { site }: Pick<Context, 'site'>): CalendarFeedRow => ({
  id,
  link: `${site.base}/calendar/${token}.ics`,
  field,
  asked,
});
