import fc from 'fast-check';
import type { AccessEntry, Channel, Person, Plan, Selector, Step, Ways } from '../../people/index.ts';
import type { StateTest } from '../../rules/index.ts';
import { instantOf, WEEKDAYS } from '../../time/index.ts';
import type { Change } from '../../values/index.ts';
import { SOURCE, stateTest } from '../generate.ts';

/** A Friday evening in Madrid, two nights before the clocks there skip an hour. */
export const START = instantOf('2026-03-27T20:00:00Z');
export const PEOPLE = ['bo', 'ines', 'mei', 'tom'];
export const RULES = ['r0', 'r1', 'r2'];
const EVERY_DAY = [...WEEKDAYS];

const maybe = <T>(arbitrary: fc.Arbitrary<T>, freq = 1) => fc.option(arbitrary, { nil: undefined, freq });
/** One in five times, else null. */
export const rarely = <T>(arbitrary: fc.Arbitrary<T>): fc.Arbitrary<T | null> =>
  fc.oneof({ weight: 4, arbitrary: fc.constant(null) }, { weight: 1, arbitrary });
/** Without the keys that are undefined, as a document has them. */
const trimmed = <T extends object>(value: T): { [K in keyof T]: Exclude<T[K], undefined> } =>
  JSON.parse(JSON.stringify(value));

export const digest = fc.record({
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

export const person = (id: string, at: number): fc.Arbitrary<Person> =>
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
export const some: fc.Arbitrary<Selector> = fc.oneof(
  { weight: 6, arbitrary: selector },
  { weight: 1, arbitrary: byCase },
);
export const entry: fc.Arbitrary<Selector> = fc.oneof(
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
export const access: fc.Arbitrary<AccessEntry[]> = fc.oneof(
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
