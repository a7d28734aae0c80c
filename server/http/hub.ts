import { randomUUID } from 'node:crypto';
import type { Request, Response } from 'express';
import type { Pool } from 'mysql2/promise';
import type { PageEvent } from '../../contract/api.ts';
import type { Clock } from '../kit/index.ts';
import { absentQuery, presentAsQuery, run } from '../store/index.ts';

const BEAT_MS = 20_000;

/** The open pages of this process, by person; each gets server-sent events (WHATWG HTML, section 9.2). */
export class Hub {
  private readonly pages = new Map<string, Set<Response>>();
  private readonly beat = setInterval(() => this.keepAlive(), BEAT_MS);
  /** Tells this process from the others that people may be at. */
  private readonly server = randomUUID();

  constructor(
    private readonly pool: Pool,
    private readonly clock: Clock,
  ) {}

  /** Keeps a response open for a person's page until it goes away. */
  open(person: string, request: Request, response: Response): void {
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    request.socket.setNoDelay(true);
    const pages = this.pages.get(person) ?? new Set();
    this.pages.set(person, pages.add(response));
    this.note([person]);
    request.on('close', () => {
      pages.delete(response);
      if (pages.size > 0) return;
      this.pages.delete(person);
      this.write(absentQuery(person, this.server));
    });
  }

  /** People with at least one open page here. */
  present(): string[] {
    return [...this.pages.keys()];
  }

  isPresent(person: string): boolean {
    return this.pages.has(person);
  }

  tell(person: string, event: PageEvent): void {
    const text = `event: ${event.event}\ndata: ${JSON.stringify(event)}\n\n`;
    for (const page of this.pages.get(person) ?? []) page.write(text);
  }

  /** Ends all streams with a word to come back soon. */
  close(): void {
    clearInterval(this.beat);
    for (const pages of this.pages.values())
      for (const page of pages) page.end('retry: 1000\nevent: closing\ndata: {}\n\n');
  }

  /** Who is here is a row that runs out by itself, should this process end without a word. */
  private note(people: string[]): void {
    if (people.length > 0) this.write(presentAsQuery(people, this.server, this.clock.now() + 3 * BEAT_MS));
  }

  private write(statement: Parameters<typeof run>[1]): void {
    // Whoever is taken for away hears by email once too often; nothing is lost.
    run(this.pool, statement).catch(() => undefined);
  }

  private keepAlive(): void {
    this.note(this.present());
    for (const pages of this.pages.values()) for (const page of pages) page.write(': here\n\n');
  }
}
