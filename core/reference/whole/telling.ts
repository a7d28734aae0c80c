import {
  CHANNELS,
  type Channel,
  type DigestPace,
  type Person,
  type QuietHours,
  type Selector,
  type Step,
  type Urgency,
} from '../../people/index.ts';
import type { Rule } from '../../rules/index.ts';
import {
  addDays,
  dateIn,
  type Instant,
  isCivilDate,
  MINUTE_MS,
  nextOf,
  parseInstant,
  printInstant,
  timeIn,
  weekday,
  WEEKDAYS,
} from '../../time/index.ts';
import type { Change } from '../../values/index.ts';
import { later, mayRead, members, type Plain, type PlainItem, reached, type Seen, stateHolds } from './judging.ts';

/** An alert as it arose. */
export interface Told {
  rule: Rule;
  at: Instant;
  /** In the order in which alerts arose. */
  nth: number;
  items: { item: string; changes: Change[] }[];
  /** Which items somebody heard of, by their key. */
  heard: Map<string, string[]>;
  escalated: Map<string, string[]>;
  sent: Map<string, Map<Channel, Set<string>>>;
  readBy: Set<string>;
  messagedTo: Set<string>;
  acknowledged: Set<string>;
  ceased: Set<string>;
  /** By which steps somebody was told of an item, by their key and its id. */
  steps: Map<string, Step[]>;
  /** The items that messages told somebody of. */
  messaged: Map<string, Set<string>>;
  isOpen: boolean;
}

/** Somebody whom entries of a rule reached for one item, in their own right or in another's place. */
interface Asked {
  to: string;
  part: Told['items'][number];
  entries: Selector[];
  standsIn: boolean;
}

interface Entry {
  alert: Told;
  items: string[];
  isDelayed: boolean;
}
interface Outgoing {
  to: string;
  channel: Channel;
  form: string;
  entries: Entry[];
}

const RANK: Urgency[] = ['routine', 'important', 'critical'];
const DEFAULTS: Record<Urgency, Step[]> = {
  routine: [{ channel: 'inApp' }, { channel: 'email', pace: { kind: 'digest', every: 'day', at: '08:30' } }],
  important: [{ channel: 'inApp' }, { channel: 'email', after: 'PT15M' }],
  critical: [{ channel: 'inApp' }, { channel: 'email' }, { channel: 'text', after: 'PT5M' }],
};

/** The naive twin of all that follows once a rule has caught something: who hears, by what, when, and who is withheld. */
export class Telling {
  readonly alerts: { at: Instant; rule: string; items: string[]; changes: string[]; suppressed: number }[] = [];
  readonly messages: {
    at: Instant;
    to: string;
    channel: Channel;
    form: string;
    alerts: { rule: string; items: string[] }[];
  }[] = [];
  readonly withheld: { at: Instant; rule: string; item: string; changes: string[]; person: string; reason: string }[] =
    [];
  readonly raised: Told[] = [];
  readonly here = new Set<string>();
  private readonly rows = new Set<string>();
  private readonly coolDowns = new Map<string, { since: Instant; suppressed: number }>();
  private pending: { due: Instant; to: string; step: Step; form: string; entry: Entry }[] = [];
  private waiting: {
    due: Instant;
    to: string;
    channel: Channel;
    entry: Entry;
    isAskedUnread: boolean;
    isAskedAway: boolean;
  }[] = [];
  private held: { until: Instant; message: Outgoing }[] = [];
  private count = 0;

  constructor(
    private readonly world: Plain,
    private readonly lastEditorBefore: (change: Change) => string | null,
  ) {}

  /** Of changes, or of dates and standstills where a part has none. */
  raise(
    rule: Rule,
    at: Instant,
    parts: { item: string; changes: Change[] }[],
    form: 'single' | 'report' = 'single',
  ): void {
    const byItem = new Map<string, Change[]>();
    for (const { item, changes } of parts) byItem.set(item, [...(byItem.get(item) ?? []), ...changes]);
    const seq = (change: Change | undefined) => change?.seq ?? 0;
    const whole = [...byItem].map(([item, changes]) => ({
      item,
      changes: [...new Set(changes)].sort((a, b) => seq(a) - seq(b)),
    }));
    whole.sort((a, b) => (a.changes[0] ? seq(a.changes[0]) - seq(b.changes[0]) : a.item < b.item ? -1 : 1));
    const cooled = new Set<string>();
    const keyOf = (item: string) => `${rule.id}|${rule.limit?.per === 'item' ? item : ''}`;
    let suppressed = 0;
    for (const key of rule.limit ? new Set(whole.map(({ item }) => keyOf(item))) : []) {
      const known = this.coolDowns.get(key);
      if (known && rule.limit && at < later(known.since, rule.limit.within, rule.zone)) {
        known.suppressed += 1;
        cooled.add(key);
      } else {
        suppressed += known?.suppressed ?? 0;
        this.coolDowns.set(key, { since: at, suppressed: 0 });
      }
    }
    const isCooled = (item: string) => rule.limit !== null && cooled.has(keyOf(item));
    const listed = whole.filter(({ item }) => !isCooled(item));
    const alert: Told = {
      rule,
      at,
      nth: this.count++,
      items: listed,
      heard: new Map(),
      escalated: new Map(),
      sent: new Map(),
      readBy: new Set(),
      messagedTo: new Set(),
      acknowledged: new Set(),
      ceased: new Set(),
      steps: new Map(),
      messaged: new Map(),
      isOpen: rule.ack !== null && listed.length > 0,
    };
    if (listed.length > 0) {
      this.raised.push(alert);
      this.alerts.push({
        at,
        rule: rule.id,
        items: listed.map(({ item }) => item),
        changes: listed
          .flatMap(({ changes }) => changes)
          .sort((a, b) => seq(a) - seq(b))
          .map(({ id }) => id),
        suppressed,
      });
    }
    this.judge(alert, whole, isCooled);
    this.tell(alert, form);
  }

  /** Each step goes with the items that have it; the same step twice is taken twice. */
  private tell(alert: Told, form: string): void {
    for (const [to, items] of alert.heard) {
      const taken = new Map<string, { step: Step; items: string[] }>();
      for (const item of items) {
        const times = new Map<string, number>();
        for (const step of alert.steps.get(`${to} ${item}`) ?? []) {
          const text = JSON.stringify(step);
          times.set(text, (times.get(text) ?? 0) + 1);
          const key = `${times.get(text)} ${text}`;
          taken.set(key, { step, items: [...(taken.get(key)?.items ?? []), item] });
        }
      }
      for (const { step, items: some } of taken.values()) {
        const { pace: _, ...atOnce } = step;
        this.takeSteps(to, [form === 'report' ? atOnce : step], form, { alert, items: some, isDelayed: false });
      }
    }
  }

  /** A report with nothing in it goes to those whom the rule names by themselves or by their group. */
  raiseEmpty(rule: Rule, at: Instant): void {
    const alert: Told = {
      rule,
      at,
      nth: this.count++,
      items: [],
      heard: new Map(),
      escalated: new Map(),
      sent: new Map(),
      readBy: new Set(),
      messagedTo: new Set(),
      acknowledged: new Set(),
      ceased: new Set(),
      steps: new Map(),
      messaged: new Map(),
      isOpen: false,
    };
    this.raised.push(alert);
    this.alerts.push({ at, rule: rule.id, items: [], changes: [], suppressed: 0 });
    const named = (selectors: readonly Selector[]) =>
      selectors.flatMap((entry) => {
        const one = entry !== '*' && 'tell' in entry ? entry.tell : entry;
        if (one === '*') return [];
        const ids = 'person' in one ? [one.person] : 'group' in one ? members(one.group, this.world) : [];
        return ids.map((id) => ({ id, entry }));
      });
    const left = new Set(named(rule.except).map(({ id }) => id));
    for (const id of new Set(named(rule.to).map((one) => one.id))) {
      const person = this.world.people.get(id);
      if (!person?.active || left.has(id) || this.isAway(person, at) || this.isMuted(person, rule, '', at)) continue;
      const entries = named(rule.to).flatMap((one) => (one.id === id ? [one.entry] : []));
      alert.heard.set(id, ['']);
      alert.steps.set(`${id} `, this.stepsOf(id, rule, { part: { item: '', changes: [] }, entries }));
    }
    this.tell(alert, 'report');
  }

  private judge(alert: Told, whole: Told['items'], isCooled: (item: string) => boolean): void {
    const { rule } = alert;
    const asked = whole.flatMap((part) => {
      const item = this.world.items.get(part.item) as PlainItem;
      const seen = this.seenOf(rule, part, item);
      return reached(rule.to, item, seen, this.world).map((to): Asked => {
        const entries = rule.to.filter((entry) => reached([entry], item, seen, this.world).includes(to));
        return { to, part, entries, standsIn: false };
      });
    });
    // Whoever is away hands on what reached them; of that, who stands in hands nothing on.
    const deputies = asked.flatMap((one): Asked[] => {
      const person = this.world.people.get(one.to);
      const deputy = person?.plan?.absent?.deputy;
      if (!deputy || !this.world.people.has(deputy)) return [];
      if (this.reasonOf(alert, one, asked, isCooled) !== 'absent') return [];
      return [{ ...one, to: deputy, standsIn: true }];
    });
    const all: Asked[] = [];
    for (const one of [...asked, ...deputies]) {
      const known = all.find((other) => other.to === one.to && other.part === one.part);
      if (!known) all.push({ ...one });
      else {
        known.entries = [...known.entries, ...one.entries];
        known.standsIn ||= one.standsIn;
      }
    }
    for (const one of all) {
      const { to, part } = one;
      const reason = this.reasonOf(alert, one, all, isCooled);
      if (reason === 'passedOver') continue;
      if (reason) this.withhold(alert, part, to, reason, alert.at);
      else if (alert.items.includes(part)) {
        alert.heard.set(to, [...(alert.heard.get(to) ?? []), part.item]);
        alert.steps.set(`${to} ${part.item}`, this.stepsOf(to, rule, one));
      }
    }
  }

  private firstReason({ rule }: Told, { to, part, standsIn }: Asked): string | null {
    const item = this.world.items.get(part.item) as PlainItem;
    const seen = this.seenOf(rule, part, item);
    const person = this.world.people.get(to);
    if (reached(rule.except, item, seen, this.world).includes(to)) return 'excluded';
    if (person && !person.active) return 'inactive';
    if (!mayRead(person ? to : rule.owner, item, this.world)) return 'noAccess';
    return standsIn || this.isTheirs(to, rule, item, seen) ? null : 'notTheirs';
  }

  private isOwn({ rule }: Told, { to, part }: Asked): boolean {
    const person = this.world.people.get(to);
    const hearsOwn = person?.plan?.ownChanges ?? rule.ownChanges;
    return (
      person !== undefined && !hearsOwn && part.changes.length > 0 && part.changes.every(({ actor }) => actor === to)
    );
  }

  private reasonOf(alert: Told, one: Asked, all: Asked[], isCooled: (item: string) => boolean): string | null {
    const { rule, at } = alert;
    const { to, part } = one;
    const person = this.world.people.get(to);
    const first = this.firstReason(alert, one);
    if (first) return first;
    if (this.isOwn(alert, one))
      return all.some((other) => other.to === to && !this.firstReason(alert, other) && !this.isOwn(alert, other))
        ? 'passedOver'
        : 'ownChange';
    if (person && this.isMuted(person, rule, part.item, at)) return 'muted';
    if (person && this.isAway(person, at)) return 'absent';
    const left = person ? null : this.leftOrUnconfirmed(to, rule);
    if (left) return left;
    if (isCooled(part.item)) return 'coolDown';
    const isUnreachable = person
      ? this.stepsOf(to, rule, one).length === 0
      : to.startsWith('contact:') && !this.contactOf(to).email;
    return isUnreachable ? 'noChannel' : null;
  }

  private isAway = ({ plan, zone }: Person, at: Instant): boolean =>
    plan?.absent !== undefined && dateIn(at, zone) >= plan.absent.from && dateIn(at, zone) <= plan.absent.until;

  private seenOf({ zone }: Rule, { changes }: { changes: Change[] }, item: PlainItem, told: string[] = []): Seen {
    const [first] = changes;
    const mentions = changes.flatMap(({ kind, detail }) => (kind === 'commented' ? (detail.mentions ?? []) : []));
    const on = { zone, items: this.world.items };
    return {
      lastBy: first ? this.lastEditorBefore(first) : item.lastBy,
      mentions,
      told,
      isSo: (test) => stateHolds(test, item.fields, this.now, this.world.source, on),
    };
  }

  private isTheirs(to: string, { about }: Rule, item: PlainItem, seen: Seen): boolean {
    if (about === 'createdByRecipient') return item.createdBy === to;
    if (about === 'lastEditedByRecipient') return seen.lastBy === to;
    if (about === 'any') return true;
    return this.world.source.fields.some(
      ({ id, type }) => (type === 'person' || type === 'people') && [item.fields[id]].flat().includes(to),
    );
  }

  private isMuted(person: Person, rule: Rule, item: string, at: Instant): boolean {
    return (person.mutes ?? []).some((mute) => {
      const isOver =
        mute.until !== undefined &&
        (isCivilDate(mute.until) ? dateIn(at, person.zone) > mute.until : at >= (parseInstant(mute.until) ?? 0));
      return (
        !isOver && (mute.rule === undefined || mute.rule === rule.id) && (mute.item === undefined || mute.item === item)
      );
    });
  }

  private contactOf(to: string): { email: string | null; confirmed: boolean; unsubscribed: true | readonly string[] } {
    const id = to.replace(/^contact:/, '');
    return this.world.contacts.get(id) ?? { email: id, confirmed: false, unsubscribed: [] };
  }

  private leftOrUnconfirmed(to: string, rule: Rule): string | null {
    if (to.startsWith('webhook:')) return null;
    const { confirmed, unsubscribed } = this.contactOf(to);
    return !confirmed ? 'unconfirmed' : unsubscribed === true || unsubscribed.includes(rule.id) ? 'unsubscribed' : null;
  }

  private withhold(
    { rule, nth }: Told,
    { item, changes }: Told['items'][number],
    to: string,
    reason: string,
    at: Instant,
  ): void {
    const key = `${nth}|${item}|${to}`;
    if (this.rows.has(key)) return;
    this.rows.add(key);
    this.withheld.push({
      at,
      rule: rule.id,
      item,
      changes: changes.map(({ id }) => id),
      person: to.replace(/^(contact|webhook):/, ''),
      reason,
    });
  }

  private usable({ plan, email, phone }: Person, steps: Step[]): Step[] {
    return steps.filter(
      ({ channel }) =>
        channel === 'inApp' ||
        (!plan?.off?.includes(channel) && (channel === 'email' ? email : channel === 'text' ? phone : null)),
    );
  }

  /** The steps by which somebody is told of an item: by what the entries that reached them say, else by what it is. */
  private stepsOf(to: string, rule: Rule, { part, entries }: Pick<Asked, 'part' | 'entries'>): Step[] {
    const person = this.world.people.get(to);
    if (!person) return [{ channel: to.startsWith('webhook:') ? 'webhook' : 'email' }];
    const told = [...new Set(entries.flatMap((entry) => (entry !== '*' && 'tell' in entry ? entry.channels : [])))];
    const isPlain = entries.some((entry) => entry === '*' || !('tell' in entry));
    const kind = part.changes.at(-1)?.kind;
    const source = part.item === '' ? undefined : this.world.source.id;
    const by = (channels: Channel[] | null): Step[] => {
      const own = person.plan?.own?.[rule.id];
      const fixed = channels?.map((channel): Step => ({ channel }));
      if (own && fixed && rule.urgency === 'critical')
        return [...fixed, ...own.filter(({ channel }) => !channels?.includes(channel))];
      if (own || fixed) return own ?? fixed ?? [];
      const usual = person.plan?.reach?.[rule.urgency] ?? DEFAULTS[rule.urgency];
      const ways = person.plan?.ways?.find(
        (one) =>
          (!one.sources || (source !== undefined && one.sources.includes(source))) &&
          (!one.kinds || (kind !== undefined && one.kinds.includes(kind))),
      );
      if (!ways) return usual;
      return rule.urgency === 'critical'
        ? [...usual, ...ways.steps.filter(({ channel }) => !usual.some((step) => step.channel === channel))]
        : ways.steps;
    };
    if (told.length === 0) return this.usable(person, by(rule.channels));
    const first = by(told);
    const rest = isPlain
      ? by(rule.channels).filter((step) => !told.includes(step.channel) && !first.includes(step))
      : [];
    return this.usable(person, [...first, ...rest]);
  }

  private urgentSteps(person: Person): Step[] {
    return this.usable(person, person.plan?.reach?.critical ?? DEFAULTS.critical).map(({ pace: _, ...step }) => step);
  }

  private takeSteps(to: string, steps: Step[], form: string, entry: Entry): void {
    const { rule } = entry.alert;
    const at = form === 'single' || form === 'report' ? entry.alert.at : this.now;
    const zone = this.world.people.get(to)?.zone ?? rule.zone;
    for (const step of steps) {
      const isAway = step.when === 'away';
      if (form === 'single' && rule.pace.kind === 'digest') {
        const due = nextOf(rule.pace, at, rule.pace.zone ?? zone);
        this.join(
          to,
          step.channel,
          step.after ? later(due, step.after, zone) : due,
          entry,
          step.after !== undefined,
          isAway,
        );
      } else if (step.after !== undefined)
        this.pending.push({ due: later(at, step.after, zone), to, step, form, entry });
      else if (!isAway || !this.here.has(to)) this.take(to, step, form, entry);
    }
  }

  private take(to: string, { channel, pace }: Step, form: string, entry: Entry): void {
    const zone = this.world.people.get(to)?.zone ?? 'UTC';
    if (pace?.kind === 'digest')
      this.join(to, channel, nextOf(pace as DigestPace, this.now, pace.zone ?? zone), entry, false, false);
    else this.goOut({ to, channel, form, entries: [entry] });
  }

  private join(
    to: string,
    channel: Channel,
    due: Instant,
    entry: Entry,
    isAskedUnread: boolean,
    isAskedAway: boolean,
  ): void {
    if (!isAskedUnread && !isAskedAway) this.noteSent(to, channel, [entry]);
    this.waiting.push({ due, to, channel, entry, isAskedUnread, isAskedAway });
  }

  private noteSent(to: string, channel: Channel, entries: Entry[]): void {
    for (const { alert, items } of entries) {
      const byChannel = alert.sent.get(to) ?? new Map<Channel, Set<string>>();
      alert.sent.set(to, byChannel.set(channel, new Set([...(byChannel.get(channel) ?? []), ...items])));
    }
  }

  /** What may still be told of an entry; the rest is withheld. */
  private judgedAgain(to: string, entries: Entry[], isAgain = false): Entry[] {
    return entries.flatMap((entry) => {
      const { rule, items } = entry.alert;
      const left = entry.items.filter((id) => {
        const reader = this.world.people.get(to);
        if (id === '') return !(reader && this.isMuted(reader, rule, '', this.now));
        const item = this.world.items.get(id) as PlainItem;
        const person = this.world.people.get(to);
        const hasLeft =
          to.startsWith('contact:') &&
          (this.contactOf(to).unsubscribed === true || [this.contactOf(to).unsubscribed].flat().includes(rule.id));
        const reason = !mayRead(person ? to : rule.owner, item, this.world)
          ? 'noAccess'
          : person && this.isMuted(person, rule, id, this.now)
            ? 'muted'
            : hasLeft
              ? 'unsubscribed'
              : null;
        // A row names the changes told, as the message would have.
        const part = items.find((one) => one.item === id) as Told['items'][number];
        const own =
          person && !(person.plan?.ownChanges ?? rule.ownChanges) && (isAgain || !entry.alert.escalated.has(to))
            ? part.changes.filter(({ actor }) => actor !== to)
            : part.changes;
        if (reason) this.withhold(entry.alert, { item: id, changes: own }, to, reason, this.now);
        return reason === null;
      });
      return left.length > 0 ? [{ ...entry, items: left }] : [];
    });
  }

  private goOut(message: Outgoing): void {
    const { to, channel, entries } = message;
    this.noteSent(to, channel, entries);
    const person = this.world.people.get(to);
    const isCritical = entries.some(({ alert }) => RANK.indexOf(alert.rule.urgency) === 2);
    const until = person && (channel === 'email' || channel === 'text') && !isCritical ? this.quietUntil(person) : null;
    if (until === null) this.send(message);
    else this.held.push({ until, message });
  }

  private quietUntil({ plan, zone }: Person): Instant | null {
    const isQuiet = (at: Instant) => (plan?.quiet ?? []).some((window) => isInside(window, at, zone));
    if (!isQuiet(this.now)) return null;
    for (let at = this.now + MINUTE_MS; at < this.now + 9 * 1440 * MINUTE_MS; at += MINUTE_MS)
      if (!isQuiet(at)) return at;
    return null;
  }

  private send({ to, channel, form, entries }: Outgoing): void {
    const byAlert = new Map<Told, Set<string>>();
    for (const { alert, items } of [...entries].sort((a, b) => a.alert.nth - b.alert.nth))
      byAlert.set(alert, new Set([...(byAlert.get(alert) ?? []), ...items]));
    this.messages.push({
      at: this.now,
      to: to.replace(/^(contact|webhook):/, ''),
      channel,
      form,
      alerts: [...byAlert].map(([{ rule }, items]) => ({ rule: rule.id, items: [...items].filter((id) => id !== '') })),
    });
    for (const [alert, items] of byAlert) {
      alert.messagedTo.add(to);
      alert.messaged.set(to, new Set([...(alert.messaged.get(to) ?? []), ...items]));
    }
  }

  now: Instant = 0;

  read(person: string): void {
    for (const alert of this.raised) if (alert.messagedTo.has(person)) alert.readBy.add(person);
  }

  /** Asked for once more: of the newest alert of a rule that somebody had a message of. */
  again(person: string, rule: string, item: string | undefined, when: Instant): void {
    const alert = this.raised.findLast((one) => {
      const told = one.messaged.get(person);
      return one.rule.id === rule && told !== undefined && (item === undefined || told.has(item));
    });
    if (!alert || when <= this.now) return;
    this.agains = this.agains.filter((one) => one.alert !== alert || one.person !== person);
    const items = alert.items.map((part) => part.item).filter((id) => alert.messaged.get(person)?.has(id));
    this.agains.push({ alert, person, when, items });
  }

  private agains: { alert: Told; person: string; when: Instant; items: string[] }[] = [];

  private close(alert: Told): void {
    alert.isOpen = false;
    this.agains = this.agains.filter((one) => one.alert !== alert);
  }

  /** What was asked for once more comes last. */
  runAgains(): void {
    const due = this.agains.filter(({ when }) => when === this.now);
    this.agains = this.agains.filter(({ when }) => when !== this.now);
    for (const { alert, person, items } of due) {
      const left = this.judgedAgain(person, [{ alert, items, isDelayed: false }], true);
      if (left.length > 0) this.send({ to: person, channel: 'inApp', form: 'again', entries: left });
    }
  }

  acknowledge(person: string, rule: string, item: string | undefined): void {
    for (const alert of this.raised) {
      if (alert.rule.id !== rule || (item !== undefined && !alert.items.some((part) => part.item === item))) continue;
      this.agains = this.agains.filter((one) => one.alert !== alert || one.person !== person);
      if (!alert.heard.has(person) && !alert.escalated.has(person)) continue;
      alert.readBy.add(person);
      if (!alert.isOpen) continue;
      alert.acknowledged.add(person);
      const people = [...alert.heard.keys()].filter((to) => this.world.people.has(to));
      if (alert.rule.ack?.by === 'anyone' || people.every((one) => alert.acknowledged.has(one))) this.close(alert);
    }
  }

  /** The state of an alert's item is over. */
  cease(alert: Told, item: string): void {
    alert.ceased.add(item);
    if (!alert.items.every((part) => alert.ceased.has(part.item))) return;
    if (alert.isOpen) this.close(alert);
    if (!alert.rule.ack?.allClear) return;
    for (const [to, byChannel] of alert.sent) {
      for (const [channel, items] of byChannel) {
        const left = this.judgedAgain(to, [
          { alert, items: alert.items.map((part) => part.item).filter((id) => items.has(id)), isDelayed: false },
        ]);
        if (left.length > 0) this.goOut({ to, channel, form: 'allClear', entries: left });
      }
    }
  }

  /** Later steps, escalations and reminders that fall due now. */
  runTimers(): void {
    const due = this.pending.filter((one) => one.due === this.now);
    this.pending = this.pending.filter((one) => one.due !== this.now);
    for (const { to, step, form, entry } of due) {
      const { alert } = entry;
      if (alert.readBy.has(to) || (alert.rule.ack && !alert.isOpen) || (step.when === 'away' && this.here.has(to)))
        continue;
      for (const left of this.judgedAgain(to, [entry])) this.take(to, step, form, { ...left, isDelayed: true });
    }
    for (const alert of [...this.raised].sort((a, b) => (a.rule.id < b.rule.id ? -1 : a.rule.id > b.rule.id ? 1 : 0))) {
      const { ack, zone } = alert.rule;
      if (!ack || !alert.isOpen) continue;
      for (const { after, to } of ack.escalate) if (later(alert.at, after, zone) === this.now) this.escalate(alert, to);
      for (let round = 1; ack.remind && round <= ack.remind.times; round++)
        if (later(alert.at, ack.remind.after, zone, round) === this.now) this.remind(alert);
    }
  }

  private remind(alert: Told): void {
    for (const [to, items] of alert.heard) {
      const person = this.world.people.get(to);
      if (!person || alert.acknowledged.has(to) || this.urgentSteps(person).length === 0) continue;
      for (const entry of this.judgedAgain(to, [{ alert, items, isDelayed: false }]))
        this.takeSteps(to, this.urgentSteps(person), 'reminder', entry);
    }
  }

  private escalatedReason({ rule }: Told, id: string, to: string): string | null {
    const item = this.world.items.get(id) as PlainItem;
    const person = this.world.people.get(to);
    if (person && !person.active) return 'inactive';
    if (!mayRead(person ? to : rule.owner, item, this.world)) return 'noAccess';
    if (!person) {
      const left = this.leftOrUnconfirmed(to, rule);
      return left ?? (to.startsWith('contact:') && !this.contactOf(to).email ? 'noChannel' : null);
    }
    if (this.isMuted(person, rule, id, this.now)) return 'muted';
    if (this.isAway(person, this.now)) return 'absent';
    return this.urgentSteps(person).length === 0 ? 'noChannel' : null;
  }

  private escalate(alert: Told, selectors: Rule['to']): void {
    const { rule } = alert;
    const told = [...alert.heard.keys()].filter((to) => this.world.people.has(to));
    const found = new Map<string, string[]>();
    for (const part of alert.items) {
      const item = this.world.items.get(part.item) as PlainItem;
      const asked = reached(selectors, item, this.seenOf(rule, part, item, told), this.world).filter(
        (to) => !alert.acknowledged.has(to),
      );
      const reasons = new Map(asked.map((to) => [to, this.escalatedReason(alert, part.item, to)]));
      for (const [to, reason] of [...reasons]) {
        const deputy = reason === 'absent' ? this.world.people.get(to)?.plan?.absent?.deputy : null;
        if (deputy && this.world.people.has(deputy) && !alert.acknowledged.has(deputy))
          reasons.set(deputy, this.escalatedReason(alert, part.item, deputy));
      }
      for (const [to, reason] of reasons) {
        if (reason) this.withhold(alert, part, to, reason, this.now);
        else found.set(to, [...(found.get(to) ?? []), part.item]);
      }
    }
    for (const [to, items] of found) {
      alert.escalated.set(to, [...(alert.escalated.get(to) ?? []), ...items]);
      const person = this.world.people.get(to);
      const entry = { alert, items, isDelayed: false };
      if (person) this.takeSteps(to, this.urgentSteps(person), 'escalation', entry);
      else
        this.goOut({
          to,
          channel: to.startsWith('webhook:') ? 'webhook' : 'email',
          form: 'escalation',
          entries: [entry],
        });
    }
  }

  /** Digests, and the ends of quiet hours. */
  runGathered(): void {
    const due = this.waiting.filter((one) => one.due === this.now);
    this.waiting = this.waiting.filter((one) => one.due !== this.now);
    const keys = new Set(due.map(({ to, channel }) => `${channel} ${to}`));
    for (const key of keys) {
      const taken = due.filter(
        ({ to, channel, entry, isAskedUnread, isAskedAway }) =>
          `${channel} ${to}` === key &&
          !(isAskedUnread && (entry.alert.readBy.has(to) || (entry.alert.rule.ack && !entry.alert.isOpen))) &&
          !(isAskedAway && this.here.has(to)),
      );
      const [first] = taken;
      if (!first) continue;
      const left = this.judgedAgain(
        first.to,
        taken.map(({ entry, isAskedUnread }) => ({ ...entry, isDelayed: entry.isDelayed || isAskedUnread })),
      );
      if (left.length > 0) this.goOut({ to: first.to, channel: first.channel, form: 'digest', entries: left });
    }
    const over = this.held.filter(({ until }) => until === this.now);
    this.held = this.held.filter(({ until }) => until !== this.now);
    for (const to of new Set(over.map(({ message }) => message.to))) {
      for (const channel of CHANNELS) {
        const left = over
          .filter(({ message }) => message.to === to && message.channel === channel)
          .flatMap(({ message }) => {
            // One entry of an alert that came by a step without a delay too is not taken back.
            const kept = message.entries.filter(
              ({ alert, isDelayed }) =>
                !(
                  isDelayed &&
                  alert.readBy.has(to) &&
                  !message.entries.some((other) => other.alert === alert && !other.isDelayed)
                ),
            );
            const entries = this.judgedAgain(to, kept);
            return entries.length > 0 ? [{ ...message, entries }] : [];
          });
        const [only] = left;
        if (left.length === 1 && only) this.send(only);
        else if (only) this.send({ to, channel, form: 'summary', entries: left.flatMap(({ entries }) => entries) });
      }
    }
  }
}

/** Whether an instant lies in a window of quiet hours, by what the clock on the wall shows. */
function isInside({ days, from, to }: QuietHours, at: Instant, zone: string): boolean {
  const day = dateIn(at, zone);
  const time = timeIn(at, zone);
  const isOn = (date: string) => days.includes(WEEKDAYS[weekday(date) - 1] as (typeof days)[number]);
  if (from < to) return isOn(day) && time >= from && time < to;
  return from > to && ((isOn(day) && time >= from) || (isOn(addDays(day, -1)) && time < to));
}

export const shownAt = <T extends { at: Instant }>(row: T): Omit<T, 'at'> & { at: string } => ({
  ...row,
  at: printInstant(row.at),
});
