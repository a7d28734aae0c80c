import type { Fields } from '../core/values/index.ts';
import { isMoney } from '../core/values/index.ts';
import { addDays } from '../core/time/index.ts';
import type { FirstState } from './items.ts';
import type { Deed } from './deed.ts';

const MINUTE = 60_000;
/** What was worked on within so long is left alone: its fields are on the move. */
const BUSY_MS = 6 * 60 * MINUTE;

/** The museum as the story has left it. */
interface Left {
  now: number;
  state: ReadonlyMap<string, Fields>;
  there: ReadonlyMap<string, readonly FirstState[]>;
  gone: ReadonlySet<string>;
  deeds: readonly Deed[];
}

/**
 * What happened in the last hours, whatever hour and weekday it is: enough for everybody's first page to tell something.
 * A task is blocked and nobody takes it on; a loan of the coordinator's moves; a colleague asks.
 */
export function lastHours({ now, state, there, gone, deeds }: Left): Deed[] {
  const busy = new Set(deeds.filter(({ at }) => at > now - BUSY_MS).map(({ item }) => item));
  const taken = new Set<string>();
  const find = (source: string, fits: (fields: Fields) => boolean): [string, Fields] | null => {
    for (const { id } of (there.get(source) ?? []).toReversed()) {
      const fields = state.get(id);
      if (!fields || gone.has(id) || busy.has(id) || taken.has(id) || !fits(fields)) continue;
      taken.add(id);
      return [id, fields];
    }
    return null;
  };
  const told: Deed[] = [];
  const say = (
    minutes: number,
    source: string,
    item: string,
    actor: string,
    more: Pick<Deed, 'kind' | 'set' | 'detail'>,
  ) => told.push({ at: now - minutes * MINUTE, source, item, actor, ...more });

  const isOpen = ({ state: of }: Fields) => of === 'Under way' || of === 'To do';
  const lift = find('tasks', (fields) => isOpen(fields) && fields.lead === 'noor');
  if (lift)
    say(200, 'tasks', lift[0], 'pau', { kind: 'changed', set: { state: 'Blocked', note: 'Lift is out of order.' } });
  const plinth = find('tasks', (fields) => isOpen(fields) && fields.lead === 'kofi');
  if (plinth)
    say(55, 'tasks', plinth[0], 'noor', {
      kind: 'changed',
      set: { state: 'Blocked', note: 'Plinth is 3 cm too low.' },
    });

  const moving = find('loans', ({ registrar, status }) => registrar === 'ines' && status === 'Agreed');
  if (moving) {
    const [id, { due, insured }] = moving;
    say(48, 'loans', id, 'wren', { kind: 'changed', set: { due: addDays(String(due), 9) } });
    say(44, 'loans', id, 'hugo', {
      kind: 'changed',
      set: { due: addDays(String(due), 12), courier: 'Kestrel Carriers' },
    });
    if (isMoney(insured)) {
      const amount = `${Math.round(Number(insured.amount) * 1.15)}.00`;
      say(40, 'loans', id, 'mei', { kind: 'changed', set: { insured: { ...insured, amount } } });
    }
    say(12, 'loans', id, 'wren', {
      kind: 'commented',
      detail: { text: 'Can the courier still make it? @Inés', mentions: ['ines'] },
    });
  }
  const shown = find('loans', ({ registrar, status }) => registrar === 'ines' && status === 'Agreed');
  if (shown) say(25, 'loans', shown[0], 'wren', { kind: 'changed', set: { status: 'On view', place: 'Gallery 3' } });
  const crossing = find('loans', ({ registrar, status }) => registrar === 'hugo' && status === 'Agreed');
  if (crossing)
    say(38, 'loans', crossing[0], 'ravi', { kind: 'changed', set: { due: addDays(String(crossing[1].due), 6) } });
  const text = find('papers', ({ approval }) => approval === 'Submitted');
  if (text) say(33, 'papers', text[0], 'olu', { kind: 'approved', set: { approval: 'Approved' } });
  return told;
}
