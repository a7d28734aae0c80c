import fc from 'fast-check';
import type { Acknowledging, Channel, Selector } from '../../people/index.ts';
import type { Condition, Due, Idle, Report, Rule, StateTest, Tally } from '../../rules/index.ts';
import type { Change } from '../../values/index.ts';
import { followsLink, rule, stateTest } from '../generate.ts';
import { rarely, digest, some, entry } from './scenario-people.ts';

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
export const anyRule = fc
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
