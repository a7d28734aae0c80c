import type { Pool } from 'mysql2/promise';
import { bouncedNotice } from '../../core/messages/index.ts';
import { HOUR_MS, type Instant } from '../../core/time/index.ts';
import type { Report } from '../reports/index.ts';
import {
  newestRule,
  type Directory,
  inTransaction,
  one,
  type Profile,
  runAll,
  shortKey,
  type Statement,
  type StoredMessage,
  store,
} from '../store/index.ts';

/** What is said of a message, by the channel that it went. */
interface Reported {
  message: string;
  channel: 'email' | 'text';
  report: Report;
  now: Instant;
  directory: Directory;
}

/** Writes down what the receiving side says of a message, and what follows where nobody is behind its address. Whether there is such a message. */
export async function takeReport(
  pool: Pool,
  { message: id, channel, report, now, directory }: Reported,
): Promise<boolean> {
  const message = await one(pool, store.messages.byId(id));
  if (message?.channel !== channel) return false;
  const { outcome, reply, isNobodyThere } = report;
  const follows = isNobodyThere ? nobodyThere(message, reply, now, directory) : [];
  await inTransaction(pool, (on) =>
    runAll(on, [...store.sending.reported(id, { at: now, outcome, reply }), ...follows]),
  );
  return true;
}

/**
 * Nothing more goes to an address that nobody is behind. Whoever's it is, stewards, and whoever looks after the rules of what
 * came back hear of it, once; none where that is known.
 */
export function nobodyThere(message: StoredMessage, reply: string, now: Instant, directory: Directory): Statement[] {
  const address = message.address.trim().toLowerCase();
  if (directory.suspended.has(address)) return [];
  const owners = new Set(
    message.content.entries.flatMap(({ rules }) => rules.flatMap(({ id }) => newestRule(directory, id)?.owner ?? [])),
  );
  const isTold = ({ id, role, active }: Profile) =>
    active && (role === 'steward' || owners.has(id) || (message.recipient === 'person' && id === message.person));
  const whose =
    directory.people.get(message.person)?.name ?? directory.contacts.get(message.person)?.name ?? message.address;
  return [
    store.addresses.suspend(address, { message: message.id, at: now, reply }),
    ...[...directory.people.values()].filter(isTold).map((reader) =>
      store.messages.notice(
        // Several may come back at once, before any of them knows of the others.
        shortKey(`nobody|${address}|${Math.floor(now / HOUR_MS)}|${reader.id}`),
        reader.id,
        bouncedNotice(
          { address: message.address, whose: reader.id === message.person ? null : whose, reply, at: now },
          reader,
        ),
        now,
      ),
    ),
    store.world.raise(),
  ];
}

/** Mail goes to addresses again that it came back from. */
export const resumeAddresses = (pool: Pool, addresses: readonly string[]): Promise<unknown> =>
  inTransaction(pool, (on) => runAll(on, [...addresses.map(store.addresses.resume), store.world.raise()]));
