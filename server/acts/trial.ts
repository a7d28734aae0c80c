import { Refusal } from '../../contract/problems.ts';
import { type Content, plainLinks, wordsOf } from '../../core/messages/index.ts';
import { addressOf, type Channel } from '../../core/people/index.ts';
import { newId, type Profile, run, store } from '../store/index.ts';
import type { ActContext } from './context.ts';

/** Sends somebody a message of their own making by one channel, so that they see how it reaches them; the address it goes to. */
export async function sendTrial(
  { pool, clock, site, wakeSender }: ActContext,
  me: Profile,
  channel: Exclude<Channel, 'webhook'>,
  contentAt: (now: number) => Content,
): Promise<string> {
  const address = addressOf(me, channel);
  if (address === null)
    throw new Refusal('badRequest', { because: channel === 'text' ? 'noNumberYet' : 'noAddressYet' });
  const now = clock.now();
  const content = contentAt(now);
  const body = channel === 'text' ? wordsOf(content, 'text', plainLinks(site)) : null;
  await run(
    pool,
    store.messages.sendDirect(newId(now), { to: me.id, toKind: 'person', channel, address }, content, now, body),
  );
  wakeSender();
  return address;
}
