import { randomBytes } from 'node:crypto';
import { Refusal } from '../../../contract/problems.ts';
import { DAY_MS } from '../../../core/time/index.ts';
import { when, whenOrNull } from '../../access/index.ts';
import { digestOfToken, originNow } from '../../kit/index.ts';
import { inTransaction, newId, rows, runAll, store } from '../../store/index.ts';
import type { Handlers } from '../register.ts';
import { TOKEN } from '../session.ts';

/** So many tokens somebody has at most. */
const MOST = 50;

/** What lets programs of one's own ask in one's name: made, listed and ended by whoever is signed in. */
export const tokenHandlers: Handlers<'tokens.list' | 'tokens.make' | 'tokens.end'> = {
  async 'tokens.list'({ pool }, { asking: { me } }) {
    const found = await rows(pool, store.tokens.ofPerson(me.id));
    return found.map(({ person: _, madeAt, expiresAt, usedAt, ...token }) => ({
      ...token,
      madeAt: when(madeAt),
      expiresAt: when(expiresAt),
      usedAt: whenOrNull(usedAt),
    }));
  },

  async 'tokens.make'({ pool, clock }, { body: { name, scope, days }, asking: { me } }) {
    if ((await rows(pool, store.tokens.ofPerson(me.id))).length >= MOST) throw new Refusal('tooMany');
    const now = clock.now();
    const token = TOKEN + randomBytes(24).toString('hex');
    const made = { id: newId(now), person: me.id, name, scope, madeAt: now, expiresAt: now + days * DAY_MS };
    await inTransaction(pool, (on) =>
      runAll(on, [
        store.tokens.create(made, digestOfToken(token)),
        store.audit.add({ at: now, actor: me.id, origin: originNow(), kind: 'tokenMade', about: { name } }),
      ]),
    );
    return { id: made.id, token };
  },

  async 'tokens.end'({ pool, clock }, { params, asking: { me } }) {
    const known = (await rows(pool, store.tokens.ofPerson(me.id))).find(({ id }) => id === params.id);
    if (!known) throw new Refusal('notFound');
    await inTransaction(pool, (on) =>
      runAll(on, [
        store.tokens.end(known.id, me.id),
        store.audit.add({
          at: clock.now(),
          actor: me.id,
          origin: originNow(),
          kind: 'tokenEnded',
          about: { name: known.name },
        }),
      ]),
    );
  },
};
