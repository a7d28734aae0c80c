import { randomInt } from 'node:crypto';
import { setTimeout as delay } from 'node:timers/promises';
import type { Pool } from 'mysql2/promise';
import type { Clock } from '../kit/index.ts';
import { rows, store } from '../store/index.ts';
import type { StandIn } from './mail.ts';

export interface FeedParts {
  pool: Pool;
  clock: Clock;
  /** Where events are handed in, and by which key. */
  url: string;
  key: string;
  source: string;
  everyMs?: number;
}

/** How far a reading goes from the one before, and between what it stays. */
const WALKS = [
  { field: 'temperature', step: 0.2, from: 19, until: 21.5 },
  { field: 'humidity', step: 0.6, from: 47, until: 55 },
] as const;
const EVERY_MS = 5000;

const next = (known: unknown, { step, from, until }: (typeof WALKS)[number]): number => {
  const last = Number(known ?? (from + until) / 2);
  const moved = last + (randomInt(-100, 101) / 100) * step;
  return Math.round(Math.min(until, Math.max(from, moved)) * 10) / 10;
};

/** Sensors that send a reading every few seconds, one after another, as events by a door: a program outside, which asks nothing of Ojo but to take them. */
export function startFeedStandIn({ pool, clock, url, key, source, everyMs = EVERY_MS }: FeedParts): StandIn {
  const ending = new AbortController();
  let turn = 0;
  const send = async () => {
    const sensors = await rows(pool, store.items.ofSources([source]));
    const sensor = sensors[turn++ % Math.max(1, sensors.length)];
    if (!sensor) return;
    const readings = WALKS.map((walk): [string, number] => [walk.field, next(sensor.fields[walk.field], walk)]);
    await fetch(url, {
      method: 'POST',
      headers: { 'content-type': 'application/cloudevents+json', authorization: `Bearer ${key}` },
      body: JSON.stringify({
        specversion: '1.0',
        id: `${sensor.id}/${clock.now()}`,
        source: 'urn:marisma:sensors',
        type: 'climate.reading',
        subject: sensor.id,
        data: Object.fromEntries(readings),
      }),
      signal: AbortSignal.timeout(everyMs),
    });
  };
  const going = (async () => {
    while (!ending.signal.aborted) {
      await delay(everyMs, undefined, { signal: ending.signal, ref: false }).catch(() => undefined);
      // What is not taken is not sent again: the next reading says more.
      if (!ending.signal.aborted) await send().catch(() => undefined);
    }
  })();
  return {
    close: async () => {
      ending.abort();
      await going;
    },
  };
}
