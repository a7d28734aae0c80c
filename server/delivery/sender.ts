import type { Pool } from 'mysql2/promise';
import type { Logger } from 'pino';
import { htmlMail, type Site, wordsOf } from '../../core/messages/index.ts';
import { type Channel, mayRead } from '../../core/people/index.ts';
import { backOff, type Clock, Loop } from '../runner/index.ts';
import { claimSendQuery, type Directory, type DirectoryCache, fateQuery, inTransaction, itemsQuery, leaseQuery, retryQuery, rows, run, runAll, type StoredItem, type StoredMessage, toItem, toMessage, withholdQuery, worldOf } from '../store/index.ts';
import { type Carrier, DeliveryError, type Parcel } from './carrier.ts';

export interface SenderParts {
  pool: Pool;
  directory: DirectoryCache;
  site: Site;
  clock: Clock;
  log: Logger;
  carriers: Record<Exclude<Channel, 'inApp'>, Carrier>;
  /** A message has met its fate. */
  onFate(message: StoredMessage): void;
}

const BATCH = 20;
/** Longer than a carrier can take, so that a lease runs out only when its sender is dead. */
const LEASE_MS = 90_000;
/** About four hours of trying with the back-off's doubling. */
const MOST_TRIES = 12;

/** Claims outgoing messages by a lease, carries them, and records their fate; a dead sender's messages are taken up by the next. */
export class Sender {
  private readonly loop: Loop;

  constructor(private readonly parts: SenderParts) {
    this.loop = new Loop('sender', () => this.turn(), 1000, parts.log);
  }

  start = () => this.loop.start();
  wake = () => this.loop.wake();

  async stop(): Promise<void> {
    await this.loop.stop();
    for (const carrier of Object.values(this.parts.carriers)) carrier.close();
  }

  /** Sends everything that is due now; returns when nothing is left. */
  async drain(): Promise<void> {
    while (await this.turn()) { /* the turn did something */ }
  }

  private async turn(): Promise<boolean> {
    const { pool, clock, directory } = this.parts;
    const claimed = await inTransaction(pool, async (on) => {
      const found = (await rows(on, claimSendQuery(clock.now(), BATCH))).map(toMessage);
      if (found.length > 0) await run(on, leaseQuery(found.map((one) => one.id), clock.now() + LEASE_MS));
      return found;
    });
    if (claimed.length === 0) return false;
    const world = await directory.current(pool);
    const ids = [...new Set(claimed.flatMap((message) => message.content.entries.map((entry) => entry.item.id)))];
    const items = new Map((ids.length > 0 ? await rows(pool, itemsQuery(ids)) : []).map(toItem).map((item) => [item.id, item]));
    await Promise.all(claimed.map((message) => this.send(message, world, items)));
    return true;
  }

  private async send(message: StoredMessage, world: Directory, items: Map<string, StoredItem>): Promise<void> {
    const { pool, clock, carriers, log } = this.parts;
    try {
      if (message.channel === 'inApp') return;
      if (!isStillReadable(message, world, items)) {
        await runAll(pool, [fateQuery(message.id, 'withheld', clock.now(), 'noAccess'), withholdQuery(message.id, 'noAccess', clock.now())]);
        return;
      }
      const reply = await carriers[message.channel].carry(this.parcel(message, world));
      await run(pool, fateQuery(message.id, 'delivered', clock.now(), reply));
    } catch (error) {
      const tries = message.tries + 1;
      const isForGood = error instanceof DeliveryError ? !error.isTemporary || tries >= MOST_TRIES : tries >= MOST_TRIES;
      log.warn({ err: error, message: message.id, tries }, isForGood ? 'a message failed for good' : 'a message is tried again later');
      const reply = error instanceof Error ? error.message : String(error);
      await run(pool, isForGood ? fateQuery(message.id, 'failed', clock.now(), reply) : retryQuery(message.id, backOff(tries, clock.now()), reply));
    } finally {
      this.parts.onFate(message);
    }
  }

  private parcel(message: StoredMessage, world: Directory): Parcel {
    const wantsHtml = world.people.get(message.person)?.plan?.emailFormat !== 'text';
    const html = message.channel === 'email' && wantsHtml ? htmlMail(message.content, this.parts.site) : null;
    const text = message.body ?? wordsOf(message.content, message.channel, this.parts.site);
    return { id: message.id, channel: message.channel, address: message.address, subject: message.subject, text, html, at: message.at };
  }
}

/** Judged at the moment of sending: the person is still here and may still read everything the message speaks of. */
function isStillReadable(message: StoredMessage, world: Directory, items: Map<string, StoredItem>): boolean {
  if (!world.people.get(message.person)?.active) return false;
  return message.content.entries.every(({ item }) => {
    const stored = items.get(item.id);
    return stored === undefined || mayRead(message.person, stored, worldOf(world, items));
  });
}
