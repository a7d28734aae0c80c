import { type FaultAt, Refusal } from '../../contract/problems.ts';
import { schemaFaults, shapeFault } from '../../contract/documents/index.ts';
import { type DoorMember, outsideEventSchema } from '../../contract/wire/index.ts';
import { faultWords } from '../../contract/words/faults.ts';
import { type Mapped, mapEvent, type OutsideEvent } from '../../core/doors/index.ts';
import { type Reading, readingBy } from '../../core/tables/index.ts';
import { isLinkType, type Source } from '../../core/values/index.ts';
import { type Done, type Edit, editItem } from '../intake/index.ts';
import { type Directory, type Door, isUnavailable, one, run, shortKey, store, OutcomeUnknown } from '../store/index.ts';
import type { ActContext } from './context.ts';
import { namesOf } from './importing.ts';

type Acting = Pick<ActContext, 'pool' | 'clock' | 'wake'>;
type Act = Extract<Mapped, { outcome: 'act' }>;

/** Faults with their words, for whoever reads JSON. */
export const worded = (faults: readonly FaultAt[]): NonNullable<DoorMember['faults']> =>
  faults.map((fault) => ({ ...fault, words: faultWords(fault, 'en-GB') }));

/**
 * Takes what another program hands in by a door, each event by itself: one is told from those before it by its source and
 * id, so that whatever is sent again is taken once. Answers what became of each, in order; where the database goes away in
 * the middle, the rest is said to be not tried.
 */
export async function takeEvents(
  context: Acting,
  door: Door,
  events: readonly unknown[],
  directory: Directory,
): Promise<DoorMember[]> {
  const source = directory.sources.get(door.source);
  if (!source) throw new Refusal('notFound');
  const reading = await readingFor(context, door, source, directory);
  const members: DoorMember[] = [];
  for (const event of events) {
    try {
      members.push(await takeEvent(context, { door, source, reading, directory }, event));
    } catch (error) {
      if (!isUnavailable(error) && !(error instanceof OutcomeUnknown)) throw error;
      // Of one nothing is known; it can be sent again, and so can the rest.
      if (members.length === 0) throw error;
      members.push(
        ...events.slice(members.length).map((left): DoorMember => ({ ...named(left), outcome: 'notTried' })),
      );
      break;
    }
  }
  const count = (outcome: DoorMember['outcome']) => members.filter((one) => one.outcome === outcome).length;
  const counted = { taken: count('taken'), refused: count('refused') };
  // Only a figure for whoever looks after the door.
  await run(context.pool, store.doors.count(door.id, context.clock.now(), counted)).catch(() => undefined);
  return members;
}

/** By what names events may speak of people and items: as whoever set the door up knows them. */
export async function readingFor(
  { pool }: Pick<Acting, 'pool'>,
  { owner, mappings }: Pick<Door, 'owner' | 'mappings'>,
  source: Source,
  directory: Directory,
): Promise<Reading> {
  const me = directory.people.get(owner);
  if (!me) throw new Refusal('notFound');
  const used = new Set(mappings.flatMap(({ fields }) => fields.map(({ field }) => field)));
  const fields = source.fields.filter(({ id, type }) => used.has(id) || !isLinkType(type));
  const names = await namesOf(pool, { ...source, fields }, { me, directory });
  // Programs write numbers and days in one way, whoever set the door up.
  return readingBy({ ...names, locale: 'en-GB' });
}

interface Behind {
  door: Pick<Door, 'id' | 'name' | 'mappings'>;
  source: Source;
  reading: Reading;
  directory: Directory;
}

const named = (event: unknown): Pick<DoorMember, 'id' | 'source'> => {
  const { id = null, source = null } = (typeof event === 'object' && event !== null ? event : {}) as Record<
    string,
    unknown
  >;
  return { id: typeof id === 'string' ? id : null, source: typeof source === 'string' ? source : null };
};

async function takeEvent(context: Acting, behind: Behind, given: unknown): Promise<DoorMember> {
  const name = named(given);
  const refused = (faults: readonly FaultAt[]): DoorMember => ({ ...name, outcome: 'refused', faults: worded(faults) });
  const fault = shapeFault(given);
  if (fault) return refused([fault]);
  const parsed = outsideEventSchema.safeParse(given);
  if (!parsed.success) return refused(schemaFaults(parsed.error, outsideEventSchema));
  const event = parsed.data as OutsideEvent;
  const { door, source, reading } = behind;
  const change = shortKey(`door/${door.id}/${JSON.stringify([event.source, event.id])}`);
  const again = await one(context.pool, store.changes.byIds([[source.id, change]]));
  if (again) return { ...name, outcome: 'repeated', item: again.item, change };
  const mapped = mapEvent(door.mappings, event, source, reading);
  if (mapped.outcome === 'passedOver') return { ...name, outcome: 'passedOver' };
  if (mapped.outcome === 'refused') return refused(mapped.faults);
  try {
    const made = await passOnce(context, behind, mapped, change);
    if (!made) return refused([{ code: 'noItemThere', path: '', params: { key: mapped.key } }]);
    const { edit, done } = made;
    if (done.outcome === 'unchanged') return { ...name, outcome: 'unchanged', item: edit.item };
    context.wake(done.change);
    return { ...name, outcome: 'taken', item: edit.item, change };
  } catch (error) {
    if (!(error instanceof Refusal) || error.status === 503) throw error;
    const { faults = [], because, detail } = error.toProblem('en-GB');
    const code = because?.code ?? error.code;
    return {
      ...name,
      outcome: 'refused',
      faults: faults.length > 0 ? faults : [{ code, path: '', params: {}, words: detail ?? code }],
    };
  }
}

/** Makes the edit; where another event has just made the same new item, it is edited instead. */
async function passOnce(
  context: Acting,
  behind: Behind,
  act: Act,
  id: string,
  isAgain = false,
): Promise<{ edit: Edit; done: Done } | null> {
  const edit = await editOf(context, behind, act, id);
  if (!edit) return null;
  try {
    return { edit, done: await editItem(context.pool, edit) };
  } catch (error) {
    if (isAgain || !wasMadeMeanwhile(error)) throw error;
    return passOnce(context, behind, act, id, true);
  }
}

/** Whether an item could not be made because somebody else just has: seen beforehand, or by the database as both wrote. */
const wasMadeMeanwhile = (error: unknown): boolean =>
  error instanceof Refusal
    ? error.toProblem().because?.code === 'itemTwice'
    : (error as { code?: string }).code === 'ER_DUP_ENTRY';

/** The person whom an event names, where somebody here goes by that; else the door itself, as a system. */
export function actorOf(
  name: string | null,
  { door, reading, directory }: Pick<Behind, 'reading' | 'directory'> & { door: { name: string } },
): string {
  const person = name === null ? null : reading.person(name);
  return person !== null && directory.people.get(person)?.active ? person : `system:${door.name}`;
}

/** What an event does, as an edit; `null` where it is about an item that there is not. */
async function editOf({ pool, clock }: Acting, behind: Behind, act: Act, id: string): Promise<Edit | null> {
  const { door, source } = behind;
  const common = { id, actor: actorOf(act.actor, behind), source, at: clock.now(), folder: null };
  if (act.does === 'add') return { ...common, item: shortKey(`door/added/${id}`), kind: 'created', set: act.set };
  const key = act.key ?? '';
  const own = shortKey(`door/item/${door.id}/${key}`);
  const known = (await one(pool, store.items.byId(key))) ?? (await one(pool, store.items.byId(own)));
  const item = known?.source === source.id ? known : null;
  if (act.does === 'keep' && !item) return { ...common, item: own, kind: 'created', set: act.set };
  if (!item) return null;
  const { folder: _, ...edit } = { ...common, item: item.id };
  if (act.does === 'remove') return { ...edit, kind: 'deleted' };
  if (act.does === 'comment') return { ...edit, kind: 'commented', detail: { text: act.text ?? '' } };
  return { ...edit, kind: 'changed', set: act.set };
}
