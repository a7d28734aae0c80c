import type { Channel, Recipient } from '../people/index.ts';
import { recipientKey } from '../people/index.ts';
import { type Hearing, keyOf } from './rows.ts';
import type { Portion } from './types.ts';
import type { Work } from './work.ts';

/** What one person has seen of an alert is kept as a row only while something later asks for it. */
export const hearingKey = (alert: string, person: string): string => keyOf(alert, person);

export function hearingOf(work: Work, alert: string, person: string): Hearing | undefined {
  // An alert that arose in this very step has no rows of earlier ones.
  if (work.raised.has(alert)) return work.written('hearings', hearingKey(alert, person));
  return work.row('hearings', hearingKey(alert, person));
}

export function keep(work: Work, row: Hearing): void {
  const key = hearingKey(row.alert, row.person);
  if (row.pending <= 0 && row.open !== 'open') work.remove('hearings', key);
  else work.put('hearings', key, keyOf(row.person), row);
}

/** More (or fewer) of what is to come for a person asks whether they have seen these alerts. */
export function notePending(work: Work, person: string, portions: readonly Portion[], more: 1 | -1 = 1): void {
  for (const alert of new Set(portions.map((portion) => portion.alert))) {
    const known = hearingOf(work, alert, person);
    if (known) keep(work, { ...known, pending: known.pending + more });
    else if (more === 1) {
      const of = portions.filter((portion) => portion.alert === alert);
      keep(work, {
        alert,
        rule: of[0]?.rule ?? '',
        person,
        items: work.itemsOf(alert) ?? of.map((portion) => portion.item),
        told: work.heard.has(hearingKey(alert, person)),
        seen: false,
        pending: 1,
        open: 'never',
        portions: [],
      });
    }
  }
}

/** A message of these alerts went to a person. */
export function noteHeard(work: Work, person: string, alerts: readonly string[]): void {
  for (const alert of alerts) {
    work.heard.add(hearingKey(alert, person));
    const known = hearingOf(work, alert, person);
    if (known && !known.told) keep(work, { ...known, told: true });
  }
}

/** Whether a person has read or acknowledged an alert. */
export const wasSeen = (work: Work, alert: string, person: string): boolean =>
  hearingOf(work, alert, person)?.seen ?? false;

/** Whether an alert takes no further step: it closed. */
export const isClosedTo = (work: Work, alert: string, person: string): boolean =>
  hearingOf(work, alert, person)?.open === 'closed';

/** A message went, is held or waits for a digest: an all-clear will follow it. */
export function noteGone(work: Work, portions: readonly Portion[], to: Recipient, channel: Channel): void {
  for (const portion of portions) {
    const ack = work.state.version(portion.rule, portion.version)?.rule.ack;
    if (!ack?.allClear) continue;
    const open = work.row('open', keyOf(portion.alert));
    if (!open) continue;
    const key = recipientKey(to);
    const known = open.gone.find((one) => one.to === key && one.channel === channel);
    if (known?.items.includes(portion.item)) continue;
    const gone = known
      ? open.gone.map((one) => (one === known ? { ...one, items: [...one.items, portion.item] } : one))
      : [...open.gone, { to: key, channel, items: [portion.item] }];
    work.put('open', keyOf(portion.alert), keyOf(open.rule), { ...open, gone });
  }
}
