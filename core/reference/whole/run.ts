import type { Scenario } from '../../decide/index.ts';
import type { Idle, Rule, StateTest } from '../../rules/index.ts';
import {
  addDays,
  atLocal,
  dateIn,
  type Instant,
  MINUTE_MS,
  moveLocal,
  nextOf,
  parseInstant,
  timesDuration,
} from '../../time/index.ts';
import type { Change, ItemState } from '../../values/index.ts';
import {
  byActor,
  conditionHolds,
  differs,
  ended,
  inDates,
  inScope,
  later,
  type Plain,
  type PlainItem,
  type Sides,
  sidesOf,
  standing,
  stateHolds,
} from './judging.ts';
import { becameIn, type Dated, type Gathering, joined, type Kept, type Live, type Parts } from './kept.ts';
import { Tallying } from './tallies.ts';
import { shownAt, Telling } from './telling.ts';

const MUTE = new Set(['created', 'changed', 'deleted', 'restored', 'renamed', 'moved']);
const sameJson = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
const byId = <T extends { id: string }>(list: readonly T[]) => new Map(list.map((one) => [one.id, one]));

/** The whole engine once more, minute by minute, as plainly as can be: one source, everything on whole minutes. */
export class WholeRun {
  private readonly world: Plain;
  private readonly telling: Telling;
  private readonly live = new Map<string, Live>();
  private readonly waiting: { rule: Rule; from: Instant; isPaused: boolean }[];
  private readonly versions = new Map<string, number>();
  private readonly before = new Map<Change, string | null>();
  private readonly dropped: { at: Instant; rule: string; item: string; changes: string[]; reason: string }[] = [];
  private gatherings: Gathering[] = [];
  private batches: { rule: Rule; key: string; parts: Parts }[] = [];
  private readonly bursts = new Map<string, Change[]>();
  private kept: Kept[] = [];
  /** Dates that fired or were passed over, and the last change of standstills that fired; for ever. */
  private readonly fired = new Set<string>();
  private now: Instant;
  private seq = 0;

  constructor(private readonly scenario: Scenario) {
    const { start, people, groups, contacts, folders, sources, access, followers, items, rules } = scenario;
    this.now = start;
    this.world = {
      people: byId(people),
      groups: byId(groups),
      contacts: byId(contacts),
      folders: byId(folders),
      source: sources[0] as Plain['source'],
      access,
      followers: [...followers],
      items: new Map(items.map((item: ItemState) => [item.id, { ...item, isThere: true }])),
    };
    this.telling = new Telling(this.world, (change) => this.before.get(change) ?? null);
    this.waiting = rules
      .map(({ rule, from }) => ({ rule, from, isPaused: false }))
      .sort((a, b) => a.from - b.from || (a.rule.id < b.rule.id ? -1 : 1));
  }

  run() {
    const { end, inputs } = this.scenario;
    const log = [...inputs];
    for (; this.now <= end; this.now += MINUTE_MS) {
      this.telling.now = this.now;
      for (const next of this.waiting.filter(({ from }) => from === this.now)) {
        this.waiting.splice(this.waiting.indexOf(next), 1);
        this.goLive(next.rule, next.isPaused);
      }
      for (; log[0] && log[0].at === this.now; log.shift()) this.take(log[0]);
      this.runBatches();
      for (const live of [...this.live.values()].sort((a, b) => (a.rule.id < b.rule.id ? -1 : 1))) this.runRule(live);
      this.telling.runTimers();
      this.telling.runGathered();
      this.telling.runAgains();
    }
    const { alerts, messages, withheld } = this.telling;
    return {
      alerts: alerts.map(shownAt),
      messages: messages.map(shownAt),
      withheld: withheld.map(shownAt),
      dropped: this.dropped.map(shownAt),
    };
  }

  private items = (): PlainItem[] =>
    [...this.world.items.values()].filter(({ isThere }) => isThere).sort((a, b) => (a.id < b.id ? -1 : 1));
  private isInScope = (rule: Rule, item: PlainItem): boolean =>
    inScope(rule, item.id, standing(item, this.now), [item.folder], this.world);
  private ifHolds = (rule: Rule, test: StateTest, item: PlainItem): boolean =>
    stateHolds(test, item.fields, this.now, this.world.source, this.judging(rule));
  private judging = ({ zone }: Pick<Rule, 'zone'>) => ({ zone, items: this.world.items });

  private goLive(rule: Rule, isPaused: boolean): void {
    const old = this.live.get(rule.id);
    const version = (this.versions.get(rule.id) ?? 0) + 1;
    this.versions.set(rule.id, version);
    const schedule = ({ due, idle, scope, zone }: Rule) => [due, idle, scope, zone];
    const goesOn = old !== undefined && sameJson(schedule(old.rule), schedule(rule));
    const live: Live = {
      rule,
      version,
      epoch: (old?.epoch ?? 0) + 1,
      isPaused: old?.isPaused ?? isPaused,
      burst: old && sameJson(old.rule.when?.burst ?? null, rule.when?.burst ?? null) ? old.burst : version,
      dated: goesOn ? old.dated : new Map(),
      still: goesOn ? old.still : new Map(),
      since: this.now,
      tally: rule.tally ? new Tallying(rule, (item) => this.isInScope(rule, item), this.items()) : null,
    };
    this.live.set(rule.id, live);
    if (!goesOn) for (const item of this.items()) this.arm(live, item, true);
  }

  private take(input: Scenario['inputs'] extends Iterable<infer I> ? I : never): void {
    this.seq++;
    if (!('do' in input)) return this.takeChange({ ...input, seq: this.seq });
    const { world } = this;
    switch (input.do) {
      case 'read':
        return this.telling.read(input.person);
      case 'acknowledge':
        return this.telling.acknowledge(input.person, input.rule, input.item);
      case 'again':
        return this.telling.again(input.person, input.rule, input.item, input.when);
      case 'publish': {
        const waits = this.waiting.find(({ rule }) => rule.id === input.rule.id);
        if (waits) waits.rule = input.rule;
        else this.goLive(input.rule, false);
        return;
      }
      case 'pause':
      case 'resume': {
        const of = this.live.get(input.rule) ?? this.waiting.find(({ rule }) => rule.id === input.rule);
        if (!of || of.isPaused === (input.do === 'pause')) return;
        of.isPaused = input.do === 'pause';
        if ('epoch' in of) of.epoch++;
        if (input.do === 'resume') this.catchUp(input.rule, input.catchUp);
        return;
      }
      case 'mute': {
        const person = world.people.get(input.person);
        const { rule, item, until } = input;
        if (person)
          world.people.set(person.id, {
            ...person,
            mutes: [
              ...(person.mutes ?? []),
              { ...(rule ? { rule } : {}), ...(item ? { item } : {}), ...(until ? { until } : {}) },
            ],
          });
        return;
      }
      case 'confirm':
      case 'unsubscribe': {
        const known = world.contacts.get(input.contact) ?? {
          id: input.contact,
          name: input.contact,
          email: input.contact,
          confirmed: false,
          unsubscribed: [],
        };
        const left =
          input.do === 'confirm'
            ? known.unsubscribed
            : input.rule === undefined || known.unsubscribed === true
              ? (true as const)
              : [...known.unsubscribed, input.rule];
        world.contacts.set(known.id, {
          ...known,
          confirmed: known.confirmed || input.do === 'confirm',
          unsubscribed: left,
        });
        return;
      }
      case 'arrive':
        this.telling.here.add(input.person);
        return;
      case 'leave':
        this.telling.here.delete(input.person);
        return;
      case 'access':
        world.access = input.access;
        return;
      default:
        input satisfies never;
    }
  }

  private takeChange(change: Change): void {
    const known = this.world.items.get(change.item);
    this.before.set(change, known?.lastBy ?? null);
    const live = [...this.live.values()].sort((a, b) => (a.rule.id < b.rule.id ? -1 : 1));
    if (change.kind === 'opened') {
      for (const one of live) if (one.rule.when) this.match(one, change);
      return;
    }
    this.world.items.set(change.item, {
      id: change.item,
      isThere: change.after !== null,
      folder: change.folder,
      fields: change.after ?? change.before ?? {},
      lastBy: change.actor,
      lastAt: change.at,
      createdBy: change.before === null && change.kind !== 'restored' ? change.actor : (known?.createdBy ?? null),
    });
    for (const alert of this.telling.raised) {
      const became = becameIn(alert.rule);
      if (
        !alert.rule.ack?.closeWhenCeased ||
        !became ||
        !alert.items.some(({ item }) => item === change.item) ||
        alert.ceased.has(change.item)
      )
        continue;
      // Somebody acknowledged it: it is of interest only as long as an all-clear may come.
      if (
        change.after === null ||
        !stateHolds(became, change.after, change.at, this.world.source, this.judging(alert.rule))
      )
        this.telling.cease(alert, change.item);
    }
    for (const one of live) {
      if (one.rule.when) this.match(one, change);
      if (!one.rule.tally) continue;
      if (change.batch === null) this.tally(one, [change]);
      else this.tallying.push({ live: one, change });
    }
    for (const one of this.live.values()) {
      const named = one.rule.scope.linked && one.rule.scope.items.includes(change.item);
      for (const item of this.world.items.values()) if (item.id === change.item || named) this.arm(one, item, false);
    }
  }

  /** Tallies of batches that are still coming in. */
  private tallying: { live: Live; change: Change }[] = [];

  private tally({ rule, version, isPaused, tally }: Live, changes: readonly Change[]): void {
    const itemOf = (id: string) => this.world.items.get(id) as PlainItem;
    for (const moved of tally?.take(changes, itemOf) ?? []) {
      const parts = moved.flatMap((part) => {
        const told = part.changes.filter(
          (change) =>
            ((rule.tally?.kinds ?? []).length === 0 || rule.tally?.kinds.includes(change.kind)) &&
            byActor(rule, change.actor, this.world) &&
            inDates(rule, sidesOf(change)),
        );
        return told.length > 0 ? [{ ...part, changes: told }] : [];
      });
      if (parts.length === 0) continue;
      if (isPaused) this.kept.push({ rule, version, batch: null, parts, holds: () => true });
      else this.telling.raise(rule, this.now, parts);
    }
  }

  /** Tallies take what came of each batch at once. */
  private runTallies(): void {
    const { tallying } = this;
    this.tallying = [];
    const groups = new Map<string, { live: Live; changes: Change[] }>();
    for (const { live, change } of tallying) {
      const key = `${live.rule.id} ${live.version} ${change.batch}`;
      groups.set(key, { live, changes: [...(groups.get(key)?.changes ?? []), change] });
    }
    for (const { live, changes } of [...groups.values()].sort((a, b) => (a.live.rule.id < b.live.rule.id ? -1 : 1)))
      if (this.live.get(live.rule.id) === live) this.tally(live, changes);
  }

  private report({ rule, since, isPaused }: Live): void {
    const { report } = rule;
    if (!report || this.now <= since || nextOf(report, this.now - MINUTE_MS, rule.zone) !== this.now) return;
    const day = dateIn(this.now, rule.zone);
    if (isPaused || (rule.during.from && day < rule.during.from) || (rule.during.until && day > rule.during.until))
      return;
    const items = this.items().filter((item) => this.isInScope(rule, item) && this.ifHolds(rule, report.if, item));
    const parts = items.map(({ id }) => ({ item: id, changes: [] }));
    if (parts.length > 0) this.telling.raise(rule, this.now, parts, 'report');
    else if (report.empty) this.telling.raiseEmpty(rule, this.now);
  }

  private match(live: Live, change: Change): void {
    const { rule, isPaused, epoch } = live;
    const sides = sidesOf(change);
    const isAdmitted =
      ((rule.when?.kinds.length === 0 && change.kind !== 'opened') || rule.when?.kinds.includes(change.kind)) &&
      inScope(rule, change.item, sides, [change.folder, change.folderBefore], this.world);
    const gathering = this.gatherings.find(
      (one) => one.rule === rule && one.epoch === epoch && one.item === change.item,
    );
    if (gathering && !isPaused) {
      if (isAdmitted) gathering.changes.push(change);
      return;
    }
    if (
      !isAdmitted ||
      !byActor(rule, change.actor, this.world) ||
      !inDates(rule, sides) ||
      !conditionHolds(rule.when?.if ?? { all: [] }, sides, this.world.source, this.judging(rule))
    )
      return;
    if (rule.pace.kind === 'settled' && !isPaused) {
      this.gatherings.push({ rule, epoch, item: change.item, changes: [change] });
      return;
    }
    const changes = rule.when?.burst ? this.burst(live, change) : [change];
    if (!changes) return;
    const parts = changes.map((one) => ({ item: one.item, changes: [one] }));
    if (isPaused) this.kept.push({ rule, version: live.version, batch: change.batch, parts });
    else if (change.batch === null) this.telling.raise(rule, this.now, parts);
    else {
      const key = rule.together ? change.batch : `${change.batch}|${change.id}`;
      const batch = this.batches.find((one) => one.rule === rule && one.key === key);
      if (batch) batch.parts.push(...parts);
      else this.batches.push({ rule, key, parts });
    }
  }

  private burst({ rule, burst: since }: Live, change: Change): Change[] | null {
    const burst = rule.when?.burst;
    if (!burst) return null;
    const key = `${rule.id}|${since}|${burst.per === 'item' ? change.item : burst.per === 'actor' ? change.actor : ''}`;
    const from = later(change.at, burst.within, rule.zone, -1);
    const counted = [...(this.bursts.get(key) ?? []).filter(({ at }) => at >= from), change];
    this.bursts.set(key, counted.length >= burst.count ? [] : counted);
    return counted.length >= burst.count ? counted : null;
  }

  private runBatches(): void {
    this.runTallies();
    const { batches } = this;
    this.batches = [];
    // In order of rule id, then of the change that each began with: of a burst that is the first it counted.
    const began = ({ parts }: { parts: Parts }) =>
      Math.min(...parts.flatMap(({ changes }) => changes.map(({ seq = 0 }) => seq)));
    for (const { rule, parts } of batches.sort(
      (a, b) => (a.rule.id < b.rule.id ? -1 : a.rule.id > b.rule.id ? 1 : 0) || began(a) - began(b),
    ))
      this.telling.raise(rule, this.now, parts);
  }

  private runRule(live: Live): void {
    this.report(live);
    const settled = this.gatherings
      .filter((one) => one.rule.id === live.rule.id && this.settles(one) === this.now)
      .sort((a, b) => (a.item < b.item ? -1 : 1));
    this.gatherings = this.gatherings.filter((one) => !settled.includes(one));
    const groups = new Map<string, { rule: Rule; parts: Parts }>();
    for (const { rule, epoch, item, changes } of settled) {
      if (!this.isStillSo(rule, changes)) this.drop(rule, { item, changes }, 'undone');
      else {
        const [first] = changes;
        const key =
          first?.batch && rule.together ? `${this.versions.get(rule.id)}|${first.batch}` : `|${epoch}|${item}`;
        groups.set(key, { rule, parts: [...(groups.get(key)?.parts ?? []), { item, changes }] });
      }
    }
    for (const { rule, parts } of groups.values()) this.telling.raise(rule, this.now, parts);
    if (live.rule.due) this.runDated(live);
    if (live.rule.idle) this.runStill(live, live.rule.idle);
  }

  private settles({ rule, changes }: Gathering): Instant {
    const { pace, zone } = rule;
    if (pace.kind !== 'settled') return Number.NaN;
    return Math.min(later(changes.at(-1)?.at ?? 0, pace.quiet, zone), later(changes[0]?.at ?? 0, pace.most, zone));
  }

  /** Whether what came of changes of one item still matches, the item being as it is now. */
  private isStillSo(rule: Rule, changes: Change[]): boolean {
    const [first] = changes as [Change];
    const last = changes.at(-1) as Change;
    const item = this.world.items.get(first.item) as PlainItem;
    const sides: Sides = {
      at: last.at,
      before: first.before,
      after: item.isThere ? item.fields : null,
      last: item.fields,
    };
    if (first.before === null && !item.isThere) return false;
    const isSame =
      first.before !== null &&
      item.isThere &&
      item.folder === first.folderBefore &&
      !differs(this.world.source, first.before, item.fields);
    if (isSame && changes.every(({ kind }) => MUTE.has(kind))) return false;
    return (
      inScope(rule, first.item, sides, [item.folder, first.folderBefore], this.world) &&
      conditionHolds(rule.when?.if ?? { all: [] }, sides, this.world.source, this.judging(rule)) &&
      inDates(rule, sides)
    );
  }

  private drop({ id }: Rule, { item, changes }: Parts[number], reason: string): void {
    this.dropped.push({ at: this.now, rule: id, item, changes: changes.map((change) => change.id), reason });
  }

  private catchUp(id: string, how: 'each' | 'summary' | 'skip'): void {
    const mine = this.kept.filter(({ rule }) => rule.id === id);
    this.kept = this.kept.filter(({ rule }) => rule.id !== id);
    const matches: Kept[] = [];
    for (const one of mine) {
      const [part] = one.parts;
      const known =
        one.rule.pace.kind === 'settled' && !one.holds
          ? matches.find(
              ({ rule, version, parts }) =>
                rule === one.rule && version === one.version && parts[0]?.item === part?.item,
            )
          : undefined;
      if (known && part) known.parts[0]?.changes.push(...part.changes);
      else matches.push({ ...one, parts: joined(one.parts) });
    }
    const standingStill = matches.filter((one) => {
      const holds = one.holds
        ? one.holds()
        : one.rule.pace.kind !== 'settled' || this.isStillSo(one.rule, one.parts[0]?.changes ?? []);
      if (!holds) for (const part of one.parts) this.drop(one.rule, part, 'undone');
      return holds;
    });
    const groups = new Map<string, Kept[]>();
    for (const [at, one] of standingStill.entries()) {
      const key =
        how === 'summary'
          ? String(one.version)
          : one.batch !== null && (one.rule.together || one.batch.startsWith('golive'))
            ? `${one.version}|${one.batch}`
            : `|${at}`;
      groups.set(key, [...(groups.get(key) ?? []), one]);
    }
    for (const group of groups.values()) {
      const [{ rule }] = group as [Kept];
      const parts = group.flatMap((one) => one.parts);
      if (how === 'skip') for (const one of parts) this.drop(rule, one, 'skipped');
      else this.telling.raise(rule, this.now, parts);
    }
  }

  private arm(live: Live, item: PlainItem, isAtGoLive: boolean): void {
    // Each lead time as if it were a rule's only one.
    for (const lead of [live.rule.due?.offset ?? []].flat()) this.armDated(live, lead, item, isAtGoLive);
    if (live.rule.idle) this.armStill(live, live.rule.idle, item, isAtGoLive);
  }

  private keyOfDate = ({ id, due }: Rule, lead: string, item: string, value: string | null) =>
    `${id}|${item}|${due?.field}|${lead}|${value}`;

  private armDated({ rule, dated }: Live, lead: string, item: PlainItem, isAtGoLive: boolean): void {
    const { due, zone } = rule;
    if (!due) return;
    const raw = item.isThere ? item.fields[due.field] : null;
    const isDay = this.world.source.fields.find(({ id }) => id === due.field)?.type === 'date';
    const value = ended(raw) ? null : isDay ? String(raw) : String(parseInstant(String(raw)));
    const isInside = item.isThere && this.isInScope(rule, item);
    const known = dated.get(`${item.id} ${lead}`);
    if (known && known.value === value && known.isInside === isInside) return;
    const fresh: Dated = { value, isInside, next: null, first: null, repeats: 0, day: null };
    dated.set(`${item.id} ${lead}`, fresh);
    if (value === null || !isInside || this.fired.has(this.keyOfDate(rule, lead, item.id, value))) return;
    const local = isDay
      ? { day: value, time: due.at ?? '09:00' }
      : due.at === null
        ? null
        : { day: dateIn(Number(value), zone), time: due.at };
    const moved = local
      ? moveLocal(local.day, local.time, lead, zone)
      : { at: later(Number(value), lead, zone), day: null };
    const isOver = isDay ? this.now >= atLocal(addDays(value, 1), '00:00', zone) : this.now > Number(value);
    if (moved.at >= this.now) Object.assign(fresh, { next: moved.at, day: moved.day });
    else if (!isAtGoLive && due.late === 'now' && !isOver) fresh.next = this.now;
  }

  private runDated(live: Live): void {
    const { rule } = live;
    const { due, zone } = rule;
    const parts: Parts = [];
    const holding: (() => boolean)[] = [];
    for (const [at, one] of [...live.dated].sort(([a], [b]) => (a < b ? -1 : 1))) {
      const [id = '', lead = ''] = at.split(' ');
      const item = this.world.items.get(id) as PlainItem;
      if (!due || one.next !== this.now) continue;
      one.next = null;
      if (!item.isThere || !this.isInScope(rule, item)) {
        one.isInside = false;
        continue;
      }
      this.fired.add(this.keyOfDate(rule, lead, id, one.value));
      const isOn = inDates(rule, standing(item, this.now));
      if (!this.ifHolds(rule, due.if, item) || (!one.first && !isOn)) continue;
      one.first ??= { at: this.now, day: one.day };
      if (due.repeat && one.repeats < due.repeat.times) {
        one.repeats++;
        const every = timesDuration(due.repeat.every, one.repeats);
        const time = due.at ?? '09:00';
        one.next =
          one.first.day === null
            ? later(one.first.at, every, zone)
            : moveLocal(one.first.day, time, every, zone).at + (one.first.at - atLocal(one.first.day, time, zone));
      }
      if (!isOn || parts.some((part) => part.item === id)) continue;
      parts.push({ item: id, changes: [] });
      const { value } = one;
      holding.push(() => {
        const then = this.world.items.get(id) as PlainItem;
        const raw = then.fields[due.field];
        const stands = ended(raw)
          ? null
          : this.world.source.fields.find((field) => field.id === due.field)?.type === 'date'
            ? String(raw)
            : String(parseInstant(String(raw)));
        return then.isThere && stands === value && this.isInScope(rule, then) && this.ifHolds(rule, due.if, then);
      });
    }
    this.tellSchedule(live, parts, holding, `due@${this.now}`);
  }

  private armStill({ rule, still }: Live, idle: Idle, item: PlainItem, isAtGoLive: boolean): void {
    if (!item.isThere) {
      still.delete(item.id);
      return;
    }
    const lastAt = item.lastAt ?? this.scenario.start;
    const instant = later(lastAt, idle.for, rule.zone);
    const isInside = this.isInScope(rule, item);
    const known = still.get(item.id);
    const isPast = instant <= this.now;
    const hasEntered = isInside && !known?.isInside;
    const isFired = this.fired.has(`${rule.id}|${item.id}|${lastAt}`);
    if (known && isFired) {
      known.isInside = isInside;
      return;
    }
    const next = !isPast
      ? instant
      : known?.next === this.now
        ? this.now
        : (hasEntered || isAtGoLive) && isInside
          ? this.now
          : null;
    still.set(item.id, {
      isInside,
      next: isFired ? null : next,
      first: null,
      repeats: 0,
      isAtGoLive: (isAtGoLive && isPast) || (known?.isAtGoLive === true && known.next === this.now),
    });
  }

  private runStill(live: Live, idle: Idle): void {
    const { rule } = live;
    const parts: Parts = [];
    const holding: (() => boolean)[] = [];
    const first: Parts = [];
    for (const [id, one] of [...live.still].sort(([a], [b]) => (a < b ? -1 : 1))) {
      const item = this.world.items.get(id) as PlainItem;
      if (one.next !== this.now) continue;
      one.next = null;
      one.isInside = this.isInScope(rule, item);
      if (!one.isInside || !this.ifHolds(rule, idle.if, item)) continue;
      const lastAt = item.lastAt ?? this.scenario.start;
      this.fired.add(`${rule.id}|${id}|${lastAt}`);
      const isOn = inDates(rule, standing(item, this.now));
      if (one.first === null && !isOn) continue;
      one.first ??= this.now;
      if (idle.repeat && one.repeats < idle.repeat.times) {
        one.repeats++;
        one.next = later(one.first, idle.repeat.every, rule.zone, one.repeats);
      }
      if (!isOn) continue;
      parts.push({ item: id, changes: [] });
      if (one.isAtGoLive) first.push({ item: id, changes: [] });
      one.isAtGoLive = false;
      holding.push(() => {
        const then = this.world.items.get(id) as PlainItem;
        return (
          then.isThere &&
          (then.lastAt ?? this.scenario.start) === lastAt &&
          this.isInScope(rule, then) &&
          this.ifHolds(rule, idle.if, then)
        );
      });
    }
    this.tellSchedule(
      live,
      parts,
      holding,
      `idle@${this.now}`,
      first.map(({ item }) => item),
    );
  }

  private tellSchedule(
    { rule, version, isPaused }: Live,
    parts: Parts,
    holding: (() => boolean)[],
    batch: string,
    atGoLive: string[] = [],
  ): void {
    if (parts.length === 0) return;
    if (isPaused) {
      for (const [at, part] of parts.entries())
        this.kept.push({
          rule,
          version,
          batch: atGoLive.includes(part.item) ? `golive ${batch}` : batch,
          parts: [part],
          holds: holding[at] as () => boolean,
        });
    } else if (rule.together) this.telling.raise(rule, this.now, parts);
    else {
      const one = parts.filter(({ item }) => atGoLive.includes(item));
      for (const group of [one, ...parts.filter((part) => !one.includes(part)).map((part) => [part])])
        if (group.length > 0) this.telling.raise(rule, this.now, group);
    }
  }
}
