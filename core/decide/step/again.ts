import { hearsOwn, type Recipient } from '../../people/index.ts';
import { carryOut, judgedAgain } from './carry-out.ts';
import type { StepContext } from './context.ts';
import { type Again, keyOf } from './rows.ts';
import { changesOf, type Input, type State } from './state.ts';
import type { Part, Portion } from './types.ts';

const keyOfAgain = ({ alert, person }: Pick<Again, 'alert' | 'person'>): string => keyOf(alert, person);

/**
 * Somebody asks to be told once more, later, of the newest alert of a rule of which a message went to them: in one
 * message in Ojo, of all that they were told. What they asked of that alert before is over. Where there is no such
 * alert, or the instant is not later, nothing happens.
 */
export function askAgain(context: StepContext, input: Extract<Input, { input: 'again' }>): void {
  const { at, person, rule, item, alert, when } = input;
  if (when <= at) return;
  const told = context.state.lastTold(person, rule, { item, alert });
  if (!told) return;
  const portions = told.parts.map(
    (part): Portion => ({
      ...part,
      changes: othersChanges(context.state, part, person, rule, told.version),
      alert: told.alert,
      rule,
      version: told.version,
      occasion: told.occasion,
      at: told.at,
      arising: { rank: 0, seq: 0, nth: 0 },
      reasons: [{ kind: 'askedAgain' }],
    }),
  );
  const row: Again = { alert: told.alert, rule, person, items: told.items, when, portions };
  context.put('agains', keyOfAgain(row), keyOf(rule), row);
  context.set({
    key: keyOf('again', told.alert, person, when),
    due: when,
    rank: 3,
    rule: '',
    item: '',
    person,
    task: { task: 'again', alert: told.alert, person },
  });
}

/** Of an alert's changes those that somebody was told of: not their own, unless they hear of these. */
function othersChanges(state: State, part: Part, id: string, rule: string, version: number): string[] {
  const person = state.people.get(id);
  const says = state.version(rule, version)?.rule.ownChanges ?? false;
  const others =
    person && !hearsOwn(person, says)
      ? changesOf(state, part).filter((change) => change.actor !== id)
      : changesOf(state, part);
  return others.length > 0 ? others.map((change) => change.id) : part.changes;
}

/** What was asked for comes, unless something ended it. */
export function tellAgain(context: StepContext, alert: string, person: string): void {
  const row = context.row('agains', keyOfAgain({ alert, person }));
  if (!row || row.when !== context.at) return;
  context.remove('agains', keyOfAgain(row));
  const to: Recipient = { kind: 'person', id: person };
  const portions = judgedAgain(context, to, row.portions);
  if (portions.length > 0)
    carryOut(context, {
      way: 'now',
      parcel: { to, channel: 'inApp', form: 'again', mark: String(row.when), portions },
    });
}

/** Ends what was asked for of a rule's alerts: of one that closed for everybody, of one that somebody took on for them. */
export function endAgain(context: StepContext, rule: string, isMeant: (row: Again) => boolean): void {
  for (const { key, row } of context.group('agains', keyOf(rule), keyOfAgain))
    if (isMeant(row)) context.remove('agains', key);
}
