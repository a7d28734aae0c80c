import { wordsOf } from '../messages/index.ts';
import type { AccessEntry, Channel, Folder, Group, Person } from '../people/index.ts';
import { CHANNELS } from '../people/index.ts';
import { type CompiledRule, compileRule, type Rule } from '../rules/index.ts';
import { type Instant, printInstant } from '../time/index.ts';
import type { Change, ItemState, Source } from '../values/index.ts';
import { decide } from './step.ts';
import type { Alert, Effect, Input, LaterStep, Message, State, Waiting, Withheld } from './types.ts';

export type Act = { do: 'read'; at: Instant; person: string } | { do: 'access'; at: Instant; access: AccessEntry[] };
export type ScenarioInput = Change | Act;

/** One whole run on virtual time; `inputs` stand in order of time, what falls on `end` still happens. */
export interface Scenario {
  start: Instant;
  end: Instant;
  people: Person[];
  groups: Group[];
  sources: Source[];
  folders: Folder[];
  access: AccessEntry[];
  items: ItemState[];
  rules: { rule: Rule; from: Instant }[];
  inputs: ScenarioInput[];
}

export interface Outcome {
  alerts: { rule: string; at: string; items: string[]; changes: string[]; suppressed: number }[];
  messages: { to: string; channel: Channel; at: string; form: string; alerts: { rule: string; items: string[] }[]; subject: string; text: string }[];
  withheld: { at: string; rule: string; item: string; changes: string[]; person: string; reason: string }[];
  dropped: never[];
}

/** Where links lead in a run that has no site of its own. */
const SITE = { base: 'https://ojo.example', name: 'Ojo' };

type Timer = { due: Instant; order: string; input: Input };

/** Runs a scenario through the step, in virtual time. The driver holds in memory what the server keeps as rows. */
export function simulate(scenario: Scenario): Outcome {
  return new Run(scenario).finish();
}

class Run {
  private readonly items = new Map<string, ItemState>();
  private readonly changes = new Map<string, Change>();
  private readonly compiled: CompiledRule[];
  private readonly queues = new Map<string, Waiting[]>();
  private timers: Timer[] = [];
  private readonly toldOf = new Map<string, Set<string>>();
  private readonly readBy = new Map<string, Set<string>>();
  private readonly alerts: Alert[] = [];
  private readonly messages: Message[] = [];
  private readonly withheld: Withheld[] = [];
  private readonly state: State;

  constructor(private readonly scenario: Scenario) {
    for (const item of scenario.items) this.items.set(item.id, item);
    const sources = new Map(scenario.sources.map((source) => [source.id, source]));
    this.compiled = scenario.rules
      .map(({ rule, from }) => compileRule(rule, sources, { version: 1, from, until: null }))
      .sort((a, b) => compareIds(a.rule.id, b.rule.id));
    this.state = {
      people: new Map(scenario.people.map((person) => [person.id, person])),
      groups: new Map(scenario.groups.map((group) => [group.id, group])),
      sources,
      folders: new Map(scenario.folders.map((folder) => [folder.id, folder])),
      access: scenario.access,
      item: (id) => this.items.get(id),
      liveRules: (source, at) => this.compiled.filter((one) => one.rule.scope.sources.includes(source) && one.from <= at),
      rule: (id) => this.compiled.find((one) => one.rule.id === id),
      change: (source, id) => this.changes.get(`${source}/${id}`),
      waiting: (person, channel, due) => this.queues.get(queueKey(person, channel, due)) ?? [],
      isUnread: (alert, person) => !this.readBy.get(alert)?.has(person),
    };
  }

  finish(): Outcome {
    for (const input of this.scenario.inputs) {
      this.runTimers((due) => due < input.at);
      this.take(input);
    }
    this.runTimers((due) => due <= this.scenario.end);
    return this.outcome();
  }

  private take(input: ScenarioInput): void {
    if (!('do' in input)) {
      const known = this.items.get(input.item);
      this.changes.set(`${input.source}/${input.id}`, input);
      if (input.after) {
        this.items.set(input.item, {
          id: input.item, source: input.source, folder: input.folder, fields: input.after,
          createdBy: known?.createdBy ?? input.actor, lastBy: input.actor, lastAt: input.at,
        });
      }
      this.apply(decide(this.state, { input: 'change', change: input }));
      // Alerts at an instant come before timers due at it, so the item leaves only now.
      if (!input.after) this.items.delete(input.item);
      return;
    }
    switch (input.do) {
      case 'read':
        for (const [alert, people] of this.toldOf) if (people.has(input.person)) addTo(this.readBy, alert, input.person);
        return;
      case 'access':
        (this.state as { access: readonly AccessEntry[] }).access = input.access;
        return;
      default:
        return input satisfies never;
    }
  }

  private runTimers(isDue: (due: Instant) => boolean): void {
    for (;;) {
      this.timers.sort((a, b) => a.due - b.due || compareIds(a.order, b.order));
      const [next] = this.timers;
      if (!next || !isDue(next.due)) return;
      this.timers.shift();
      this.apply(decide(this.state, next.input));
    }
  }

  private apply(effects: Effect[]): void {
    for (const effect of effects) {
      switch (effect.effect) {
        case 'alert':
          this.alerts.push(effect.alert);
          break;
        case 'withheld':
          this.withheld.push(effect.withheld);
          break;
        case 'message':
          this.messages.push(effect.message);
          for (const { alert } of effect.message.alerts) addTo(this.toldOf, alert, effect.message.to);
          break;
        case 'wait':
          this.wait(effect.waiting);
          break;
        case 'later':
          this.timers.push({ due: effect.later.due, order: laterOrder(effect.later), input: { input: 'later', later: effect.later } });
          break;
        default:
          effect satisfies never;
      }
    }
  }

  private wait(waiting: Waiting): void {
    const key = queueKey(waiting.person, waiting.channel, waiting.due);
    const queue = this.queues.get(key);
    if (queue) {
      queue.push(waiting);
      return;
    }
    this.queues.set(key, [waiting]);
    // A timer of no rule comes after those of rules, by person.
    this.timers.push({ due: waiting.due, order: `~/${waiting.person}/${waiting.channel}`, input: { input: 'digest', person: waiting.person, channel: waiting.channel, at: waiting.due } });
  }

  private outcome(): Outcome {
    const order = <T extends { at: Instant }>(list: T[], ...keys: ((one: T) => string)[]) =>
      [...list].sort((a, b) => a.at - b.at || keys.reduce((sum, key) => sum || compareIds(key(a), key(b)), 0));
    const channelRank = (channel: Channel) => String(CHANNELS.indexOf(channel));
    return {
      alerts: order(this.alerts, (one) => one.rule, (one) => one.items[0] ?? '').map(({ rule, at, items, changes, suppressed }) => ({ rule, at: printInstant(at), items, changes, suppressed })),
      messages: order(this.messages, (one) => one.to, (one) => channelRank(one.channel), (one) => one.alerts[0]?.rule ?? '', (one) => one.alerts[0]?.items[0] ?? '')
        .map(({ to, channel, at, form, alerts, subject, content }) => ({ to, channel, at: printInstant(at), form, alerts: alerts.map(({ rule, items }) => ({ rule, items })), subject, text: wordsOf(content, channel, SITE) })),
      withheld: order(this.withheld, (one) => one.person, (one) => one.rule, (one) => one.item)
        .map(({ at, rule, item, changes, person, reason }) => ({ at: printInstant(at), rule, item, changes, person, reason })),
      dropped: [],
    };
  }
}

/** Ids are ordered by code unit. */
const compareIds = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
const queueKey = (person: string, channel: Channel, due: Instant) => `${person}|${channel}|${due}`;
const laterOrder = (later: LaterStep) => [later.portions[0]?.rule, later.portions[0]?.item, later.person, later.step].join('/');

function addTo(map: Map<string, Set<string>>, key: string, member: string): void {
  const set = map.get(key);
  if (set) set.add(member);
  else map.set(key, new Set([member]));
}
