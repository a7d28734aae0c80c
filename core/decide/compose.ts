import { type Content, digestContent, highest, makeEntry, type SharedEntries, singleContent, type Telling } from '../messages/index.ts';
import { addressOf, type Channel, type Person } from '../people/index.ts';
import type { Instant } from '../time/index.ts';
import type { Message, Portion, State } from './types.ts';

/** What a person is told of these portions, on whatever channel; `null` where nothing of them is left to tell. */
export function contentFor(form: Content['form'], to: Person, at: Instant, portions: readonly Portion[], state: State, shared?: SharedEntries): Content | null {
  const byItem = groupByItem(portions, state);
  if (byItem.length === 0) return null;
  const entries = byItem.map((tellings) => makeEntry(tellings, to, state, shared));
  return form === 'digest' ? digestContent(entries, at, to) : singleContent(entries, at, to);
}

/** The message that carries a content to a person by one channel; `null` where the channel does not reach them. */
export function compose(content: Content, key: string, to: Person, channel: Channel, at: Instant, portions: readonly Portion[]): Message | null {
  const address = addressOf(to, channel);
  if (address === null) return null;
  return {
    key, to: to.id, channel, address, at, form: content.form,
    urgency: highest(content.entries.map((entry) => entry.urgency)),
    alerts: alertsOf(portions),
    subject: content.headline,
    content,
  };
}

/** Portions of one item stand together, whatever rules caught it; in the order in which they arose. */
function groupByItem(portions: readonly Portion[], state: State): Telling[][] {
  const groups = new Map<string, Telling[]>();
  for (const portion of portions) {
    const rule = state.rule(portion.rule, portion.version)?.rule;
    const changes = portion.changes.flatMap((id) => state.change(portion.source, id) ?? []);
    if (!rule || changes.length === 0) continue;
    groups.set(portion.item, [...(groups.get(portion.item) ?? []), { rule, changes, reasons: portion.reasons }]);
  }
  return [...groups.values()];
}

function alertsOf(portions: readonly Portion[]): Message['alerts'] {
  const alerts = new Map<string, Message['alerts'][number]>();
  for (const { alert, rule, item } of portions) {
    const known = alerts.get(alert);
    if (!known) alerts.set(alert, { alert, rule, items: [item] });
    else if (!known.items.includes(item)) known.items.push(item);
  }
  return [...alerts.values()];
}
