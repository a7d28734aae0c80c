import type { Pool } from 'mysql2/promise';
import type { MessageRow } from '../../contract/api.ts';
import type { Message } from '../../core/decide/index.ts';
import { printInstant } from '../../core/time/index.ts';
import type { Hub } from '../http/index.ts';
import { type Complaints, Loop } from '../kit/index.ts';
import {
  arrivedQuery,
  messageId,
  messagesQuery,
  newestSeqQuery,
  one,
  rows,
  type StoredMessage,
  toMessage,
} from '../store/index.ts';

/** Rows may become visible out of their order by as much as transactions overlap; that far back is looked again. */
const OVERLAP = 200;

type Shown = Pick<StoredMessage, 'form' | 'urgency' | 'subject' | 'content'> & { at: number };

/**
 * Hands in-app messages to open pages. Those decided here go at once, whole; those that another process decided
 * are found in the database, within half a second.
 */
export class Relay {
  private readonly loop: Loop;
  private seen = new Set<string>();
  private newest = 0;

  constructor(
    private readonly pool: Pool,
    private readonly hub: Hub,
    complaints: Complaints,
  ) {
    this.loop = new Loop('relay', () => this.look(), 500, complaints);
  }

  async start(): Promise<void> {
    this.newest = Number((await one<{ seq: number }>(this.pool, newestSeqQuery()))?.seq ?? 0);
    for (const row of await rows<{ id: string }>(this.pool, arrivedQuery(this.newest - OVERLAP))) this.seen.add(row.id);
    this.loop.start();
  }

  stop = () => this.loop.stop();

  /** Hands over what has just been committed here; each message once. */
  tell(messages: Message[]): void {
    for (const message of messages) this.hand(messageId(message), message.to, message);
  }

  private hand(id: string, person: string, { at, form, urgency, subject, content }: Shown): void {
    if (this.seen.has(id)) return;
    this.seen.add(id);
    const message: MessageRow = { id, at: printInstant(at), form, urgency, subject, content, readAt: null };
    this.hub.tell(person, { event: 'message', message });
  }

  private async look(): Promise<boolean> {
    const found = await rows<{ seq: number; id: string; person_id: string }>(
      this.pool,
      arrivedQuery(this.newest - OVERLAP),
    );
    const wanted = found
      .filter((row) => !this.seen.has(row.id) && this.hub.isPresent(row.person_id))
      .map((row) => row.id);
    const messages = wanted.length === 0 ? [] : (await rows(this.pool, messagesQuery(wanted))).map(toMessage);
    for (const message of messages) this.hand(message.id, message.person, message);
    for (const row of found) this.seen.add(row.id);
    this.newest = Math.max(this.newest, ...found.map((row) => Number(row.seq)));
    // Ids that have left the window are not found again.
    if (this.seen.size > 20_000) this.seen = new Set(found.map((row) => row.id));
    return false;
  }
}
