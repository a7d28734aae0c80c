import type { ThreadPage } from '../../../contract/wire/index.ts';
import { when } from '../../access/index.ts';
import { passOn, readersAmong, readThread, sayInThread } from '../../acts/index.ts';
import { several, store, type StoredItem, type Thread } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';

/** Passing an item or a message on to colleagues, with a word of one's own, and the thread that follows. */
export const threadHandlers: Handlers<'threads.check' | 'threads.begin' | 'threads.read' | 'threads.say'> = {
  async 'threads.check'(context, { body, asking }) {
    const { may, mayNot } = await readersAmong(context, body, asking);
    return { may, mayNot };
  },

  async 'threads.begin'(context, { body, asking }) {
    const { thread, may, mayNot } = await passOn(context, body, asking);
    return { thread: thread.id, told: may, mayNot };
  },

  async 'threads.read'(context, { params, asking }) {
    return threadPage(context, await readThread(context, params.id, asking));
  },

  async 'threads.say'(context, { params, body, asking }) {
    const found = await readThread(context, params.id, asking);
    await sayInThread(context, found, body.words, asking);
    return threadPage(context, found);
  },
};

async function threadPage(
  { pool }: Context,
  { thread, item }: { thread: Thread; item: StoredItem },
): Promise<ThreadPage> {
  const [people, words] = await several(pool, [store.threads.people(thread.id), store.threads.words(thread.id)]);
  return {
    id: thread.id,
    item: { id: item.id, title: item.title, source: item.source },
    beganBy: thread.beganBy,
    at: when(thread.at),
    people,
    words: words.map((said) => ({ ...said, at: when(said.at) })),
  };
}
