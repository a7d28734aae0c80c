import type { Form } from '../../messages/index.ts';
import type { Channel, Urgency } from '../../people/index.ts';
import type { Instant } from '../../time/index.ts';
import type { ScenarioInput, Setting } from './scenario.ts';
import { Run } from './simulate.ts';

/** A message as it would have reached somebody, with when each alert in it arose. */
export interface ReachingMessage {
  at: Instant;
  channel: Channel;
  form: Form;
  urgency: Urgency;
  subject: string;
  alerts: { rule: string; items: string[]; at: Instant }[];
}

/** Everything that would have reached one person, the setting's rules being live over its inputs; in order. */
export function messagesReaching(person: string, setting: Setting, inputs: Iterable<ScenarioInput>): ReachingMessage[] {
  const run = new Run(setting, undefined, (to) => to === person);
  for (const input of inputs) run.take(input);
  const arose = new Map<string, Instant>();
  const heard: ReachingMessage[] = [];
  for (const effect of run.finishRun()) {
    if (effect.effect === 'alert') arose.set(effect.alert.id, effect.alert.at);
    if (effect.effect !== 'message' || effect.message.to !== person) continue;
    const { at, channel, form, urgency, subject, alerts } = effect.message;
    heard.push({
      at,
      channel,
      form,
      urgency,
      subject,
      alerts: alerts.map(({ alert, rule, items }) => ({ rule, items, at: arose.get(alert) ?? at })),
    });
  }
  return heard.sort((a, b) => a.at - b.at);
}
