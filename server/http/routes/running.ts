import { Refusal } from '../../../contract/problems.ts';
import { DAY_MS } from '../../../core/time/index.ts';
import { resumeAddresses } from '../../acts/index.ts';
import { when, whenOrNull } from '../../access/index.ts';
import { type Directory, rows, several, store } from '../../store/index.ts';
import type { Handlers } from '../register.ts';

/** How Ojo runs, at a glance, for stewards. */
export const runningHandlers: Handlers<'running.read' | 'running.resumeAddress'> = {
  async 'running.read'({ pool, clock }, { asking: { me, directory } }) {
    if (me.role !== 'steward') throw new Refusal('notAllowed', { because: 'runningIsForStewards' });
    const now = clock.now();
    const [waiting, fates, tables] = await several(pool, [
      store.running.waiting(now),
      store.running.fatesSince(now - DAY_MS),
      store.running.sizes(),
    ] as const);
    const troubles = await rows(pool, store.troubles.untold());
    return {
      at: when(now),
      waiting: waiting.filter(({ count }) => count > 0).map((one) => ({ ...one, oldest: whenOrNull(one.oldest) })),
      fates,
      tables,
      cameBack: [...directory.suspended.values()].map(({ since, ...one }) => ({
        ...one,
        since: when(since),
        whose: whoseIs(one.address, directory),
      })),
      failing: {
        machines: [...directory.webhooks.values()]
          .filter(({ failingSince, isPaused }) => failingSince !== null || isPaused)
          .map(({ name }) => name),
        troubles: troubles.length,
      },
    };
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
