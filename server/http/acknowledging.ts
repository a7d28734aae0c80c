import { acknowledgeQuery, inTransaction, markReadQuery, messageAlertsQuery, messagesOfAlertsQuery, queueSeenQuery, rows, runAll, toldOfAlertsQuery } from '../store/index.ts';
import type { Context } from './context.ts';

/** Somebody takes on what a message told them of, wherever they say so: in Ojo, on the page behind a link, by a text. */
export async function acknowledge(context: Context, message: string, person: string): Promise<void> {
  const at = context.clock.now();
  const alerts = await rows<{ alert_id: string; alert_key: string; rule_id: string }>(context.pool, messageAlertsQuery([message]));
  // Whoever answers a text or an email has read what stands in their inbox of the same.
  const same = alerts.length === 0 ? [] : await rows<{ message_id: string }>(context.pool, messagesOfAlertsQuery(alerts.map((one) => one.alert_id), person));
  await inTransaction(context.pool, (on) => runAll(on, [
    markReadQuery(person, [message, ...same.map((one) => one.message_id)], at),
    ...(alerts.length > 0 ? [acknowledgeQuery(alerts.map((one) => one.alert_id), person, at)] : []),
    ...alerts.map(({ alert_key: alert, rule_id: rule }) => queueSeenQuery({ input: 'acknowledge', at, person, rule, alert })),
  ]));
  context.wake();
  if (alerts.length > 0) await tellOthers(context, alerts.map((one) => one.alert_id), person);
}

/** Open pages of everybody who was told see at once who has it. */
async function tellOthers({ pool, hub }: Context, alerts: string[], person: string): Promise<void> {
  const told = new Set((await rows<{ person_id: string }>(pool, toldOfAlertsQuery(alerts))).map((row) => row.person_id));
  for (const other of hub.present()) if (other !== person && told.has(other)) hub.tell(other, { event: 'answered' });
}
