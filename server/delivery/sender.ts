import type { Pool } from 'mysql2/promise';
import type { Logger } from 'pino';
import { asksFor, htmlMail, type Letter, plainLetter, type Site, wordsOf } from '../../core/messages/index.ts';
import type { WithheldReason } from '../../core/decide/index.ts';
import { type Channel, contactAt, hasLeft, mayRead } from '../../core/people/index.ts';
import { printInstant } from '../../core/time/index.ts';
import { backOff, type Clock, Loop } from '../kit/index.ts';
import { bareNumber, claimSendQuery, type Directory, type DirectoryCache, fateQuery, inTransaction, itemsQuery, leaseQuery, retryQuery, rows, run, runAll, type StoredItem, type StoredMessage, toItem, toMessage, withholdQuery, worldOf } from '../store/index.ts';
import type { Seals } from '../seals/index.ts';
import { type Carrier, DeliveryError, type Parcel } from './carrier.ts';

export interface SenderParts {
  pool: Pool;
  directory: DirectoryCache;
  site: Site;
  clock: Clock;
  log: Logger;
  seals: Seals;
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
      const against = reasonAgainst(message, world, items);
      if (against) {
        await runAll(pool, [fateQuery(message.id, 'withheld', clock.now(), against), withholdQuery(message.id, against, clock.now())]);
        return;
      }
      const reply = await carriers[message.channel].carry(await this.parcel(message, world));
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

  private async parcel(message: StoredMessage, world: Directory): Promise<Parcel> {
    const { content, channel } = message;
    const letter = channel === 'email' ? await letterOf(message, this.parts) : plainLetter(this.parts.site, message.id);
    const html = channel === 'email' && !content.isPlain ? htmlMail(content, letter) : null;
    const text = message.body ?? wordsOf(content, channel, letter);
    const hook = channel === 'webhook' ? world.webhooks.get(message.address) : undefined;
    return {
      id: message.id, channel, address: hook?.url ?? message.address, subject: message.subject, text, html, at: message.at,
      ...(content.sender ? { sender: content.sender } : {}), ...(hook ? { secret: hook.secret } : {}), ...(channel === 'webhook' ? { data: dataOf(message) } : {}), ...(letter.leave && content.form !== 'confirm' ? { leave: letter.leave.rule } : {}),
    };
  }
}

/** The links of one email: what it takes to act without signing in is signed, and is this reader's alone. */
async function letterOf({ id, person, recipient, at, content }: Pick<StoredMessage, 'id' | 'person' | 'recipient' | 'at' | 'content'>, { site, seals }: Pick<SenderParts, 'site' | 'seals'>): Promise<Letter> {
  const plain = plainLetter(site, id);
  if (content.form === 'confirm') return { ...plain, whole: `${site.base}/confirm/${await seals.seal({ do: 'confirm', ask: content.ask ?? '' }, at)}`, leave: { rule: '', all: '' } };
  if (recipient === 'person') return asksFor(content) ? { ...plain, acknowledge: `${site.base}/acknowledge/${await seals.seal({ do: 'acknowledge', message: id, person }, at)}` } : plain;
  const leave = `${site.base}/leave/${await seals.seal({ do: 'leave', message: id, contact: person }, at)}`;
  return { ...plain, whole: `${site.base}/message/${await seals.seal({ do: 'look', message: id, contact: person }, at)}`, leave: { rule: leave, all: leave } };
}

/** What a machine is told: the message's facts, without its looks. */
const dataOf = ({ id, at, form, urgency, subject, content }: StoredMessage) => ({
  id, at: printInstant(at), form, urgency, subject,
  items: content.entries.map(({ item, kind, notes, steps, rules }) => ({ item, kind, notes, rules, steps: steps.map(({ change, at: when, kind: what, actor, fields }) => ({ change, at: when, kind: what, actor, fields })) })),
});

/** Judged at the moment of sending: the recipient is still here and may still read everything the message speaks of. */
function reasonAgainst(message: StoredMessage, world: Directory, items: Map<string, StoredItem>): WithheldReason | null {
  // An address is asked for its yes before anything else may go to it.
  if (message.form === 'confirm') return null;
  if (message.channel === 'text' && bareNumber(message.address) !== bareNumber(world.people.get(message.person)?.phone ?? '')) return 'noChannel';
  const owners = message.content.entries.flatMap((entry) => entry.rules.flatMap(({ id }) => ruleOwner(world, id)));
  if (message.recipient === 'person' && !world.people.get(message.person)?.active) return 'inactive';
  if (message.recipient === 'contact') {
    const contact = contactAt(message.person, world);
    if (!contact?.confirmed) return 'unconfirmed';
    if (message.content.entries.some((entry) => entry.rules.some(({ id }) => hasLeft(contact, id)))) return 'unsubscribed';
  }
  const readers = message.recipient === 'person' ? [message.person] : owners;
  const mayReadAll = message.content.entries.every(({ item }) => {
    const stored = items.get(item.id);
    return stored === undefined || readers.every((reader) => mayRead(reader, stored, worldOf(world, items)));
  });
  return mayReadAll ? null : 'noAccess';
}

const ruleOwner = (world: Directory, rule: string): string[] => [...(world.versions.get(rule)?.values() ?? [])].slice(-1).map((compiled) => compiled.rule.owner);
