import type { Pool } from 'mysql2/promise';
import { asideNotice, troubleNotice } from '../../core/messages/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { type Directory, inTransaction, type Profile, rows, runAll, shortKey, worldOf, store } from '../store/index.ts';

const stewardsOf = (directory: Directory): Profile[] =>
  [...directory.people.values()].filter((person) => person.role === 'steward' && person.active);

/** Tells owners and stewards of rules that have failed, and stewards of what stands aside; each once. Whether there was any. */
export async function tellTroubles(pool: Pool, now: Instant, directory: Directory): Promise<boolean> {
  const troubles = await rows(pool, store.troubles.untold());
  const aside = await rows(pool, store.aside.untold());
  if (troubles.length + aside.length === 0) return false;
  const stewards = stewardsOf(directory);
  const world = worldOf(directory, new Map());
  const notices = troubles.flatMap((trouble) => {
    const { rule: id, version, code, to } = trouble;
    const rule = directory.versions.get(id)?.get(version)?.rule;
    const owner = rule && directory.people.get(rule.owner);
    const readers = new Map([...(owner?.active ? [owner] : []), ...stewards].map((person) => [person.id, person]));
    return rule
      ? [...readers.values()].map((reader) =>
          store.messages.notice(
            shortKey(`trouble|${id}|${version}|${code}|${to}|${reader.id}`),
            reader.id,
            troubleNotice({ rule, at: now, reader, world }, code, to),
            now,
          ),
        )
      : [];
  });
  const first = aside[0]?.id ?? 0;
  const ofAside =
    aside.length === 0
      ? []
      : stewards.map((reader) =>
          store.messages.notice(
            shortKey(`aside|${first}|${reader.id}`),
            reader.id,
            asideNotice(aside.length, now, reader),
            now,
          ),
        );
  await inTransaction(pool, (on) =>
    runAll(on, [
      ...notices,
      ...ofAside,
      ...troubles.map((trouble) => store.troubles.noteTold(trouble, now)),
      ...(aside.length > 0
        ? [
            store.aside.noteTold(
              aside.map(({ id }) => id),
              now,
            ),
          ]
        : []),
    ]),
  );
  return true;
}
