import { createHash } from 'node:crypto';
import { Refusal } from '../../contract/problems.ts';
import type { AuditedKind } from '../../contract/wire/index.ts';
import type { Caller } from '../access/index.ts';
import { originNow } from '../kit/index.ts';
import { inTransaction, one, runAll, type Statement, store } from '../store/index.ts';
import type { ActContext } from './context.ts';

/** Says whether something is still as it was read. */
export const sealOf = (value: unknown): string =>
  createHash('sha256').update(JSON.stringify(value)).digest('base64url').slice(0, 22);

/**
 * Writes what a steward sets up, with what the audit trail says of it, against the directory that was looked at: where
 * somebody has changed that meanwhile, theirs stands and this is refused.
 */
export async function setUp(
  { pool, clock }: Pick<ActContext, 'pool' | 'clock'>,
  { me, directory }: Caller,
  said: { kind: AuditedKind; about: Record<string, string | number> },
  statements: readonly Statement[],
): Promise<void> {
  await inTransaction(pool, async (on) => {
    if ((await one(on, store.world.versionLocked())) !== directory.version) throw new Refusal('editedMeanwhile');
    await runAll(on, [
      ...statements,
      store.world.raise(),
      store.audit.add({ at: clock.now(), actor: me.id, origin: originNow(), ...said }),
    ]);
  });
}
