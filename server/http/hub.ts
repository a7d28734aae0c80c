import type { Request, Response } from 'express';
import type { PageEvent } from '../../contract/api.ts';

/** The open pages of this process, by person; each gets server-sent events (WHATWG HTML, section 9.2). */
export class Hub {
  private readonly pages = new Map<string, Set<Response>>();
  private readonly beat = setInterval(() => this.keepAlive(), 20_000);

  /** Keeps a response open for a person's page until it goes away. */
  open(person: string, request: Request, response: Response): void {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' });
    response.write('retry: 1000\n\n');
    request.socket.setNoDelay(true);
    const pages = this.pages.get(person) ?? new Set();
    this.pages.set(person, pages.add(response));
    request.on('close', () => {
      pages.delete(response);
      if (pages.size === 0) this.pages.delete(person);
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

  close(): void {
    clearInterval(this.beat);
    for (const pages of this.pages.values()) for (const page of pages) page.end();
  }

  private keepAlive(): void {
    for (const pages of this.pages.values()) for (const page of pages) page.write(': here\n\n');
  }
}
