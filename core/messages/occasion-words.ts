import { leadsOf, type Report, type Rule, type Tally } from '../rules/index.ts';
import type { Duration } from '../time/index.ts';
import { type ChangeKind, fieldOf, isMoney, type Source } from '../values/index.ts';
import { durationWords } from './condition-words.ts';
import type { Terms } from './locales/index.ts';

/** What happened, after the item's name: *was added*. A sender's own kinds are said as they are named. */
export const kindWords = (kind: ChangeKind, phrases: Terms): string =>
  isOwnKind(kind) ? kind.slice(2).replaceAll('-', ' ') : phrases.say(`kind.${kind}`);

const isOwnKind = (kind: ChangeKind): kind is `x-${string}` => kind.startsWith('x-');

/** The date, standstill, mark or hour at which a rule tells: *14 days before Due back*; `null` for one that looks at changes. */
export function occasionWords(
  { due, idle, tally, report }: Partial<Pick<Rule, 'due' | 'idle' | 'tally' | 'report'>>,
  source: Source,
  phrases: Terms,
): string | null {
  if (tally)
    return phrases.say('occasion.tally', {
      counted: countedWords(tally, source, phrases),
      mark: markWords(tally, phrases),
    });
  if (report) return phrases.say('occasion.report', { when: scheduleWords(report, phrases) });
  if (!due)
    return (idle ?? null) && phrases.say('occasion.idle', { duration: durationWords(idle?.for ?? '', phrases) });
  const field = fieldOf(source, due.field)?.name ?? due.field;
  const leads = leadsOf(due);
  const isOn = (lead: Duration) => /^-?P[T0A-Z]*$/.test(lead);
  const said = (lead: Duration) => durationWords(lead.replace(/^-/, ''), phrases);
  const before = leads.filter((lead) => !isOn(lead) && lead.startsWith('-')).map(said);
  const after = leads.filter((lead) => !isOn(lead) && !lead.startsWith('-')).map(said);
  // Those of one side stand together: *14 days and 2 days before Due back*.
  return phrases.and([
    ...(before.length > 0 ? [phrases.say('occasion.before', { duration: phrases.and(before), field })] : []),
    ...(leads.some(isOn) ? [phrases.say('occasion.onTheDay', { field })] : []),
    ...(after.length > 0 ? [phrases.say('occasion.after', { duration: phrases.and(after), field })] : []),
  ]);
}

/** *each Monday at 08:00*: when a report comes. */
export function scheduleWords({ every, at, on }: Report, phrases: Terms): string {
  switch (every) {
    case 'week': {
      const days = phrases.and((on ?? ['MO']).map((day) => phrases.say(`day.${day as 'MO'}`)));
      return phrases.say('schedule.week', { days, at });
    }
    case 'month':
      return phrases.say('schedule.month', { days: phrases.and((on ?? [1]).map(String)), at });
    case 'day':
    case 'hour':
      return phrases.say('schedule.day', { at });
    default:
      return every satisfies never;
  }
}

/** *more than 10*, *less than 2,000 EUR*: the mark of a tally. */
export function markWords({ of, becomes: { op, value } }: Tally, phrases: Terms): string {
  // Written-out decimals are formatted as they stand, to the last digit (ECMA-402, 16.5.16).
  const format = new Intl.NumberFormat(phrases.language, { maximumFractionDigits: 20 });
  const written = (figure: number | string) => format.format(figure as `${number}`);
  const figure = isMoney(value) ? `${written(value.amount)} ${value.currency}` : written(value);
  return phrases.say(`tally.${op}${of === 'items' ? 'Items' : ''}`, { value: figure });
}

/** *the items of one Lender*, *the sum of Insured value*: what a tally counts. */
export function countedWords({ of, per }: Tally, source: Source, phrases: Terms): string {
  const nameOf = (id: string) => fieldOf(source, id)?.name ?? id;
  const what =
    of === 'items'
      ? phrases.say('tally.items', { source: source.name })
      : phrases.say('tally.sum', { field: nameOf(of.sum) });
  return per === null ? what : phrases.say('tally.per', { what, field: nameOf(per) });
}
