import type { Pool } from 'mysql2/promise';
import type { MessageRow } from '../../contract/wire/index.ts';
import type { Message } from '../../core/decide/index.ts';
import { mayRead } from '../../core/people/index.ts';
import { forPages } from '../../core/messages/index.ts';
import { printInstant } from '../../core/time/index.ts';
import { itemsOf, messageRow } from '../access/index.ts';
import { type Clock, type Complaints, Loop } from '../kit/index.ts';
import {
  type DirectoryCache,
  messageId,
  one,
  rows,
  run,
  several,
  store,
  type StoredChange,
  worldOf,
} from '../store/index.ts';
import type { Hub } from './hub.ts';

/** Rows can become visible out of the order of their numbers: so many before the newest are looked at again. */
const OVERLAP = 200;
/** What has been told is remembered for at least so many more. */
const REMEMBERED = 10_000;
/** Announcements that nobody can have missed any more. */
const SWEEP_MS = 60_000;

/** Remembers the last of what it was given, some thousands at least, and no more than twice as many. */
class Recent<T> {
  private current = new Set<T>();
  private before = new Set<T>();

  has = (one: T): boolean => this.current.has(one) || this.before.has(one);

  add(one: T): void {
    this.current.add(one);
    if (this.current.size <= REMEMBERED) return;
    this.before = this.current;
    this.current = new Set();
  }
}

/** What of one table has been seen: rows are looked at once, whatever order they become visible in. */
class Window {
  private readonly seen = new Recent<number>();
  newest = 0;

  get from(): number {
    return Math.max(0, this.newest - OVERLAP);
  }

  /** Those of the rows that are new here; all are seen from now on. */
  fresh<T extends { seq: number }>(found: readonly T[]): T[] {
    const fresh = found.filter((row) => !this.seen.has(row.seq));
    for (const { seq } of found) this.seen.add(seq);
    this.newest = Math.max(this.newest, ...found.map(({ seq }) => seq));
    return fresh;
  }
}

export interface RelayParts {
  pool: Pool;
  clock: Clock;
  hub: Hub;
  directory: DirectoryCache;
  complaints: Complaints;
}

/**
 * Tells the pages open at this process of what other processes did: messages that arrived, items that changed, and
 * what was announced. What this process did itself it is told at once.
 */
export class Relay {
  private readonly loop: Loop;
  /** Messages that have been handed to the pages here, by id. */
  private readonly handed = new Recent<string>();
  /** Changes whose items pages here have been told of, by number. */
  private readonly told = new Recent<number>();
  private readonly messages = new Window();
  private readonly changes = new Window();
  private readonly announcements = new Window();
  private swept = 0;

  constructor(private readonly parts: RelayParts) {
    this.loop = new Loop('relay', () => this.look(), 500, parts.complaints);
  }

  async start(): Promise<void> {
    const { pool } = this.parts;
    this.messages.newest = (await one(pool, store.messages.newestSeq())) ?? 0;
    this.changes.newest = (await one(pool, store.changes.newestSeq())) ?? 0;
    this.announcements.newest = (await one(pool, store.pageEvents.newest())) ?? 0;
    const [messages, changes, announcements] = await this.read();
    this.messages.fresh(messages);
    this.changes.fresh(changes);
    this.announcements.fresh(announcements);
    this.loop.start();
  }

  stop = () => this.loop.stop();

  /** Hands over messages that have just been committed here; each once. */
  tell(messages: readonly Message[]): void {
    for (const message of messages)
      this.hand(message.to, {
        id: messageId(message),
        at: printInstant(message.at),
        form: message.form,
        urgency: message.urgency,
        subject: message.subject,
        content: forPages(message.content),
        readAt: null,
      });
  }

  /** Tells of items that have just changed here. */
  async tellItems(changes: readonly StoredChange[]): Promise<void> {
    const { pool, hub, directory } = this.parts;
    for (const { seq } of changes) this.told.add(seq);
    const present = hub.present();
    if (present.length === 0) return;
    const world = worldOf(await directory.current(pool), new Map());
    for (const change of changes) {
      const place = { source: change.source, folder: change.folder, fields: change.after ?? change.before ?? {} };
      for (const person of present)
        if (mayRead(person, place, world))
          hub.tell(person, { event: 'item', source: change.source, item: change.item });
    }
  }

  private hand(person: string, message: MessageRow): void {
    if (this.handed.has(message.id)) return;
    this.handed.add(message.id);
    this.parts.hub.tell(person, { event: 'message', message });
  }

  private read() {
    return several(this.parts.pool, [
      store.messages.arrived(this.messages.from),
      store.changes.places(this.changes.from),
      store.pageEvents.after(this.announcements.from),
    ]);
  }

  private async look(): Promise<boolean> {
    const { hub } = this.parts;
    const [messages, changes, announcements] = await this.read();
    const arrived = this.messages
      .fresh(messages)
      .filter(({ id, person }) => !this.handed.has(id) && hub.isPresent(person));
    if (arrived.length > 0) await this.handArrived(arrived.map(({ id }) => id));
    await this.lookAtItems(this.changes.fresh(changes).filter(({ seq }) => !this.told.has(seq)));
    for (const { server, event, people } of this.announcements.fresh(announcements))
      if (server !== hub.server) hub.tellHere(event, people);
    await this.endSessions();
    await this.sweep();
    return false;
  }

  /** Hands over what arrived by another process, as its reader may read it by now. */
  private async handArrived(ids: string[]): Promise<void> {
    const { pool, directory } = this.parts;
    const messages = await rows(pool, store.messages.byIds(ids));
    const items = [...new Set(itemsOf(messages))];
    const found = items.length === 0 ? [] : await rows(pool, store.items.byIds(items));
    const known = new Map(found.map((item) => [item.id, item]));
    const world = worldOf(await directory.current(pool), known);
    const mayReadIt = (person: string, id: string) => {
      const item = known.get(id);
      return item !== undefined && mayRead(person, item, world);
    };
    for (const message of messages) {
      const readable = new Set(items.filter((id) => mayReadIt(message.person, id)));
      this.hand(message.person, messageRow(message, readable));
    }
  }

  /** Pages whose session has ended, wherever it was ended, end with it. */
  private async endSessions(): Promise<void> {
    const { pool, hub, clock } = this.parts;
    const open = hub.sessions();
    if (open.length === 0) return;
    const standing = new Set(await rows(pool, store.sessions.standing(open, clock.now())));
    hub.end(new Set(open.filter((session) => !standing.has(session))));
  }

  /** Items that changed at another process, for those here who may read them as they stand. */
  private async lookAtItems(places: readonly { source: string; item: string }[]): Promise<void> {
    const { pool, hub, directory } = this.parts;
    const present = hub.present();
    if (places.length === 0 || present.length === 0) return;
    const world = worldOf(await directory.current(pool), new Map());
    const items = await rows(pool, store.items.byIds([...new Set(places.map(({ item }) => item))]));
    for (const item of items)
      for (const person of present)
        if (mayRead(person, item, world)) hub.tell(person, { event: 'item', source: item.source, item: item.id });
  }

  private async sweep(): Promise<void> {
    const now = this.parts.clock.now();
    if (now - this.swept < SWEEP_MS) return;
    this.swept = now;
    await run(this.parts.pool, store.pageEvents.sweep(now - SWEEP_MS));
  }
}
