import { createHash, randomBytes } from 'node:crypto';
import { type FaultAt, Refusal } from '../../contract/problems.ts';
import type { DoorDefined, DoorRow, DoorTried } from '../../contract/wire/index.ts';
import { checkMappings, mapEvent, type OutsideEvent } from '../../core/doors/index.ts';
import { freshId } from '../../core/tables/index.ts';
import { fieldOf, formatValue, type Source } from '../../core/values/index.ts';
import { type Caller, nameFault, whenOrNull } from '../access/index.ts';
import { type Door, rows, store } from '../store/index.ts';
import type { ActContext } from './context.ts';
import { actorOf, readingFor, worded } from './door-events.ts';
import { setUp } from './setting-up.ts';

type Acting = Pick<ActContext, 'pool' | 'clock'>;

/** A key names its door before the point; what stands behind it nobody guesses. */
const newKey = (door: string): string => `ojo-door-${door}.${randomBytes(24).toString('hex')}`;
/** How a key is kept. */
export const keyHash = (key: string): string => createHash('sha256').update(key).digest('hex');
/** The door that a key names; `null` where it is none. */
export const doorNamedBy = (key: string): string | null => /^ojo-door-([^.]+)\.[0-9a-f]{48}$/.exec(key)?.[1] ?? null;

/** The doors of a source, never their keys. */
export const doorRows = async ({ pool }: Pick<Acting, 'pool'>, source: string): Promise<DoorRow[]> =>
  (await rows(pool, store.doors.ofSource(source))).map(
    ({ id, name, owner, mappings, isOpen, lastAt, taken, refused }) => ({
      id,
      name,
      owner,
      mappings,
      isOpen,
      lastAt: whenOrNull(lastAt),
      taken,
      refused,
    }),
  );

const said = (name: string) => ({ kind: 'doorChanged' as const, about: { name } });

/** Makes a door into a source; answers its key, which is told to nobody again. */
export async function addDoor(
  context: Acting,
  source: Source,
  given: DoorDefined,
  caller: Caller,
): Promise<{ id: string; key: string }> {
  if (source.kind === 'folders' || caller.directory.sources.get(source.id)?.sheetOf !== undefined)
    throw new Refusal('badRequest', { because: 'rowsAlone' });
  const others = await rows(context.pool, store.doors.all());
  await expectSound(context, source, given, null);
  const id = freshId(given.name, new Set(others.map((door) => door.id)), 'door');
  const key = newKey(id);
  const door = { id, source: source.id, ...given, keyHash: keyHash(key), owner: caller.me.id };
  await setUp(context, caller, said(given.name), [store.doors.create(door)]);
  return { id, key };
}

/** Calls a door otherwise, maps otherwise, opens or closes it. */
export async function saveDoor(
  context: Acting,
  door: Door,
  source: Source,
  given: DoorDefined,
  caller: Caller,
): Promise<void> {
  await expectSound(context, source, given, door.id);
  await setUp(context, caller, said(given.name), [store.doors.save({ id: door.id, ...given })]);
}

/** Gives a door another key, told once; the one before opens nothing from then on. */
export async function rekeyDoor(context: Acting, { id, name }: Door, caller: Caller): Promise<string> {
  const key = newKey(id);
  await setUp(context, caller, said(name), [store.doors.rekey(id, keyHash(key))]);
  return key;
}

/** Takes a door away; what came by it stays. */
export const dropDoor = (context: Acting, { id, name }: Door, caller: Caller): Promise<void> =>
  setUp(context, caller, said(name), [store.doors.remove(id)]);

/** A door that was called like a form or another door would be told from it by nobody, and by no rule. */
async function expectSound({ pool }: Acting, source: Source, given: DoorDefined, own: string | null): Promise<void> {
  const doors = (await rows(pool, store.doors.all())).filter(({ id }) => id !== own).map(({ name }) => name);
  const forms = (await rows(pool, store.forms.titles())).map(({ title }) => title);
  const taken = nameFault(given.name, [...doors, ...forms]);
  const faults: FaultAt[] = [...(taken ? [taken] : []), ...checkMappings(given.mappings, source)];
  if (faults.length > 0) throw new Refusal('badValues', { faults });
}

/** What a sample would come to by these mappings; nothing is kept. */
export async function tryDoor(
  context: Acting,
  source: Source,
  { mappings, sample }: { mappings: DoorDefined['mappings']; sample: string },
  { me, directory }: Caller,
): Promise<DoorTried> {
  const faults = checkMappings(mappings, source);
  if (faults.length > 0) throw new Refusal('badValues', { faults });
  const event = readSample(sample);
  const nothing = { key: null, actor: null, text: null, fields: [], faults: [] };
  if (event === null)
    return { ...nothing, outcome: 'refused', faults: worded([{ code: 'noJson', path: 'sample', params: {} }]) };
  const reading = await readingFor(context, { owner: me.id, mappings }, source, directory);
  const mapped = mapEvent(mappings, event, source, reading);
  if (mapped.outcome === 'passedOver') return { ...nothing, outcome: 'passedOver' };
  if (mapped.outcome === 'refused') return { ...nothing, outcome: 'refused', faults: worded(mapped.faults) };
  const names = { person: (id: string) => directory.people.get(id)?.name ?? id, item: (id: string) => id };
  return {
    outcome: mapped.does,
    key: mapped.key,
    actor: actorOf(mapped.actor, { door: { name: '' }, reading, directory }),
    text: mapped.text,
    fields: Object.entries(mapped.set).map(([id, value]) => {
      const field = fieldOf(source, id);
      return { field: field?.name ?? id, words: field ? formatValue(field, value, me, names) : '' };
    }),
    faults: [],
  };
}

/** A sample as it is pasted: an event, or only what it carries. */
function readSample(text: string): OutsideEvent | null {
  try {
    const read = JSON.parse(text) as Record<string, unknown>;
    if (typeof read !== 'object' || read === null || Array.isArray(read)) return null;
    return { specversion: '1.0', id: 'sample', source: 'sample', type: '', ...read };
  } catch {
    return null;
  }
}
