import type { Channel, Recipient } from '../../people/index.ts';
import { recipientKey } from '../../people/index.ts';
import { type AlertReceipt, keyOf } from './rows.ts';
import type { Portion } from './types.ts';
import type { StepContext } from './context.ts';

/** What one person has seen of an alert is kept as a row only while something later asks for it. */
export const receiptKey = (alert: string, person: string): string => keyOf(alert, person);

/** What somebody has seen of an alert, where something later asks for it. */
export function receiptOf(context: StepContext, alert: string, person: string): AlertReceipt | undefined {
  // An alert that arose in this very step has no rows of earlier ones.
  if (context.raised.has(alert)) return context.written('receipts', receiptKey(alert, person));
  return context.row('receipts', receiptKey(alert, person));
}

/** Keeps what somebody has seen of an alert; takes the row away once nothing asks for it any more. */
export function keepReceipt(context: StepContext, row: AlertReceipt): void {
  const key = receiptKey(row.alert, row.person);
  if (row.pending <= 0 && row.open !== 'open') context.remove('receipts', key);
  else context.put('receipts', key, keyOf(row.person), row);
}

/** More (or fewer) of what is to come for a person asks whether they have seen these alerts. */
export function notePending(
  context: StepContext,
  person: string,
  portions: readonly Portion[],
  more: 1 | -1 = 1,
): void {
  for (const alert of new Set(portions.map((portion) => portion.alert))) {
    const known = receiptOf(context, alert, person);
    if (known) keepReceipt(context, { ...known, pending: known.pending + more });
    else if (more === 1) {
      const of = portions.filter((portion) => portion.alert === alert);
      keepReceipt(context, {
        alert,
        rule: of[0]?.rule ?? '',
        person,
        items: context.itemsOf(alert) ?? of.map((portion) => portion.item),
        told: context.heard.has(receiptKey(alert, person)),
        seen: false,
        pending: 1,
        open: 'never',
        portions: [],
      });
    }
  }
}

/** A message of these alerts went to a person. */
export function noteTold(context: StepContext, person: string, alerts: readonly string[]): void {
  for (const alert of alerts) {
    context.heard.add(receiptKey(alert, person));
    const known = receiptOf(context, alert, person);
    if (known && !known.told) keepReceipt(context, { ...known, told: true });
  }
}

/** Whether a person has read or acknowledged an alert. */
export const wasSeen = (context: StepContext, alert: string, person: string): boolean =>
  receiptOf(context, alert, person)?.seen ?? false;

/** Whether an alert takes no further step: it closed. */
export const isClosedTo = (context: StepContext, alert: string, person: string): boolean =>
  receiptOf(context, alert, person)?.open === 'closed';

/** A message went, is held or waits for a digest: an all-clear will follow it. */
export function noteSent(context: StepContext, portions: readonly Portion[], to: Recipient, channel: Channel): void {
  for (const portion of portions) {
    const ack = context.state.version(portion.rule, portion.version)?.rule.ack;
    if (!ack?.allClear) continue;
    const open = context.row('open', keyOf(portion.alert));
    if (!open) continue;
    const key = recipientKey(to);
    const known = open.gone.find((one) => one.to === key && one.channel === channel);
    if (known?.items.includes(portion.item)) continue;
    const gone = known
      ? open.gone.map((one) => (one === known ? { ...one, items: [...one.items, portion.item] } : one))
      : [...open.gone, { to: key, channel, items: [portion.item] }];
    context.put('open', keyOf(portion.alert), keyOf(open.rule), { ...open, gone });
  }
}
