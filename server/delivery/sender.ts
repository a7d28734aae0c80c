import { DAY_MS } from '../../core/time/index.ts';
import type { Pool } from 'mysql2/promise';
import type { Logger } from 'pino';
import { itemsIn, type Site } from '../../core/messages/index.ts';
import type { Channel } from '../../core/people/index.ts';
import { backOff, type Clock, Complaints, Loop } from '../kit/index.ts';
import {
  type Directory,
  type DirectoryCache,
  type Fate,
  inTransaction,
  rows,
  run,
  runAll,
  several,
  type Statement,
  type StoredItem,
  type StoredMessage,
  store,
} from '../store/index.ts';
import type { ReportAddresses, SignedLinks } from '../signed-links/index.ts';
import { type Carrier, DeliveryError } from './carrier.ts';
import { asReadable, parcelOf, reasonAgainst } from './parcels.ts';
import { Slots } from './slots.ts';

export type OutChannel = Exclude<Channel, 'inApp'>;

export interface SenderParts {
  pool: Pool;
  directory: DirectoryCache;
  site: Site;
  clock: Clock;
  log: Logger;
  signedLinks: SignedLinks;
  /** Where mail servers report; `null` where Ojo reads no reports. */
  reports: ReportAddresses | null;
  carriers: Record<OutChannel, Carrier>;
  /** A message has met its fate. */
  onFate(message: StoredMessage, fate: Fate): void;
  /** What is written as well where nobody is behind an address. */
  onNobodyThere(message: StoredMessage, reply: string): Promise<Statement[]>;
  /** How long one sending may take in all before its slot is free again, in ms; a test may be less patient. */
  mostMs?: number;
  /** How long sendings may take to end when the server stops, in ms. */
  patienceMs?: number;
}

const OUT: readonly OutChannel[] = ['text', 'email', 'webhook'];
/** Carriers have limits of their own, of seconds; this one holds whatever they do. */
const MOST_MS = 20_000;
/** Longer than a sending can take, so that a lease runs out only when its sender is dead. */
const LEASE_MS = 60_000;
/** A message that cannot be sent is tried for so long, with growing pauses. */
const TRIED_FOR_MS = 3 * DAY_MS;
/** How long sendings may take to end when the server stops; what has not is given back. */
const PATIENCE_MS = 10_000;

/**
 * Claims outgoing messages by a lease, carries them, and records their fate; a dead sender's messages are taken up by
 * the next. Each channel has slots of its own, each message one of them, which is free again after some seconds
 * whatever the other side does; one host takes up a few at most. What is critical goes first.
 */
export class Sender {
  private readonly loop: Loop;
  private readonly slots = new Slots();
  private readonly complaints: Complaints;
  private isOver = false;

  constructor(private readonly parts: SenderParts) {
    this.complaints = new Complaints(parts.log);
    this.loop = new Loop('sender', () => this.turn(), 1000, this.complaints);
  }

  start = () => this.loop.start();
  wake = () => this.loop.wake();

  /** Takes nothing more, waits a while for what is under way, and gives the rest back to whoever sends next. */
  async stop(): Promise<void> {
    this.isOver = true;
    await this.loop.stop();
    await this.slots.idle(this.parts.patienceMs ?? PATIENCE_MS);
    const left = this.slots.messages();
    if (left.length > 0)
      await run(this.parts.pool, store.sending.giveBack(left)).catch((error: unknown) =>
        this.complaints.tell('messages could not be given back; their leases run out by themselves', error),
      );
    for (const carrier of Object.values(this.parts.carriers)) carrier.close();
  }

  /** Sends everything that is due now; returns when nothing is left. */
  async drain(): Promise<void> {
    while (await this.turn()) await this.slots.idle(Number.POSITIVE_INFINITY);
  }

  /** Fills the slots that are free; whether it found anything to send. */
  private async turn(): Promise<boolean> {
    const { pool, directory } = this.parts;
    const world = await directory.current(pool);
    const claimed = (await Promise.all(OUT.map((channel) => this.claim(channel, world)))).flat();
    if (claimed.length === 0) return false;
    const items = await this.itemsOf(claimed);
    for (const message of claimed) {
      this.slots.take(message, hostOf(message, world), this.send(message, world, items), () => {
        if (!this.isOver) this.loop.wake();
      });
    }
    return true;
  }

  /** The items that messages are of; where they cannot be had, the messages are given back at once. */
  private async itemsOf(claimed: StoredMessage[]): Promise<Map<string, StoredItem>> {
    const { pool } = this.parts;
    const ids = [...new Set(itemsIn(claimed.map(({ content }) => content)))];
    if (ids.length === 0) return new Map();
    try {
      return new Map((await rows(pool, store.items.byIds(ids))).map((item) => [item.id, item]));
    } catch (error) {
      // Should this fail as well, their leases run out by themselves.
      await run(pool, store.sending.giveBack(claimed.map(({ id }) => id))).catch(() => undefined);
      throw error;
    }
  }

  /** As many messages of one channel as it has free slots; none for hosts that have theirs filled. */
  private async claim(channel: OutChannel, world: Directory): Promise<StoredMessage[]> {
    const { pool, clock } = this.parts;
    const free = this.slots.freeOf(channel);
    if (free === 0) return [];
    const open = channel === 'webhook' ? await this.openAddresses(world) : [undefined];
    if (open.length === 0) return [];
    return inTransaction(pool, async (on) => {
      const now = clock.now();
      const due = (
        await several(
          on,
          open.flatMap((address) => store.sending.claim(channel, now, free, address)),
        )
      )
        .flat()
        .sort(compareClaims);
      const taken = this.slots.fitting(due, (message) => hostOf(message, world)).slice(0, free);
      const ids = taken.map((one) => one.id);
      if (ids.length > 0) await run(on, store.sending.lease(ids, now, now + LEASE_MS));
      return taken;
    });
  }

  /** The webhooks whose hosts have a slot free. */
  private async openAddresses(world: Directory): Promise<string[]> {
    const known = await rows(this.parts.pool, store.sending.addressesOf('webhook'));
    return known.filter((address) => !this.slots.isFull(hostOfUrl(world.webhooks.get(address)?.url ?? address)));
  }

  /** Carries one message and writes down what became of it; never fails itself. */
  private async send(message: StoredMessage, world: Directory, items: Map<string, StoredItem>): Promise<void> {
    const { pool, clock, carriers } = this.parts;
    let fate: Fate = 'delivered';
    try {
      const against = reasonAgainst(message, world, items);
      if (against) {
        fate = 'withheld';
        await runAll(pool, [
          store.sending.withheldAtLast(message.id, clock.now(), against),
          store.sending.withhold(message.id, against, clock.now()),
        ]);
      } else {
        const carrier = carriers[message.channel as OutChannel];
        const reply = await within(
          this.parts.mostMs ?? MOST_MS,
          parcelOf(asReadable(message, world, items), world, this.parts, clock.now()).then((parcel) =>
            carrier.carry(parcel),
          ),
        );
        await runAll(pool, [
          ...store.sending.taken(message.id, clock.now(), reply),
          ...(message.channel === 'webhook' ? [store.machines.noteSuccess(message.address)] : []),
        ]);
      }
    } catch (error) {
      fate = await this.putBack(message, error).catch((failure: unknown): Fate => {
        this.complaints.tell('what became of a message could not be written down; its lease runs out', failure);
        return 'sending';
      });
    }
    this.parts.onFate(message, fate);
  }

  /** What becomes of a message that was not taken: it waits to be tried again, or has failed. */
  private async putBack(message: StoredMessage, error: unknown): Promise<Fate> {
    const { pool, clock } = this.parts;
    const now = clock.now();
    const next = backOff(message.tries + 1, now);
    const isForGood =
      (error instanceof DeliveryError && !error.isTemporary) || next > (message.firstTryAt ?? now) + TRIED_FOR_MS;
    if (!(error instanceof DeliveryError)) this.complaints.tell('a message could not be made ready to send', error);
    // The other side's words are for the Outbox; what else went wrong may quote what people wrote.
    const reply = error instanceof DeliveryError ? error.message : 'It could not be made ready to send.';
    const isNobodyThere = error instanceof DeliveryError && error.isNobodyThere;
    const follows = isNobodyThere ? await this.parts.onNobodyThere(message, reply) : [];
    const statements = [
      ...(isForGood
        ? store.sending.refused(message.id, now, reply)
        : store.sending.putOff(message.id, now, next, reply)),
      ...follows,
      ...(message.channel === 'webhook' ? [store.machines.noteFailure(message.address, now)] : []),
    ];
    await inTransaction(pool, (on) => runAll(on, statements));
    return isForGood ? 'failed' : 'waiting';
  }
}

/** What is critical goes first, then what has waited longest. */
const compareClaims = (a: StoredMessage, b: StoredMessage): number =>
  Number(b.urgency === 'critical') - Number(a.urgency === 'critical') || a.seq - b.seq;

/** A host takes up slots by its name; of mail and text there is one gateway each. */
const hostOf = ({ channel, address }: StoredMessage, world: Directory): string =>
  channel === 'webhook' ? hostOfUrl(world.webhooks.get(address)?.url ?? address) : channel;
const hostOfUrl = (url: string): string => (URL.canParse(url) ? new URL(url).host : url);

/** What comes of work, or the word that nobody answered once it has taken too long. */
async function within<T>(ms: number, work: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new DeliveryError(`no answer within ${Math.round(ms / 1000)} s`, true)), ms);
  });
  try {
    return await Promise.race([work, late]);
  } finally {
    clearTimeout(timer);
  }
}
