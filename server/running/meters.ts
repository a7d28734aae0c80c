import type { Pool } from 'mysql2/promise';
import { Counter, collectDefaultMetrics, Gauge, Registry } from 'prom-client';
import type { Clock } from '../kit/index.ts';
import { rows, store } from '../store/index.ts';

const SORTS = ['changes', 'acts', 'timers', 'email', 'text', 'webhook', 'aside'] as const;

/**
 * What a server says of itself, in the text format of Prometheus: what waits and for how long, what was decided, what
 * became of messages, how many pages are open. Nothing in it names anybody, an item or an address.
 */
export class Meters {
  private readonly registry = new Registry();
  private readonly decided: Counter;
  private readonly fates: Counter<'channel' | 'fate'>;

  constructor(parts: { pool: Pool; clock: Clock; openPages: () => number }) {
    const { pool, clock, openPages } = parts;
    const registers = [this.registry];
    collectDefaultMetrics({ register: this.registry, prefix: 'ojo_' });
    this.decided = new Counter({
      name: 'ojo_changes_decided_total',
      help: 'Changes decided by this server.',
      registers,
    });
    this.fates = new Counter({
      name: 'ojo_messages_total',
      help: 'Outgoing messages that met their fate by this server.',
      labelNames: ['channel', 'fate'],
      registers,
    });
    new Gauge({
      name: 'ojo_open_pages',
      help: 'People with a page open at this server.',
      registers,
      collect() {
        this.set(openPages());
      },
    });
    const found = () => rows(pool, store.running.waiting(clock.now()));
    new Gauge({
      name: 'ojo_lag_seconds',
      help: 'For how long the oldest of what waits has waited.',
      labelNames: ['what'],
      registers,
      async collect() {
        const waiting = await found();
        for (const what of SORTS) {
          const oldest = waiting.find((one) => one.what === what)?.oldest ?? null;
          this.set({ what }, oldest === null ? 0 : Math.max(0, (clock.now() - oldest) / 1000));
        }
      },
    });
    new Gauge({
      name: 'ojo_waiting',
      help: 'What waits to be decided or sent, and what stands aside.',
      labelNames: ['what'],
      registers,
      async collect() {
        const waiting = await found();
        for (const what of SORTS) this.set({ what }, waiting.find((one) => one.what === what)?.count ?? 0);
      },
    });
  }

  /** So many changes have been decided. */
  countDecided(changes: number): void {
    this.decided.inc(changes);
  }

  /** A message has met its fate. */
  countFate(channel: string, fate: string): void {
    this.fates.inc({ channel, fate });
  }

  /** All of it as text, with the media type it has. */
  async text(): Promise<{ mediaType: string; text: string }> {
    return { mediaType: this.registry.contentType, text: await this.registry.metrics() };
  }
}
