import { randomUUID } from 'node:crypto';
import type { Request, Response } from 'express';
import type { Pool } from 'mysql2/promise';
import type { PageEvent } from '../../contract/wire/index.ts';
import type { Clock } from '../kit/index.ts';
import { run, type Statement, store } from '../store/index.ts';

const BEAT_MS = 20_000;

/** A page that is open, and the session by which it was opened. */
interface OpenPage {
  response: Response;
  session: string;
}

/** The open pages of this process, by person; each gets server-sent events (WHATWG HTML, section 9.2). */
export class Hub {
  private readonly pages = new Map<string, Set<OpenPage>>();
  private readonly beat = setInterval(() => this.keepAlive(), BEAT_MS);
  /** Tells this process from the others that people may be at. */
  readonly server = randomUUID();

  constructor(
    private readonly pool: Pool,
    private readonly clock: Clock,
  ) {}

  /** Keeps a response open for a person's page until it goes away, or its session ends. */
  open(person: string, session: string, request: Request, response: Response): void {
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    request.socket.setNoDelay(true);
    const pages = this.pages.get(person) ?? new Set();
    const page = { response, session };
    this.pages.set(person, pages.add(page));
    this.note([person]);
    request.on('close', () => {
      pages.delete(page);
      if (pages.size > 0 || this.pages.get(person) !== pages) return;
      this.pages.delete(person);
      this.write(store.presence.end(person, this.server));
    });
  }

  /** People with at least one open page here. */
  present(): string[] {
    return [...this.pages.keys()];
  }

  isPresent(person: string): boolean {
    return this.pages.has(person);
  }

  /** Tells a person's pages here. */
  tell(person: string, event: PageEvent): void {
    const text = `event: ${event.event}\ndata: ${JSON.stringify(event)}\n\n`;
    for (const { response } of this.pages.get(person) ?? []) response.write(text);
  }

  /** Tells these people's pages at every process, or with `null` everybody's: here at once, elsewhere within half a second. */
  announce(event: PageEvent, people: readonly string[] | null = null): void {
    this.tellHere(event, people);
    this.write(store.pageEvents.add(this.server, event, people, this.clock.now()));
  }

  /** Tells the pages of this process alone what was announced. */
  tellHere(event: PageEvent, people: readonly string[] | null): void {
    for (const person of people ?? this.present()) this.tell(person, event);
  }

  /** The sessions by which pages are open here. */
  sessions(): string[] {
    return [...new Set([...this.pages.values()].flatMap((pages) => [...pages].map(({ session }) => session)))];
  }

  /** Ends the pages of sessions that are over: whoever is signed out is told nothing more. */
  end(sessions: ReadonlySet<string>): void {
    for (const pages of this.pages.values())
      for (const page of pages)
        if (sessions.has(page.session)) {
          pages.delete(page);
          page.response.end();
        }
  }

  /** Ends all streams with a word to come back soon. */
  close(): void {
    clearInterval(this.beat);
    for (const pages of this.pages.values())
      for (const { response } of pages) response.end('retry: 1000\nevent: closing\ndata: {}\n\n');
  }

  /** Who is here is a row that runs out by itself, should this process end without a word. */
  private note(people: string[]): void {
    if (people.length > 0) this.write(store.presence.note(people, this.server, this.clock.now() + 3 * BEAT_MS));
  }

  private write(statement: Statement): void {
    // Whoever is taken for away hears by email once too often, and a page elsewhere shows it when it asks next; nothing is lost.
    run(this.pool, statement).catch(() => undefined);
  }

  private keepAlive(): void {
    this.note(this.present());
    for (const pages of this.pages.values()) for (const { response } of pages) response.write(': here\n\n');
  }
}
