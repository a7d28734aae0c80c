import { type HouseVoice, voiceOf } from '../../messages/index.ts';
import { type Contact, contactAt, type Person } from '../../people/index.ts';
import { type CompiledRule, compileRule, RuleIndex, isScheduled } from '../../rules/index.ts';
import { type Instant, printInstant } from '../../time/index.ts';
import { type Change, isLook, type ItemState } from '../../values/index.ts';
import { InMemoryState } from './in-memory-state.ts';
import { resultsOf } from './results.ts';
import type { Act, Results, Scenario, ScenarioInput, Setting } from './scenario.ts';
import { decide } from '../step/step.ts';
import type { Input, Outcome, Phase, State, ToldBefore } from '../step/state.ts';
import type { Alert, Effect } from '../step/types.ts';
import { afterPausing, afterPublishing, firstPhase } from '../step/phases.ts';
import { compareIds } from '../step/context.ts';
import { keyOf, type TallySum } from '../step/rows.ts';

/** A house that leaves every word and name to Ojo. */
const ONLY_OJO: HouseVoice = { usual: [], senders: [] };

/** Runs a scenario through the step, on virtual time. Throws a RangeError where its inputs are out of order. */
export function simulate(scenario: Scenario): Results {
  const run = new Run(scenario);
  for (const input of scenario.inputs) run.take(input);
  return run.finish();
}

/** A run under way: the driver of the step that keeps in memory what a server keeps in tables. Inputs are given one by one, in order of time. */
export class Run {
  private readonly memory = new InMemoryState();
  private readonly items = new Map<string, ItemState>();
  private readonly bySource = new Map<string, Set<string>>();
  private readonly tombstones = new Map<string, ItemState>();
  private readonly changes = new Map<string, Change>();
  private readonly arrived = new Set<string>();
  private readonly phases = new Map<string, Phase>();
  /** Live rules that look at changes, and those that look at the calendar. */
  private readonly index: RuleIndex;
  private scheduled: Phase[] = [];
  private tallying: Phase[] = [];
  private readonly versions = new Map<string, CompiledRule[]>();
  private readonly people: Map<string, Person>;
  private readonly contacts: Map<string, Contact>;
  private readonly closing: CompiledRule[] = [];
  private readonly here = new Set<string>();
  private readonly effects: Effect[] = [];
  private readonly withheldFor = new Set<string>();
  /** Rules that were paused before they are live. */
  private readonly pausedBefore = new Set<string>();
  /** How many inputs there were: the place of the next. */
  private count = 1;
  private readonly waitingRules: Setting['rules'];
  private readonly state: State;
  private now: Instant;

  /**
   * @param observe is shown each change, with the world as it stands at it, before it is decided
   * @param isWorded whose messages are worded; everybody's where it is left out
   */
  constructor(
    private readonly setting: Setting,
    private readonly observe?: (change: Change, state: State) => void,
    isWorded?: State['isWorded'],
  ) {
    this.now = setting.start;
    this.people = new Map(setting.people.map((person) => [person.id, person]));
    this.contacts = new Map(setting.contacts.map((contact) => [contact.id, contact]));
    for (const item of setting.items) this.putItem(item);
    this.waitingRules = [...setting.rules].sort((a, b) => a.from - b.from || compareIds(a.rule.id, b.rule.id));
    this.state = { ...this.stateOf(setting), ...(isWorded ? { isWorded } : {}) };
    this.index = new RuleIndex(this.state.sources);
  }

  private stateOf({ start, groups, sources, folders, access, followers, wordings, voice = ONLY_OJO }: Setting): State {
    const followersOf = new Map<string, string[]>();
    for (const { item, person } of followers) followersOf.set(item, [...(followersOf.get(item) ?? []), person]);
    const wordingOf = new Map(wordings.map((wording) => [wording.id, wording]));
    return {
      start,
      access,
      people: this.people,
      contacts: this.contacts,
      groups: new Map(groups.map((group) => [group.id, group])),
      sources: new Map(sources.map((source) => [source.id, source])),
      folders: new Map(folders.map((folder) => [folder.id, folder])),
      item: (id) => this.items.get(id),
      lastState: (id) => this.tombstones.get(id),
      followersOf: (item) => followersOf.get(item) ?? [],
      phasesFor: (change) => this.phasesFor(change),
      schedulesOf: (source) => this.scheduled.filter(({ compiled: { rule } }) => rule.scope.sources.includes(source)),
      schedulesNaming: (item) =>
        this.scheduled.filter(({ compiled: { rule } }) => rule.scope.linked && rule.scope.items.includes(item)),
      talliesOf: (source) => this.tallying.filter(({ compiled: { rule } }) => rule.scope.sources.includes(source)),
      lastTold: (person, rule, { item }) => lastToldIn(this.effects, person, rule, item),
      closing: (source) => this.closing.filter(({ rule }) => rule.scope.sources.includes(source)),
      phase: (rule) => this.phases.get(rule),
      version: (rule, version) => this.versions.get(rule)?.[version - 1],
      change: (source, id) => this.changes.get(`${source}/${id}`),
      itemsOf: (source) =>
        [...(this.bySource.get(source) ?? [])].sort(compareIds).flatMap((id) => this.items.get(id) ?? []),
      ...voiceOf(voice, (id) => wordingOf.get(id)),
      isHere: (person) => this.here.has(person),
      row: (shelf, key) => this.memory.row(shelf, key),
      group: (shelf, group) => this.memory.group(shelf, group),
    };
  }

  /** The next input, not earlier than those before it. What lies after the end is left out. */
  take(input: ScenarioInput): void {
    if (input.at < this.now)
      throw new RangeError(
        `inputs are in order of time: ${printInstant(input.at)} comes after ${printInstant(this.now)}`,
      );
    if (input.at > this.setting.end) return;
    this.advance(input.at);
    if ('do' in input) this.act(input);
    else this.takeChange(input);
  }

  finish(): Results {
    return resultsOf(this.finishRun());
  }

  /** Runs on to the end; everything that came about, as it arose. */
  finishRun(): readonly Effect[] {
    this.advance(this.setting.end);
    for (let due = this.memory.nextDue(); due !== null && due <= this.setting.end; due = this.memory.nextDue())
      this.runTimer();
    return this.effects;
  }

  /** What the parts of a rule's tally come to where the run stands; those without items are left out. */
  tallies(rule: string): readonly TallySum[] {
    const version = this.phases.get(rule)?.compiled.version ?? 0;
    return this.memory.group('tallies', keyOf(rule, version));
  }

  /** What waits where the run stands: the rows and timers that a server goes on from. */
  left(): Pick<Outcome, 'state' | 'timers'> {
    return this.memory.left();
  }

  /** Everything that happens before the inputs of an instant: timers before it, rules that go live by then. */
  private advance(to: Instant): void {
    for (;;) {
      const due = this.memory.nextDue();
      const live = this.waitingRules[0]?.from;
      if (live !== undefined && live <= to && (due === null || live <= due)) this.begin();
      else if (due !== null && due < to) this.runTimer();
      else break;
    }
    this.now = Math.max(this.now, to);
  }

  private runTimer(): void {
    const timer = this.memory.nextTimer();
    if (timer) this.step({ input: 'timer', timer });
  }

  private begin(): void {
    const next = this.waitingRules.shift();
    if (!next) return;
    const compiled = this.compiled(next.rule);
    const before = this.phases.get(next.rule.id);
    this.putPhase(
      before
        ? afterPublishing(before, compiled)
        : { ...firstPhase(compiled), isPaused: this.pausedBefore.has(next.rule.id) },
    );
    this.step({ input: 'goLive', at: Math.max(next.from, this.setting.start), rule: next.rule.id });
  }

  private phasesFor(change: Change): { phase: Phase; isCaught: boolean | null }[] {
    const found = this.index
      .looking(change, this.state)
      .map(({ compiled, isCaught }) => ({ phase: this.phases.get(compiled.rule.id) as Phase, isCaught }));
    return found.sort((a, b) => compareIds(a.phase.compiled.rule.id, b.phase.compiled.rule.id));
  }

  private putPhase(phase: Phase): void {
    const { rule } = phase.compiled;
    const before = this.phases.get(rule.id)?.compiled;
    this.phases.set(rule.id, phase);
    if (before && before !== phase.compiled) this.index.remove(before);
    if (rule.when) this.index.add(phase.compiled);
    this.scheduled = byRule([...this.phases.values()].filter(({ compiled }) => isScheduled(compiled.rule)));
    this.tallying = byRule([...this.phases.values()].filter(({ compiled }) => compiled.rule.tally !== null));
  }

  private compiled(rule: Setting['rules'][number]['rule']): CompiledRule {
    const versions = this.versions.get(rule.id) ?? [];
    const compiled = compileRule(rule, this.state.sources, versions.length + 1);
    this.versions.set(rule.id, [...versions, compiled]);
    if (rule.ack?.closeWhenCeased) this.closing.push(compiled);
    return compiled;
  }

  private takeChange(given: Change): void {
    const key = `${given.source}/${given.id}`;
    if (this.arrived.has(key)) return;
    this.arrived.add(key);
    const known = this.items.get(given.item);
    const grave = this.tombstones.get(given.item);
    const last = known ?? grave;
    const createdBy = creatorOf(given, last);
    const { folder, folderBefore } = foldersOf(given, known, last);
    const change: Change = {
      ...given,
      folder,
      folderBefore,
      seq: this.count++,
      previous: { by: last?.lastBy ?? null, createdBy },
    };
    this.changes.set(key, change);
    // Whoever looked has changed nothing, and is no editor.
    if (isLook(change)) {
      this.observe?.(change, this.state);
      return this.step({ input: 'change', change });
    }
    const item: ItemState = {
      id: change.item,
      source: change.source,
      folder,
      fields: change.after ?? change.before ?? known?.fields ?? {},
      createdBy,
      lastBy: change.actor,
      lastAt: change.at,
    };
    if (change.after === null) this.bury(item);
    else this.putItem(item);
    this.observe?.(change, this.state);
    this.step({ input: 'change', change });
  }

  private putItem(item: ItemState): void {
    this.items.set(item.id, item);
    this.tombstones.delete(item.id);
    const ids = this.bySource.get(item.source) ?? new Set<string>();
    this.bySource.set(item.source, ids.add(item.id));
  }

  private bury(item: ItemState): void {
    this.items.delete(item.id);
    this.bySource.get(item.source)?.delete(item.id);
    this.tombstones.set(item.id, item);
  }

  private act(act: Act): void {
    switch (act.do) {
      case 'read':
      case 'acknowledge':
      case 'again': {
        const { do: input, ...said } = act;
        // The same words for the step: what goes with each is the same there, which the type of a union's rest does not say.
        return this.step({ input, ...said } as Input);
      }
      case 'pause':
      case 'resume':
        return this.pauseOrResume(act);
      case 'publish':
        return this.publish(act);
      case 'mute':
        return this.mute(act);
      case 'confirm':
        return this.alterContact(act.contact, (contact) => ({ ...contact, confirmed: true }));
      case 'unsubscribe':
        return this.alterContact(act.contact, (contact) => ({
          ...contact,
          unsubscribed:
            act.rule === undefined || contact.unsubscribed === true ? true : [...contact.unsubscribed, act.rule],
        }));
      case 'arrive':
        this.here.add(act.person);
        return;
      case 'leave':
        this.here.delete(act.person);
        return;
      case 'access':
        this.state.access = act.access;
        return;
      default:
        return act satisfies never;
    }
  }

  private pauseOrResume(act: Extract<Act, { do: 'pause' | 'resume' }>): void {
    const before = this.phases.get(act.rule);
    if (!before && act.do === 'pause') this.pausedBefore.add(act.rule);
    if (!before && act.do === 'resume') this.pausedBefore.delete(act.rule);
    if (!before || before.isPaused === (act.do === 'pause')) return;
    this.putPhase(afterPausing(before, act.do === 'pause'));
    if (act.do === 'resume')
      this.step({ input: 'resume', at: act.at, rule: act.rule, catchUp: act.catchUp, seq: this.count++ });
  }

  private publish({ at, rule }: Extract<Act, { do: 'publish' }>): void {
    // What is published before it is live goes live then, as it stands then.
    const waiting = this.waitingRules.findIndex((one) => one.rule.id === rule.id);
    if (waiting >= 0) this.waitingRules[waiting] = { rule, from: this.waitingRules[waiting]?.from ?? at };
    else {
      this.waitingRules.unshift({ rule, from: at });
      this.begin();
    }
  }

  private mute({ person: id, rule, item, until }: Extract<Act, { do: 'mute' }>): void {
    const person = this.people.get(id);
    if (!person) return;
    const mute = {
      ...(rule === undefined ? {} : { rule }),
      ...(item === undefined ? {} : { item }),
      ...(until === undefined ? {} : { until }),
    };
    this.people.set(id, { ...person, mutes: [...(person.mutes ?? []), mute] });
  }

  /** An address that nobody has is a contact from then on. */
  private alterContact(idOrAddress: string, alter: (contact: Contact) => Contact): void {
    const contact = contactAt(idOrAddress, this.state) ?? {
      id: idOrAddress.trim(),
      name: idOrAddress.trim(),
      email: idOrAddress.trim(),
      confirmed: false,
      unsubscribed: [],
    };
    this.contacts.set(contact.id, alter(contact));
  }

  private step(input: Input): void {
    const outcome = decide(this.state, input);
    this.memory.take(outcome);
    // A change of which nothing follows is never asked for again.
    if (input.input === 'change' && outcome.state.length === 0 && outcome.timers.length === 0)
      this.changes.delete(`${input.change.source}/${input.change.id}`);
    for (const effect of outcome.effects) {
      if (effect.effect === 'withheld') {
        // One row for each alert, item and person: the first reason stands.
        const { alert, item, person } = effect.withheld;
        const key = JSON.stringify([alert, item, person]);
        if (this.withheldFor.has(key)) continue;
        this.withheldFor.add(key);
      }
      this.effects.push(effect);
    }
  }
}

/** The newest alert of a rule of which a message went to somebody, of those that have come about; with an item, one that told of it. */
function lastToldIn(effects: readonly Effect[], person: string, rule: string, item?: string): ToldBefore | undefined {
  const told = new Map<string, Set<string>>();
  for (const one of effects) {
    if (one.effect !== 'message' || one.message.toKind !== 'person' || one.message.to !== person) continue;
    for (const { alert, items } of one.message.alerts) told.set(alert, new Set([...(told.get(alert) ?? []), ...items]));
  }
  const newest = effects.reduce<Alert | undefined>((last, one) => {
    if (one.effect !== 'alert' || one.alert.rule !== rule) return last;
    const items = told.get(one.alert.id);
    return items && (item === undefined || items.has(item)) ? one.alert : last;
  }, undefined);
  if (!newest) return undefined;
  const { id, version, at, occasion, parts } = newest;
  const items = parts.map((part) => part.item);
  return { alert: id, version, at, occasion, items, parts: parts.filter((part) => told.get(id)?.has(part.item)) };
}

/** Made anew, an item has a new creator; restored, it keeps its own. */
function creatorOf(given: Change, last: ItemState | undefined): string | null {
  if (given.before !== null) return last?.createdBy ?? null;
  return given.kind === 'restored' ? (last?.createdBy ?? given.actor) : given.actor;
}

/** Where an item lies after a change and before it, where the change does not say so itself. */
function foldersOf(
  given: Change,
  known: ItemState | undefined,
  last: ItemState | undefined,
): Pick<Change, 'folder' | 'folderBefore'> {
  const isMoved = given.kind === 'moved';
  const stays = isMoved ? null : (last?.folder ?? null);
  const folder = given.folder ?? (given.after === null ? (known?.folder ?? null) : stays);
  const came = given.before === null ? null : (known?.folder ?? (isMoved ? null : folder));
  return { folder, folderBefore: given.folderBefore ?? came };
}

const byRule = (phases: Phase[]): Phase[] => phases.sort((a, b) => compareIds(a.compiled.rule.id, b.compiled.rule.id));
