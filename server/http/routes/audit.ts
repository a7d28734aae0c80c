import { Refusal } from '../../../contract/problems.ts';
import { when } from '../../access/index.ts';
import { rows, store } from '../../store/index.ts';
import type { Handlers } from '../register.ts';

/** So many entries at once. */
const PAGE = 100;

/** What people did in Ojo itself, for stewards. */
export const auditHandlers: Handlers<'audit.list'> = {
  async 'audit.list'({ pool }, { query: { before, kind }, asking: { me } }) {
    if (me.role !== 'steward') throw new Refusal('notAllowed', { because: 'auditIsForStewards' });
    const entries = await rows(pool, store.audit.list(before ?? null, kind ?? null, PAGE));
    return {
      entries: entries.map((entry) => ({ ...entry, at: when(entry.at) })),
      next: entries.length === PAGE ? (entries.at(-1)?.seq ?? null) : null,
    };
  },
};
