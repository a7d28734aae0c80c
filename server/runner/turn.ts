import type { Effect, Outcome } from '../../core/decide/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { type Connection, type Directory, isAfter, type OrderPlace, type Statement } from '../store/index.ts';
import { Agenda, type Entry, placeOf, type Queues } from './agenda.ts';
import { type Left, StateLoader } from './state-loader.ts';

/** A door's transaction may end a moment after the instant it bears; timers wait that long for it, in ms. */
export const GRACE_MS = 250;

/** What one turn decided: of the heads of the queues those it took, and what follows. */
export interface Turn {
  taken: Entry[];
  effects: Effect[];
  loader: StateLoader;
  agenda: Agenda;
  /** How far deciding has come with it. */
  last: OrderPlace;
}

export interface TurnParts {
  directory: Directory;
  now: Instant;
  heads: Queues;
  /** How far deciding had come before. */
  decided: OrderPlace;
  /** What a turn before has left, of which nothing may be stored yet. */
  before?: Left;
  /** Notes what is taken as it is taken, for whoever has to know where a turn failed. */
  taken?: Entry[];
}

/** Decides what comes next, in order, as much as a turn may take. */
export async function decideTurn(
  on: Connection,
  { directory, now, heads, decided, before, taken = [] }: TurnParts,
): Promise<Turn> {
  const agenda = new Agenda(heads, now - GRACE_MS, decided);
  const loader = new StateLoader(directory, now, before);
  // What is decided alone is decided by what it asks for alone, so that it fails of nothing else.
  const coming = () => (heads.limit > 1 ? agenda.expected : []);
  const effects: Effect[] = [];
  for (
    let entry = agenda.next();
    entry && taken.length < heads.limit;
    entry = taken.length < heads.limit ? agenda.next() : null
  ) {
    taken.push(entry);
    const outcome: Outcome = await loader.decide(on, entry.input, coming);
    agenda.add(outcome.timers);
    effects.push(...outcome.effects);
  }
  const last = taken.map(placeOf).reduce((latest, place) => (isAfter(place, latest) ? place : latest), decided);
  return { taken, effects, loader, agenda, last };
}

/** A turn that was decided while the one before it was still being written, and what it took to be so. */
export interface Ahead {
  version: number;
  /** The number that its turn has where nobody else took one in between. */
  number: number;
  heads: Queues;
  turn: Turn;
  /** What writes it. */
  ending: Statement[];
}

/**
 * What the queues hold once a turn is written, by what they hold while it is not. `null` where that cannot be told:
 * a turn that was not full, or that moved something or has to do with timers, may leave anything.
 */
export function headsAfter({ taken, agenda }: Turn, { changes, acts, timers, limit }: Queues): Queues | null {
  const isPlain = taken.every((entry) => (entry.kind === 'change' ? !entry.isMoved : entry.kind === 'act'));
  if (!isPlain || taken.length < limit || agenda.timersDone.length + agenda.timersSet.length > 0) return null;
  const gone = new Set(taken.map(keyOf));
  return {
    changes: changes.filter((change) => !gone.has(`change ${change.seq}`)).slice(0, limit),
    acts: acts.filter(({ id }) => !gone.has(`act ${id}`)).slice(0, limit),
    timers: timers.slice(0, limit),
    limit,
  };
}

/** Whether what was decided ahead is what would be decided now: the same world, the very next turn, the same heads. */
export const stillFits = (ahead: Ahead, found: { version: number; number: number }, heads: Queues): boolean =>
  ahead.version === found.version &&
  ahead.number === found.number &&
  // What a turn takes that is full hangs on no clock: nothing was done because its time had come.
  ahead.turn.taken.length === heads.limit &&
  JSON.stringify(namesOf(ahead.heads)) === JSON.stringify(namesOf(heads));

const namesOf = ({ changes, acts, timers }: Queues) => [
  changes.map(({ seq }) => seq),
  acts.map(({ id }) => id),
  timers.map(({ key, due }) => [key, due]),
];

const keyOf = (entry: Entry): string => {
  if (entry.kind === 'change') return `change ${entry.change.seq}`;
  return entry.kind === 'act' ? `act ${entry.id}` : `timer ${entry.timer.key}`;
};
