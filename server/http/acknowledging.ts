import {
  acknowledgeQuery,
  inTransaction,
  markReadQuery,
  messageAlertsQuery,
  messagesOfAlertsQuery,
  queueSeenQuery,
  rows,
  runAll,
  toldOfAlertsQuery,
} from '../store/index.ts';
import type { Context } from './context.ts';

/** Somebody takes on what messages told them of, wherever they say so: in Ojo, on the page behind a link, by a text. All or none. */
export async function acknowledge(context: Context, messages: readonly string[], person: string): Promise<void> {
  const at = context.clock.now();
  const alerts = await rows<{ alert_id: string; alert_key: string; rule_id: string }>(
    context.pool,
    messageAlertsQuery([...messages]),
  );
  // Several messages may be about one alert: a reminder and what it reminds of.
  const keys = new Map(alerts.map((one) => [one.alert_id, one]));
  // Whoever answers a text or an email has read what stands in their inbox of the same.
  const same =
    keys.size === 0
      ? []
      : await rows<{ message_id: string }>(context.pool, messagesOfAlertsQuery([...keys.keys()], person));
  await inTransaction(context.pool, (on) =>
    runAll(on, [
      markReadQuery(person, [...messages, ...same.map((one) => one.message_id)], at),
      ...(keys.size > 0 ? [acknowledgeQuery([...keys.keys()], person, at)] : []),
      ...[...keys.values()].map(({ alert_key: alert, rule_id: rule }) =>
        queueSeenQuery({ input: 'acknowledge', at, person, rule, alert }),
      ),
    ]),
  );
  context.wake();
  if (keys.size > 0) await tellOthers(context, [...keys.keys()], person);
}

/** Open pages of everybody who was told see at once who has it. */
async function tellOthers({ pool, hub }: Context, alerts: string[], person: string): Promise<void> {
  const told = new Set(
    (await rows<{ person_id: string }>(pool, toldOfAlertsQuery(alerts))).map((row) => row.person_id),
  );
  for (const other of hub.present()) if (other !== person && told.has(other)) hub.tell(other, { event: 'answered' });
}
