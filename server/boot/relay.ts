import type { Pool } from 'mysql2/promise';
import type { Logger } from 'pino';
import type { Hub } from '../http/index.ts';
import { type Arrival, Loop } from '../runner/index.ts';
import { arrivedQuery, newestSeqQuery, one, rows, unreadQuery } from '../store/index.ts';

/** Rows may become visible out of their order by as much as transactions overlap; that far back is looked again. */
const OVERLAP = 200;

/**
 * Tells open pages of in-app messages. Those decided here are told at once; those that another process decided
 * are found in the database, within half a second.
 */
export class Relay {
  private readonly loop: Loop;
  private seen = new Set<string>();
  private newest = 0;

  constructor(private readonly pool: Pool, private readonly hub: Hub, log: Logger) {
    this.loop = new Loop('relay', () => this.look(), 500, log);
  }

  async start(): Promise<void> {
    this.newest = Number((await one<{ seq: number }>(this.pool, newestSeqQuery()))?.seq ?? 0);
    for (const row of await rows<{ id: string }>(this.pool, arrivedQuery(this.newest - OVERLAP))) this.seen.add(row.id);
    this.loop.start();
  }

  stop = () => this.loop.stop();

  /** Tells those people's open pages; each message once. */
  tell(arrivals: Arrival[]): void {
    const present = new Set(this.hub.present());
    for (const { message, person } of arrivals) {
      if (this.seen.has(message)) continue;
      this.seen.add(message);
      if (present.has(person)) void this.count(person, message);
    }
  }

  private async count(person: string, message: string): Promise<void> {
    const count = await one<{ unread: number }>(this.pool, unreadQuery(person));
    this.hub.tell(person, { event: 'message', id: message, unread: Number(count?.unread ?? 0) });
  }

  private async look(): Promise<boolean> {
    const found = await rows<{ seq: number; id: string; person_id: string }>(this.pool, arrivedQuery(this.newest - OVERLAP));
    this.tell(found.map((row) => ({ message: row.id, person: row.person_id })));
    this.newest = Math.max(this.newest, ...found.map((row) => Number(row.seq)));
    // Ids that have left the window are not found again.
    if (this.seen.size > 20_000) this.seen = new Set(found.map((row) => row.id));
    return false;
  }
}
