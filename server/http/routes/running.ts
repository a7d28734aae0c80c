import { Refusal } from '../../../contract/problems.ts';
import { KEPT, type KeptFor } from '../../../contract/wire/index.ts';
import { DAY_MS, dateIn } from '../../../core/time/index.ts';
import { resumeAddresses, setUp } from '../../acts/index.ts';
import { when, whenOrNull } from '../../access/index.ts';
import { type Directory, rows, several, store } from '../../store/index.ts';
import type { Handlers } from '../register.ts';

/** What was taken away is told of so many days. */
const CLEANED_DAYS = 7;

/** How Ojo runs, at a glance, for stewards. */
export const runningHandlers: Handlers<'running.read' | 'running.resumeAddress' | 'running.keep'> = {
  async 'running.read'({ pool, clock }, { asking: { me, directory } }) {
    if (me.role !== 'steward') throw new Refusal('notAllowed', { because: 'runningIsForStewards' });
    const now = clock.now();
    const [waiting, fates, tables] = await several(pool, [
      store.running.waiting(now),
      store.running.fatesSince(now - DAY_MS),
      store.running.sizes(),
    ] as const);
    const [kept, cleaned] = await several(pool, [
      store.keeping.days(),
      store.keeping.cleaned(dateIn(now - CLEANED_DAYS * DAY_MS, 'UTC')),
    ] as const);
    const troubles = await rows(pool, store.troubles.untold());
    return {
      at: when(now),
      waiting: waiting.filter(({ count }) => count > 0).map((one) => ({ ...one, oldest: whenOrNull(one.oldest) })),
      fates,
      tables,
      keeping: {
        days: Object.fromEntries(kept.map(({ what, days }) => [what, days])) as KeptFor,
        cleaned,
      },
      cameBack: [...directory.suspended.values()].map(({ since, ...one }) => ({
        ...one,
        since: when(since),
        whose: whoseIs(one.address, directory),
      })),
      silenced: [...directory.people.values()].flatMap(({ silenced, name }) =>
        silenced ? [{ number: silenced, whose: name }] : [],
      ),
      failing: {
        machines: [...directory.webhooks.values()]
          .filter(({ failingSince, isPaused }) => failingSince !== null || isPaused)
          .map(({ name }) => name),
        troubles: troubles.length,
      },
    };
  },

  async 'running.keep'(context, { body, asking }) {
    if (asking.me.role !== 'steward') throw new Refusal('notAllowed', { because: 'runningIsForStewards' });
    await setUp(
      context,
      asking,
      { kind: 'keepingChanged', about: {} },
      KEPT.map((what) => store.keeping.save(what, body[what])),
    );
  },

  async 'running.resumeAddress'({ pool }, { body: { address }, asking: { me } }) {
    if (me.role !== 'steward') throw new Refusal('notAllowed', { because: 'runningIsForStewards' });
    await resumeAddresses(pool, [address]);
  },
};

/** The names of those whose address it is. */
const whoseIs = (address: string, { people, contacts }: Directory): string | null =>
  [
    ...[...people.values()].filter(({ suspended }) => suspended?.includes(address)),
    ...[...contacts.values()].filter(({ email }) => email?.trim().toLowerCase() === address),
  ]
    .map(({ name }) => name)
    .join(', ') || null;
