import { actOnItems } from '../../acts/index.ts';
import { visibleSource } from '../../access/index.ts';
import type { Handlers } from '../register.ts';

/** What is done with items beside editing their fields: comments, and all that befalls a document. */
export const itemActHandlers: Handlers<'items.acts'> = {
  async 'items.acts'(context, { params, body, asking, editKey }) {
    const source = visibleSource(params.source, asking);
    const { ids, act } = body;
    const mentions =
      act.act === 'comment' ? { mentions: act.mentions.filter((one) => asking.directory.people.has(one)) } : {};
    const done = await actOnItems(context, source, { ids, act: { ...act, ...mentions } }, asking, editKey);
    for (const change of done.changes) context.wake(change);
    const { locale } = asking.me;
    return {
      batch: done.batch,
      results: done.outcomes.map(({ id, outcome, refusal }) => {
        const problem = refusal?.toProblem(locale);
        return { id, outcome, why: problem ? { title: problem.title, detail: problem.detail ?? null } : null };
      }),
    };
  },
};
