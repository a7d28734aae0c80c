import { plainLinks, subjectOf, wordsOf } from '../../messages/index.ts';
import { CHANNELS } from '../../people/index.ts';
import { printInstant } from '../../time/index.ts';
import type { Results } from './scenario.ts';
import type { Effect } from '../step/types.ts';
import { compareIds } from '../step/context.ts';

/** Where links lead in a run that has no site of its own. */
const LINKS = { ...plainLinks({ base: 'https://ojo.example', name: 'Ojo' }), isBare: true };

/** What came about, as lists ordered by instant, person, channel, rule, item, then as it arose. */
export function resultsOf(effects: readonly Effect[]): Results {
  const alerts = effects.flatMap((one) => (one.effect === 'alert' ? [one.alert] : []));
  const messages = effects.flatMap((one) => (one.effect === 'message' ? [one.message] : []));
  const withheld = effects.flatMap((one) => (one.effect === 'withheld' ? [one.withheld] : []));
  const dropped = effects.flatMap((one) => (one.effect === 'dropped' ? [one.dropped] : []));
  return {
    alerts: ordered(
      alerts,
      (one) => one.rule,
      (one) => one.parts[0]?.item ?? '',
    ).map(({ rule, at, parts, changes, suppressed }) => ({
      rule,
      at: printInstant(at),
      items: parts.map((part) => part.item),
      changes,
      suppressed,
    })),
    messages: ordered(
      messages,
      (one) => one.to,
      (one) => String(CHANNELS.indexOf(one.channel)),
      (one) => one.alerts[0]?.rule ?? '',
      (one) => one.alerts[0]?.items[0] ?? '',
    ).map((one) => ({
      to: one.to,
      channel: one.channel,
      at: printInstant(one.at),
      form: one.form,
      alerts: one.alerts.map(({ rule, items }) => ({ rule, items })),
      subject: subjectOf(one.content, LINKS),
      text: wordsOf(one.content, one.channel, LINKS),
    })),
    withheld: ordered(
      withheld,
      (one) => one.person,
      (one) => one.rule,
      (one) => one.item,
    ).map(({ at, rule, item, changes, person, reason }) => ({
      at: printInstant(at),
      rule,
      item,
      changes,
      person,
      reason,
    })),
    dropped: ordered(
      dropped,
      (one) => one.rule,
      (one) => one.item,
    ).map(({ at, rule, item, changes, reason }) => ({ at: printInstant(at), rule, item, changes, reason })),
  };
}

function ordered<T extends { at: number }>(list: readonly T[], ...keys: ((one: T) => string)[]): T[] {
  return [...list].sort((a, b) => a.at - b.at || keys.reduce((sum, key) => sum || compareIds(key(a), key(b)), 0));
}
