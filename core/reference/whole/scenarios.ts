import fc from 'fast-check';
import type { Act, Scenario, ScenarioInput } from '../../decide/index.ts';
import type {
  AccessEntry,
  Acknowledging,
  Channel,
  Contact,
  Person,
  Plan,
  Selector,
  Step,
  Ways,
} from '../../people/index.ts';
import type { Condition, Due, Idle, Report, Rule, StateTest, Tally } from '../../rules/index.ts';
import { instantOf, MINUTE_MS, printInstant, WEEKDAYS } from '../../time/index.ts';
import type { Change, Fields, ItemState } from '../../values/index.ts';
import { fields, FOLDERS, followsLink, ITEMS, rule, SOURCE, stateTest } from '../generate.ts';

/** A Friday evening in Madrid, two nights before the clocks there skip an hour. */
const START = instantOf('2026-03-27T20:00:00Z');
const PEOPLE = ['bo', 'ines', 'mei', 'tom'];
const RULES = ['r0', 'r1', 'r2'];
const EVERY_DAY = [...WEEKDAYS];

const maybe = <T>(arbitrary: fc.Arbitrary<T>, freq = 1) => fc.option(arbitrary, { nil: undefined, freq });
/** One in five times, else null. */
const rarely = <T>(arbitrary: fc.Arbitrary<T>): fc.Arbitrary<T | null> =>
  fc.oneof({ weight: 4, arbitrary: fc.constant(null) }, { weight: 1, arbitrary });
/** Without the keys that are undefined, as a document has them. */
const trimmed = <T extends object>(value: T): { [K in keyof T]: Exclude<T[K], undefined> } =>
  JSON.parse(JSON.stringify(value));

const digest = fc.record({
  kind: fc.constant('digest' as const),
  every: fc.constantFrom<'hour' | 'day'>('hour', 'day', 'day'),
  at: fc.constantFrom('08:30', '02:30', '21:00', '00:10'),
});
const step: fc.Arbitrary<Step> = fc
  .record({
    channel: fc.constantFrom<Channel>('inApp', 'inApp', 'email', 'email', 'text'),
    after: maybe(fc.constantFrom('PT5M', 'PT15M', 'PT3H', 'P1D')),
    when: maybe(fc.constant('away' as const)),
    pace: maybe(digest),
  })
  .map(trimmed);
const steps = fc.array(step, { maxLength: 3 });
const quiet = fc.record({
  days: fc.constantFrom(EVERY_DAY, EVERY_DAY.slice(0, 5)),
  from: fc.constantFrom('19:00', '22:00', '13:00'),
  to: fc.constantFrom('07:30', '15:00', '08:30'),
});
const ways = fc
  .record({
    sources: maybe(fc.constantFrom<string[]>([SOURCE.id], ['elsewhere'])),
    kinds: maybe(fc.subarray<Change['kind']>(['changed', 'created', 'commented'], { minLength: 1 })),
    steps,
  })
  .map((one): Ways => trimmed(one) as Ways);
const plan: fc.Arbitrary<Plan | null> = fc.option(
  fc
    .record({
      reach: maybe(fc.record({ routine: maybe(steps, 3), important: maybe(steps), critical: maybe(steps, 3) })),
      quiet: maybe(fc.array(quiet, { maxLength: 2 }), 2),
      own: maybe(fc.record({ r0: steps })),
      off: maybe(fc.subarray<Channel>(['email', 'text'])),
      ownChanges: maybe(fc.constantFrom(true, false, null)),
      ways: maybe(fc.array(ways, { minLength: 1, maxLength: 2 })),
      absent: maybe(
        fc.record({
          from: fc.constantFrom('2026-03-27', '2026-03-28'),
          until: fc.constantFrom('2026-03-28', '2026-03-29'),
          deputy: fc.constantFrom<string | null>(...PEOPLE, 'nobody', null),
        }),
        3,
      ),
    })
    .map((one): Plan => trimmed(one) as Plan),
  { freq: 4 },
);

const person = (id: string, at: number): fc.Arbitrary<Person> =>
  fc
    .record({
      plan,
      isOff: fc.integer({ min: 0, max: 11 }),
      hasPhone: fc.boolean(),
      mute: fc.integer({ min: 0, max: 9 }),
    })
    .map(({ plan: own, isOff, hasPhone, mute }) => ({
      id,
      name: id,
      email: id === 'tom' && isOff === 1 ? null : `${id}@marisma.example`,
      phone: hasPhone ? '+34600000000' : null,
      zone: ['Asia/Tokyo', 'Europe/Madrid', 'America/New_York', 'Europe/Madrid'][at] ?? 'UTC',
      locale: 'en-GB',
      manager: id === 'tom' ? null : 'tom',
      active: isOff !== 0,
      plan: own,
      mutes: mute === 0 ? [{ item: 'i1', until: '2026-03-28' }] : mute === 1 ? [{ rule: 'r1' }] : [],
    }));

const selector: fc.Arbitrary<Selector> = fc.oneof(
  { weight: 4, arbitrary: fc.constantFrom(...PEOPLE).map((id) => ({ person: id })) },
  {
    weight: 5,
    arbitrary: fc.constantFrom<Selector>(
      { group: 'g1' },
      { group: 'g2' },
      { field: 'keeper' },
      { field: 'team' },
      { field: 'mail' },
      { linked: 'part', field: 'keeper' },
      { creator: true },
      { lastEditor: true },
      { followers: true },
      { mentioned: true },
      { managerOf: { field: 'keeper' } },
      { contact: 'out' },
      { contact: 'bare' },
      { webhook: 'https://hook.example/1' },
      { person: 'nobody' },
    ),
  },
);
/** Recipients by case; among those whom a rule tells also some by channels of their own. */
const byCase: fc.Arbitrary<Selector> = fc
  .record({
    cases: fc.array(
      fc.record({
        if: fc.oneof(fc.constantFrom<StateTest>({ field: 'status', op: 'is', value: 'On view' }), stateTest),
        to: fc.array(selector, { minLength: 1, maxLength: 2 }),
      }),
      { minLength: 1, maxLength: 2 },
    ),
    else: maybe(fc.array(selector, { minLength: 1, maxLength: 2 })),
  })
  .map((one): Selector => trimmed(one) as Selector);
const some: fc.Arbitrary<Selector> = fc.oneof({ weight: 6, arbitrary: selector }, { weight: 1, arbitrary: byCase });
const entry: fc.Arbitrary<Selector> = fc.oneof(
  { weight: 6, arbitrary: some },
  {
    weight: 1,
    arbitrary: fc.record({
      tell: some,
      channels: fc.subarray<Channel>(['inApp', 'email', 'text'], { minLength: 1 }),
    }),
  },
);
const readers = fc.array(
  fc.constantFrom<Selector>(
    { group: 'g1' },
    { person: 'bo' },
    { field: 'keeper' },
    { creator: true },
    { lastEditor: true },
    { followers: true },
    { person: 'ines' },
    { mentioned: true },
  ),
  { maxLength: 3 },
);
const access: fc.Arbitrary<AccessEntry[]> = fc.oneof(
  { weight: 3, arbitrary: fc.constant<AccessEntry[]>([]) },
  {
    weight: 1,
    arbitrary: fc
      .tuple(maybe(readers, 2), maybe(readers))
      .map(([bySource, byFolder]) => [
        ...(bySource ? [{ source: SOURCE.id, readers: bySource }] : []),
        ...(byFolder ? [{ folder: 'f1', readers: byFolder }] : []),
      ]),
  },
);

const ack: fc.Arbitrary<Acknowledging> = fc.record({
  by: fc.constantFrom('anyone', 'everyone'),
  remind: fc.option(
    fc.record({ after: fc.constantFrom('PT30M', 'PT7H', 'P1D'), times: fc.integer({ min: 1, max: 3 }) }),
  ),
  escalate: fc.array(
    fc.record({
      after: fc.constantFrom('PT40M', 'PT7H', 'P1D'),
      to: fc.array(fc.oneof(some, fc.constant<Selector>({ managerOf: { told: true } })), {
        minLength: 1,
        maxLength: 2,
      }),
    }),
    { maxLength: 2 },
  ),
  closeWhenCeased: fc.boolean(),
  allClear: fc.boolean(),
});
const repeat = fc.option(fc.record({ every: fc.constantFrom('PT6H', 'P1D'), times: fc.integer({ min: 1, max: 3 }) }));
const timeless: StateTest[] = [
  { all: [] },
  { field: 'status', op: 'isNot', value: 'Requested' },
  { field: 'title', op: 'contains', value: 'loom' },
  { field: 'keeper', op: 'filled' },
];
const lead = fc.constantFrom('P0D', '-P1D', '-P2D', 'PT3H', 'P1DT2H');
const due: fc.Arbitrary<Due> = fc.record({
  field: fc.constantFrom('due', 'opens'),
  offset: fc.oneof(lead, fc.uniqueArray(lead, { minLength: 1, maxLength: 3 })),
  at: fc.option(fc.constantFrom('09:00', '02:30')),
  if: fc.oneof(fc.constantFrom(...timeless), stateTest),
  repeat,
  late: fc.constantFrom('now', 'now', 'skip'),
});
const idle: fc.Arbitrary<Idle> = fc.record({
  for: fc.constantFrom('PT5H', 'P1D', 'P2D'),
  if: fc.oneof(fc.constantFrom(...timeless), stateTest),
  repeat,
});

const figures = fc.constantFrom<Pick<Tally, 'of' | 'becomes'>>(
  { of: 'items', becomes: { op: 'above', value: 1 } },
  { of: 'items', becomes: { op: 'atLeast', value: 2 } },
  { of: 'items', becomes: { op: 'below', value: 2 } },
  { of: 'items', becomes: { op: 'atMost', value: 0 } },
  { of: { sum: 'humidity' }, becomes: { op: 'above', value: 57.5 } },
  { of: { sum: 'humidity' }, becomes: { op: 'below', value: '10' } },
  { of: { sum: 'insured' }, becomes: { op: 'atLeast', value: { amount: '250', currency: 'EUR' } } },
);
const tally: fc.Arbitrary<Tally> = fc
  .record({
    of: figures,
    per: fc.constantFrom(null, null, 'status', 'keeper', 'part'),
    kinds: fc.oneof(
      { weight: 3, arbitrary: fc.constant<Change['kind'][]>([]) },
      { weight: 1, arbitrary: fc.constantFrom<Change['kind'][]>(['changed'], ['created', 'deleted']) },
    ),
  })
  .map(({ of, ...rest }) => ({ ...of, ...rest }));
const report: fc.Arbitrary<Report> = fc.record({
  every: fc.constant('day' as const),
  at: fc.constantFrom('08:30', '21:00', '02:30', '00:10'),
  if: fc.oneof(fc.constantFrom(...timeless), stateTest),
  empty: fc.boolean(),
});

/** Conditions that are often met. */
const simple: Condition[] = [
  { all: [] },
  { changed: 'status' },
  { changed: '*' },
  { became: { field: 'status', op: 'is', value: 'On view' } },
  { all: [{ became: { field: 'status', op: 'is', value: 'On view' } }, { changed: '*' }] },
  { became: { field: 'due', op: 'withinNext', value: 'P1D' } },
  { ceased: { field: 'status', op: 'is', value: 'On view' } },
];

/** A rule of any sort, such as may be saved. */
const anyRule = fc
  .record({
    base: rule,
    simpleIf: fc.option(fc.constantFrom(...simple), { freq: 5 }),
    isWide: fc.integer({ min: 0, max: 5 }),
    occasion: fc.constantFrom('when', 'when', 'when', 'when', 'when', 'due', 'idle', 'tally', 'tally', 'report'),
    due,
    idle,
    tally,
    report,
    stands: fc.oneof(
      fc.constantFrom(...timeless, { field: 'status', op: 'is', value: 'On view' } as StateTest),
      stateTest,
    ),
    where: fc.constantFrom(...timeless),
    pace: fc.oneof(
      fc.constant({ kind: 'now' as const }),
      fc.record({
        kind: fc.constant('settled' as const),
        quiet: fc.constantFrom('PT10M', 'PT30M'),
        most: fc.constantFrom('PT20M', 'PT2H'),
      }),
      digest,
    ),
    burst: rarely(
      fc.record({
        count: fc.integer({ min: 2, max: 3 }),
        within: fc.constantFrom('PT1H', 'PT10M', 'P1D'),
        per: fc.constantFrom<'item' | 'actor' | 'rule'>('item', 'actor', 'rule'),
      }),
    ),
    urgency: fc.constantFrom<Rule['urgency']>('routine', 'important', 'critical'),
    near: rarely(
      fc.record({
        field: fc.constantFrom('due', 'opens'),
        ahead: fc.constantFrom('P2D', 'PT30H'),
        behind: fc.constantFrom('PT0S', 'P1D'),
      }),
    ),
    about: fc.constantFrom<Rule['about']>(
      'any',
      'any',
      'any',
      'any',
      'any',
      'any',
      'any',
      'any',
      'createdByRecipient',
      'lastEditedByRecipient',
      'namesRecipient',
    ),
    ownChanges: fc.boolean(),
    to: fc.array(entry, { minLength: 2, maxLength: 4, size: 'max' }),
    except: fc.oneof({ weight: 4, arbitrary: fc.constant<Selector[]>([]) }, { weight: 1, arbitrary: fc.tuple(some) }),
    channels: rarely(fc.subarray<Channel>(['inApp', 'email', 'text'], { minLength: 1 })),
    limit: rarely(
      fc.record({ per: fc.constantFrom<'item' | 'rule'>('item', 'rule'), within: fc.constantFrom('PT1H', 'P1D') }),
    ),
    together: fc.constantFrom(true, true, false),
    ack: fc.option(ack, { freq: 2 }),
    isOpenWhen: fc.integer({ min: 0, max: 3 }),
  })
  .map((of): Rule => {
    const isWide = of.isWide > 0;
    const isReport = of.occasion === 'report';
    const stands = isReport || of.occasion === 'tally';
    const byDate = of.occasion !== 'when';
    const isPlain = isReport || (byDate && of.pace.kind === 'settled');
    const pace = isPlain ? { kind: 'now' as const } : of.pace;
    const where = stands ? of.stands : of.where;
    const when = of.base.when ?? { kinds: [], if: { all: [] }, burst: null };
    return {
      ...of.base,
      urgency: of.urgency,
      pace,
      about: isReport ? 'any' : of.about,
      ownChanges: of.ownChanges,
      to: of.to,
      except: of.except,
      channels: of.channels,
      limit: isReport ? null : of.limit,
      together: of.together,
      scope: {
        ...of.base.scope,
        ...(isWide ? { under: [], where: { all: [] }, ...(of.isWide > 1 ? { items: [] } : {}) } : {}),
        ...(byDate ? { where } : {}),
        ...(byDate && followsLink(where) ? { linked: false } : {}),
      },
      when: byDate
        ? null
        : {
            kinds: isWide ? [] : when.kinds,
            if: of.simpleIf ?? when.if,
            burst: pace.kind === 'settled' ? null : of.burst,
          },
      due: of.occasion === 'due' ? of.due : null,
      idle: of.occasion === 'idle' ? of.idle : null,
      tally: of.occasion === 'tally' ? of.tally : null,
      report: isReport ? of.report : null,
      by: (byDate && of.occasion !== 'tally') || isWide ? { only: [], except: [] } : of.base.by,
      during: { from: isWide ? null : '2026-03-28', until: null, near: isReport ? null : of.near },
      ack: pace.kind === 'digest' || isReport ? null : of.ack,
    };
  });

const deed = fc.record({
  item: fc.constantFrom(...ITEMS),
  gap: fc.oneof(fc.constantFrom(0, 0, 1, 10, 30), fc.integer({ min: 1, max: 90 }), fc.integer({ min: 100, max: 500 })),
  set: fields,
  kept: fc.subarray(
    SOURCE.fields.map((field) => field.id),
    { maxLength: 4 },
  ),
  what: fc.constantFrom(
    'view',
    'view',
    'edit',
    'edit',
    'edit',
    'edit',
    'edit',
    'edit',
    'view',
    'view',
    'back',
    'delete',
    'move',
    'comment',
    'open',
    'again',
    'again',
    'read',
    'acknowledge',
    'acknowledge',
    'pause',
    'resume',
    'publish',
    'mute',
    'confirm',
    'unsubscribe',
    'arrive',
    'leave',
    'access',
  ),
  actor: fc.constantFrom(...PEOPLE, 'system:import'),
  folder: fc.constantFrom(...FOLDERS),
  isBatch: fc.boolean(),
  who: fc.constantFrom(...PEOPLE),
  rule: fc.nat(),
  other: anyRule,
  catchUp: fc.constantFrom('each', 'summary', 'skip'),
  access,
  flag: fc.boolean(),
  isRestored: fc.boolean(),
});
type Deed = typeof deed extends fc.Arbitrary<infer D> ? D : never;

/** Builds the inputs one upon the other: changes from the state before them, acts on what there is. */
class Story {
  readonly inputs: ScenarioInput[] = [];
  private at = START;
  private readonly now = new Map<string, { fields: Fields | null; folder: string }>();
  private readonly first = new Map<string, Fields>();
  private readonly paused = new Set<string>();

  constructor(
    items: readonly ItemState[],
    private readonly rules: readonly string[],
  ) {
    for (const { id, fields: own, folder } of items) {
      this.now.set(id, { fields: own, folder: folder ?? 'f1' });
      this.first.set(id, own);
    }
  }

  get end(): number {
    return this.at + 45 * 60 * MINUTE_MS;
  }

  add(one: Deed): void {
    const isChange = ['edit', 'view', 'back', 'delete', 'move', 'comment', 'open'].includes(one.what);
    const last = this.inputs.at(-1);
    const joins =
      isChange && one.isBatch && last !== undefined && !('do' in last) && last.batch !== null && last.item !== one.item;
    if (!joins) this.at += one.gap * MINUTE_MS;
    if (isChange) this.change(one);
    else this.act(one);
  }

  private change({ item, what, set, kept, actor, folder, isBatch, who, isRestored }: Deed): void {
    const known = this.now.get(item);
    const before = known?.fields ?? null;
    const after: Fields | null =
      before === null
        ? set
        : what === 'delete'
          ? null
          : what === 'comment' || what === 'move' || what === 'open'
            ? before
            : what === 'back'
              ? (this.first.get(item) ?? before)
              : what === 'view'
                ? { ...before, status: before.status === 'On view' ? 'Agreed' : 'On view' }
                : { ...before, ...Object.fromEntries(kept.map((id) => [id, set[id] ?? null])) };
    if (before === null && !known) this.first.set(item, set);
    const kind: Change['kind'] =
      before === null
        ? known && isRestored
          ? 'restored'
          : 'created'
        : what === 'delete'
          ? 'deleted'
          : what === 'move'
            ? 'moved'
            : what === 'comment'
              ? 'commented'
              : what === 'open'
                ? 'opened'
                : 'changed';
    const place = before !== null && what !== 'move' ? (known?.folder ?? folder) : folder;
    this.inputs.push({
      id: `c${this.inputs.length}`,
      at: this.at,
      source: SOURCE.id,
      item,
      kind,
      actor,
      before,
      after,
      folder: place,
      folderBefore: before === null ? null : (known?.folder ?? place),
      batch: isBatch ? `b${this.at}` : null,
      detail: kind === 'commented' ? { text: 'see', mentions: [who] } : {},
    });
    this.now.set(item, { fields: after, folder: place });
  }

  private act({ what, who, rule: number, item, catchUp, other, access: list, flag }: Deed): void {
    const id = this.rules[number % this.rules.length] ?? 'r0';
    const named = flag && this.now.has(item) ? { item } : {};
    const at = this.at;
    const acts: Record<string, Act> = {
      read: { do: 'read', at, person: who },
      again: { do: 'again', at, person: who, rule: id, ...named, when: at + (number % 700) * MINUTE_MS },
      acknowledge: { do: 'acknowledge', at, person: who, rule: id, ...named },
      pause: { do: 'pause', at, rule: id },
      publish: { do: 'publish', at, rule: { ...other, id } },
      mute: {
        do: 'mute',
        at,
        person: who,
        ...(flag ? { rule: id } : {}),
        ...named,
        until: flag ? printInstant(at + 500 * MINUTE_MS) : '2026-03-29',
      },
      confirm: { do: 'confirm', at, contact: flag ? 'out' : 'new@else.example' },
      unsubscribe: { do: 'unsubscribe', at, contact: 'out', ...(flag ? { rule: id } : {}) },
      arrive: { do: 'arrive', at, person: who },
      leave: { do: 'leave', at, person: who },
      access: { do: 'access', at, access: list },
    };
    if (what === 'pause') this.paused.add(id);
    const paused = [...this.paused][number % Math.max(1, this.paused.size)];
    if (what === 'resume' && paused !== undefined) {
      this.paused.delete(paused);
      this.inputs.push({ do: 'resume', at, rule: paused, catchUp: catchUp as 'each' });
    } else if (acts[what]) this.inputs.push(acts[what]);
  }
}

const startItem = (id: string, own: Fields, at: number): ItemState => ({
  id,
  source: SOURCE.id,
  folder: FOLDERS[at] ?? 'f1',
  fields: own,
  createdBy: 'mei',
  lastBy: at === 0 ? 'ines' : null,
  lastAt: at === 0 ? START - 20 * 60 * MINUTE_MS : null,
});

/** A whole run of anything that the specification knows: one source, everything on whole minutes. */
export const wholeScenario: fc.Arbitrary<Scenario> = fc
  .record({
    people: fc.tuple(...PEOPLE.map(person)),
    rules: fc.array(anyRule, { minLength: 1, maxLength: 3, size: 'max' }),
    deeds: fc.array(deed, { minLength: 8, maxLength: 36, size: 'max' }),
    access,
    items: fc.array(fields, { maxLength: 2 }),
    isConfirmed: fc.boolean(),
    followers: fc.subarray(PEOPLE),
    from: fc.constantFrom(0, 0, 0, 60),
  })
  .map(({ people, rules, deeds, access: list, items, isConfirmed, followers, from }) => {
    const start = items.map((own, at) => startItem(ITEMS[at] ?? 'i1', own, at));
    const story = new Story(start, RULES.slice(0, rules.length));
    for (const one of deeds) story.add(one);
    const contacts: Contact[] = [
      { id: 'out', name: 'Out', email: 'out@else.example', confirmed: isConfirmed, unsubscribed: [] },
      { id: 'bare', name: 'Bare', email: null, confirmed: true, unsubscribed: [] },
    ];
    return {
      start: START,
      end: story.end,
      people: [...people],
      groups: [
        { id: 'g1', name: 'One', members: ['ines', 'mei'], groups: ['g2'] },
        { id: 'g2', name: 'Two', members: ['bo'], groups: [] },
      ],
      contacts,
      sources: [SOURCE],
      wordings: [],
      access: list,
      items: start,
      followers: followers.map((id) => ({ item: 'i1', person: id })),
      folders: FOLDERS.map((id, index) => ({
        id,
        source: SOURCE.id,
        name: id,
        parent: index === 1 ? (FOLDERS[0] ?? null) : null,
      })),
      rules: rules.map((one, index) => ({
        rule: { ...one, id: RULES[index] ?? 'r0' },
        from: START + (index === 0 ? from * MINUTE_MS : 0),
      })),
      inputs: story.inputs,
    };
  });
