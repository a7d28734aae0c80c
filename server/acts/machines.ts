import type { Pool } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import type { MachineDefined, MachineRow } from '../../contract/wire/index.ts';
import { checkMachineBody, machineNotice, sampleMessage } from '../../core/messages/index.ts';
import { freshId } from '../../core/tables/index.ts';
import { DAY_MS, type Instant } from '../../core/time/index.ts';
import { type Caller, nameFault, whenOrNull } from '../access/index.ts';
import { newSecret } from '../delivery/index.ts';
import {
  type Directory,
  inTransaction,
  livePhases,
  newId,
  type Machine,
  type Profile,
  rows,
  runAll,
  sealOf,
  secretOf,
  shortKey,
  store,
} from '../store/index.ts';
import { isNamedIn } from './consequences.ts';
import type { ActContext } from './context.ts';
import { setUp } from './setting-up.ts';

type Acting = Pick<ActContext, 'pool' | 'clock' | 'site'>;

/** So long the secret before a new one signs as well. */
const OLD_SECRET_MS = DAY_MS;
/** A machine that has taken nothing for so long is told nothing more. */
const PAUSED_AFTER_MS = 3 * DAY_MS;

const rulesTelling = (id: string, directory: Directory, now: Instant): string[] =>
  livePhases(directory, now)
    .filter(({ compiled }) => isNamedIn(compiled.rule, { webhook: id }))
    .map(({ compiled }) => compiled.rule.name);

/** All machines that rules may tell, with how each does; never their secrets. */
export const machineRows = (directory: Directory, now: Instant): MachineRow[] =>
  [...directory.webhooks.values()].map(
    ({ id, name, url, kind, template, owner, isPaused, failingSince, oldUntil }) => ({
      id,
      name,
      url,
      kind,
      template,
      owner,
      isPaused,
      failingSince: whenOrNull(failingSince),
      rules: rulesTelling(id, directory, now),
      oldSecretUntil: whenOrNull(oldUntil !== null && now < oldUntil ? oldUntil : null),
    }),
  );

/** Makes a machine known; answers its id and its secret, which is told to nobody again. */
export async function addMachine(
  context: Acting,
  given: MachineDefined,
  caller: Caller,
): Promise<{ id: string; secret: string }> {
  expectFreeName(given, null, caller);
  expectTemplate(context, given);
  const id = freshId(given.name, new Set(caller.directory.webhooks.keys()), 'machine');
  const secret = newSecret();
  await setUp(context, caller, said(given.name), [
    store.machines.create({ id, ...given, secret: sealedAs(context, id, secret), owner: caller.me.id }),
  ]);
  return { id, secret };
}

/** Calls a machine otherwise, has it elsewhere, pauses it or goes on. */
export async function saveMachine(
  context: Acting,
  id: string,
  given: MachineDefined & { isPaused: boolean },
  caller: Caller,
): Promise<void> {
  expectMachine(id, caller);
  expectFreeName(given, id, caller);
  expectTemplate(context, given);
  await setUp(context, caller, said(given.name), [store.machines.save({ id, ...given })]);
}

/** Gives a machine another secret, told once; the one before signs as well for a day. */
export async function rotateSecret(context: Acting, id: string, caller: Caller): Promise<string> {
  const { name } = expectMachine(id, caller);
  const secret = newSecret();
  const until = context.clock.now() + OLD_SECRET_MS;
  await setUp(context, caller, said(name), [store.machines.rotate(id, sealedAs(context, id, secret), until)]);
  return secret;
}

/** Takes a machine away that no live rule tells. */
export async function dropMachine(context: Acting, id: string, caller: Caller): Promise<void> {
  const { name } = expectMachine(id, caller);
  const used = rulesTelling(id, caller.directory, context.clock.now());
  if (used.length > 0) throw new Refusal('badRequest', { because: { code: 'contactInUse', params: { name, used } } });
  await setUp(context, caller, said(name), [store.machines.remove(id)]);
}

const sealedAs = ({ pool }: Acting, id: string, secret: string): string => sealOf(pool).close(secret, secretOf(id));

const said = (name: string) => ({ kind: 'machineChanged' as const, about: { name } });

/** A machine that is known. */
export function expectMachine(id: string, { directory }: Caller): Machine {
  const machine = directory.webhooks.get(id);
  if (!machine) throw new Refusal('notFound');
  return machine;
}

function expectFreeName({ name }: MachineDefined, own: string | null, { directory }: Caller): void {
  const others = [...directory.webhooks.values()].filter(({ id }) => id !== own).map((one) => one.name);
  const taken = nameFault(name, others);
  if (taken) throw new Refusal('badValues', { faults: [taken] });
}

/** A template that can be filled in; refused with what is wrong with it. */
export function expectTemplate(
  { clock, site }: Pick<ActContext, 'clock' | 'site'>,
  { kind, template }: Pick<MachineDefined, 'kind' | 'template'>,
): void {
  const now = clock.now();
  const faults = checkMachineBody(kind, template, 'template', sampleMessage(newId(now), now), site);
  if (faults.length > 0) throw new Refusal('badValues', { faults });
}

/** Machines that have failed for days are told nothing more; who set them up, and stewards, hear of it once. Whether there was any. */
export async function pauseFailing(pool: Pool, now: Instant, directory: Directory): Promise<boolean> {
  const failing = await rows(pool, store.machines.failingSince(now - PAUSED_AFTER_MS));
  if (failing.length === 0) return false;
  const readers = (owner: string | null): Profile[] =>
    [...directory.people.values()].filter((one) => one.active && (one.role === 'steward' || one.id === owner));
  await inTransaction(pool, (on) =>
    runAll(on, [
      ...failing.flatMap(({ id, name, owner, failingSince }) => [
        store.machines.pause(id),
        ...readers(owner).map((reader) =>
          store.messages.notice(
            shortKey(`machine|${id}|${failingSince}|${reader.id}`),
            reader.id,
            machineNotice(name, failingSince ?? now, now, reader),
            now,
          ),
        ),
      ]),
      store.world.raise(),
    ]),
  );
  return true;
}
