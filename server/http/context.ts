import type { Request, Response } from 'express';
import type { Pool } from 'mysql2/promise';
import type { Logger } from 'pino';
import type { z } from 'zod';
import { schemaFaults, shapeFault } from '../../contract/documents/index.ts';
import { Refusal } from '../../contract/problems.ts';
import type { Site } from '../../core/messages/index.ts';
import { mayRead } from '../../core/people/index.ts';
import { printInstant } from '../../core/time/index.ts';
import type { Clock } from '../kit/index.ts';
import {
  type Connection,
  type Directory,
  type DirectoryCache,
  itemQuery,
  itemsQuery,
  one,
  type Profile,
  rows,
  type StoredChange,
  type StoredItem,
  toItem,
  worldOf,
} from '../store/index.ts';
import type { SignedLinks } from '../signed-links/index.ts';
import type { Counter } from './counter.ts';
import type { Hub } from './hub.ts';

/** What every route works with. */
export interface Context {
  pool: Pool;
  directory: DirectoryCache;
  clock: Clock;
  log: Logger;
  site: Site;
  signedLinks: SignedLinks;
  /** What the text gateway shows when it hands texts over; the empty string where none may. */
  textToken: string;
  hub: Hub;
  counter: Counter;
  /** The password that the demo's people share; `null` where this is no demo. */
  demoPassword: string | null;
  isSecure: boolean;
  /** The server is stopping: nothing new is taken. */
  isClosing: boolean;
  /** Lets whoever decides changes prepare, while this one is being committed. */
  foresee(change: StoredChange): void;
  /** Wakes whoever sends, where something was written that no alert brought about. */
  wakeSender(): void;
  /** Wakes whoever decides changes, with the one that has just been committed. */
  wake(fresh?: StoredChange): void;
}

/** Who asks, with the directory as it stood when the request came. */
export interface Caller {
  me: Profile;
  directory: Directory;
}

/** Reads a request's part by its schema, or refuses it with every fault. */
export function take<S extends z.ZodType>(schema: S, value: unknown): z.output<S> {
  const fault = shapeFault(value);
  if (fault) throw new Refusal('badRequest', { faults: [fault] });
  const result = schema.safeParse(value ?? {});
  if (!result.success) throw new Refusal('badRequest', { faults: schemaFaults(result.error, schema) });
  return result.data;
}

export const caller = (response: Response): Caller => response.locals.caller as Caller;
export const param = (request: Request, name: string): string => String(request.params[name]);
/** A signal that says that whoever asked has gone. */
export function whileOpen(response: Response): AbortSignal {
  const gone = new AbortController();
  response.on('close', () => {
    if (!response.writableFinished) gone.abort();
  });
  return gone.signal;
}

export const when = (instant: number): string => printInstant(instant);
export const whenOrNull = (instant: number | null): string | null => (instant === null ? null : printInstant(instant));

/** An item that the caller may read. One they may not read is answered as if it were not there. */
export async function readableItem(on: Connection, id: string, { me, directory }: Caller): Promise<StoredItem> {
  const row = await one(on, itemQuery(id));
  const item = row && toItem(row);
  if (!item || !mayRead(me.id, item, worldOf(directory, new Map()))) throw new Refusal('notFound');
  return item;
}

/** Which of these items a person may read. */
export async function readableAmong(
  on: Connection,
  ids: string[],
  person: string,
  directory: Directory,
): Promise<Map<string, StoredItem>> {
  if (ids.length === 0) return new Map();
  const items = (await rows(on, itemsQuery([...new Set(ids)]))).map(toItem);
  const world = worldOf(directory, new Map());
  return new Map(items.filter((item) => mayRead(person, item, world)).map((item) => [item.id, item]));
}
