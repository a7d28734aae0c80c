import { inTransaction, rows, runAll, store } from '../store/index.ts';
import type { ActContext } from './context.ts';

/** Somebody takes on what messages told them of, wherever they say so: in Ojo, on the page behind a link, by a text. All or none. */
export async function acknowledge(context: ActContext, messages: readonly string[], person: string): Promise<void> {
  const { pool, hub } = context;
  const at = context.clock.now();
  // Several messages may be about one alert: a reminder and what it reminds of.
  const behind = new Map((await rows(pool, store.messages.alertsBehind([...messages]))).map((one) => [one.alert, one]));
  const alerts = [...behind.keys()];
  // Whoever answers a text or an email has read what stands in their inbox of the same.
  const same = alerts.length === 0 ? [] : await rows(pool, store.messages.ofAlerts(alerts, person));
  await inTransaction(pool, (on) =>
    runAll(on, [
      store.messages.markRead(person, [...messages, ...same], at),
      ...(alerts.length > 0 ? [store.messages.acknowledge(alerts, person, at)] : []),
      ...[...behind.values()].map(({ key: alert, rule }) =>
        store.acts.queueSeen({ input: 'acknowledge', at, person, rule, alert }),
      ),
    ]),
  );
  context.wake();
  if (alerts.length === 0) return;
  // Open pages of everybody who was told see at once who has it.
  const told = new Set((await rows(pool, store.messages.toldOfAlerts(alerts))).map((one) => one.person));
  hub.announce(
    { event: 'answered' },
    [...told].filter((one) => one !== person),
  );
}
