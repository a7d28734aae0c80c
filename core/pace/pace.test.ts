import { describe, expect, it } from 'vitest';
import type { QuietHours } from '../people/index.ts';
import type { Due } from '../rules/index.ts';
import { instantOf, printInstant } from '../time/index.ts';
import type { Change, Field, Fields, ItemState, Source } from '../values/index.ts';
import {
  burstKey,
  countIn,
  dateKey,
  digestInstant,
  dueInstant,
  isDatePast,
  netChange,
  quietEnd,
  repeatOf,
  settlesAt,
} from './index.ts';

const SOURCE: Source = {
  id: 'papers',
  kind: 'folders',
  name: 'Papers',
  titleField: 'name',
  fields: [
    { id: 'name', name: 'Name', type: 'text' },
    { id: 'approval', name: 'Approval', type: 'choice' },
  ],
};
const at = (time: string) => instantOf(`2026-03-04T${time}Z`);
const MADRID = 'Europe/Madrid';

let count = 0;
const change = (
  kind: Change['kind'],
  before: Fields | null,
  after: Fields | null,
  more: Partial<Change> = {},
): Change => ({
  id: `c${++count}`,
  at: at('10:00:00') + count * 1000,
  source: 'papers',
  item: 'p',
  kind,
  actor: 'mei',
  before,
  after,
  folder: 'f',
  folderBefore: before === null ? null : 'f',
  batch: null,
  detail: {},
  ...more,
});
const item = (fields: Fields, folder: string | null = 'f'): ItemState => ({
  id: 'p',
  source: 'papers',
  folder,
  fields,
  createdBy: null,
  lastBy: null,
  lastAt: null,
});
const A = { approval: 'Draft' };
const B = { approval: 'Approved' };
const C = { approval: 'Rejected' };

describe('a net change', () => {
  const net = (changes: Change[], now: ItemState | undefined, last?: ItemState) => {
    const found = netChange(changes, now, last, SOURCE);
    return found && { kind: found.kind, before: found.before, after: found.after };
  };

  it.each<[string, Change[], ItemState | undefined, ReturnType<typeof net>]>([
    [
      'created, then changed, is created',
      [change('created', null, A), change('changed', A, B)],
      item(B),
      { kind: 'created', before: null, after: B },
    ],
    ['created, then deleted, is nothing', [change('created', null, A), change('deleted', A, null)], undefined, null],
    [
      'changed, then deleted, is deleted',
      [change('changed', A, B), change('deleted', B, null)],
      undefined,
      { kind: 'deleted', before: A, after: null },
    ],
    [
      'deleted, then restored as another, is changed',
      [change('deleted', A, null), change('restored', null, B)],
      item(B),
      { kind: 'changed', before: A, after: B },
    ],
    [
      'deleted, then restored as it was, is nothing',
      [change('deleted', A, null), change('restored', null, A)],
      item(A),
      null,
    ],
    [
      'restored by itself stays so',
      [change('restored', null, B)],
      item(B),
      { kind: 'restored', before: null, after: B },
    ],
    [
      'several edits are one',
      [change('changed', A, B), change('changed', B, C)],
      item(C),
      { kind: 'changed', before: A, after: C },
    ],
    ['there and back is nothing', [change('changed', A, B), change('changed', B, A)], item(A), null],
    [
      'but with a remark on the way it is',
      [change('changed', A, B), change('commented', B, B), change('changed', B, A)],
      item(A),
      { kind: 'changed', before: A, after: A },
    ],
    ['a remark alone is one', [change('commented', A, A)], item(A), { kind: 'commented', before: A, after: A }],
    [
      'the last one’s kind otherwise',
      [change('changed', A, B), change('approved', B, C)],
      item(C),
      { kind: 'approved', before: A, after: C },
    ],
    ['what else altered the item counts', [change('changed', A, B)], item(C), { kind: 'changed', before: A, after: C }],
    ['also where it put all back', [change('changed', A, B)], item(A), null],
    [
      'another folder is a difference',
      [change('moved', A, A, { folder: 'g', folderBefore: 'f' })],
      item(A, 'g'),
      { kind: 'moved', before: A, after: A },
    ],
    [
      'the same folder again is none',
      [
        change('moved', A, A, { folder: 'g', folderBefore: 'f' }),
        change('moved', A, A, { folder: 'f', folderBefore: 'g' }),
      ],
      item(A, 'f'),
      null,
    ],
    [
      'created with nothing in it is created',
      [change('created', null, {}, { folder: null })],
      item({}, null),
      { kind: 'created', before: null, after: {} },
    ],
    [
      'deleted, and restored by a change that is not told, is changed',
      [change('deleted', A, null)],
      item(B),
      { kind: 'changed', before: A, after: B },
    ],
    [
      'deleted, then made anew, is changed',
      [change('deleted', A, null), change('created', null, B)],
      item(B),
      { kind: 'changed', before: A, after: B },
    ],
    [
      'deleted alone is deleted, whatever it held',
      [change('deleted', {}, null, { folder: null, folderBefore: null })],
      undefined,
      { kind: 'deleted', before: {}, after: null },
    ],
  ])('%s', (_name, changes, now, wanted) => expect(net(changes, now)).toEqual(wanted));

  it('is at the instant and by the actor of its last, of the batch of its first, and keeps the state that was deleted', () => {
    const first = change('changed', A, B, { batch: 'x', previous: { by: 'bo', createdBy: 'ines' } });
    const last = change('deleted', B, null, { actor: 'wren', batch: 'y', previous: { by: 'mei', createdBy: 'ines' } });
    expect(netChange([first, last], undefined, item(B, 'g'), SOURCE)).toMatchObject({
      at: last.at,
      actor: 'wren',
      batch: 'x',
      folder: 'g',
      folderBefore: 'f',
      lastState: B,
      previous: { by: 'bo' },
    });
    expect(
      netChange(
        [change('changed', A, B, { folder: 'h' }), change('deleted', B, null, { folder: 'h' })],
        undefined,
        undefined,
        SOURCE,
      ),
    ).toMatchObject({ folder: 'h', kind: 'deleted' });
  });
});

it('a gathering settles quiet after its last change, at most so long after its first', () => {
  const pace = { kind: 'settled', quiet: 'PT10M', most: 'PT30M' } as const;
  expect(settlesAt(pace, at('10:00:00'), at('10:00:00'), 'UTC')).toBe(at('10:10:00'));
  expect(settlesAt(pace, at('10:00:00'), at('10:25:00'), 'UTC')).toBe(at('10:30:00'));
});

describe('a burst', () => {
  const one = (time: string, id = time) => ({ at: at(time), source: 'papers', item: 'p', change: id });
  const burst = { count: 3, within: 'PT10M', per: 'rule' } as const;

  it('is complete with its last match inside the window, both ends counting', () => {
    expect(countIn(burst, [one('10:00:00'), one('10:04:00')], one('10:10:00'), 'UTC')).toMatchObject({
      isComplete: true,
    });
    expect(countIn(burst, [one('10:00:00'), one('10:04:00')], one('10:10:01'), 'UTC')).toEqual({
      counted: [one('10:04:00'), one('10:10:01')],
      isComplete: false,
    });
    expect(countIn(burst, [], one('10:00:00'), 'UTC').isComplete).toBe(false);
  });

  it('counts by item, by actor, or all together', () => {
    const made = change('changed', A, B);
    expect((['item', 'actor', 'rule'] as const).map((per) => burstKey({ ...burst, per }, made))).toEqual([
      'p',
      'mei',
      '',
    ]);
  });
});

describe('dates', () => {
  const date: Field = { id: 'due', name: 'Due', type: 'date' };
  const moment: Field = { id: 'opens', name: 'Opens', type: 'dateTime' };
  const due = (more: Partial<Due> = {}): Due => ({
    field: 'due',
    offset: 'PT0S',
    at: null,
    if: { all: [] },
    repeat: null,
    late: 'now',
    ...more,
  });
  const shown = (found: ReturnType<typeof dueInstant>) => found && `${printInstant(found.at)} ${found.day}`;

  it.each<[string, Due, Field, string, string | null]>([
    ['at nine where no time is named', due(), date, '2026-03-18', '2026-03-18T08:00:00Z 2026-03-18'],
    [
      'so many days before, at its time',
      due({ offset: '-P14D', at: '07:30' }),
      date,
      '2026-03-18',
      '2026-03-04T06:30:00Z 2026-03-04',
    ],
    [
      'days first, across a clock change, then hours',
      due({ offset: 'P1DT2H', at: '01:30' }),
      date,
      '2026-03-28',
      '2026-03-29T02:30:00Z 2026-03-29',
    ],
    [
      'a moment is moved exactly',
      due({ offset: '-PT90M' }),
      moment,
      '2026-03-04T10:00:00+01:00',
      '2026-03-04T07:30:00Z null',
    ],
    [
      'or by days of the calendar',
      due({ offset: 'P1D' }),
      moment,
      '2026-03-28T09:00:00+01:00',
      '2026-03-29T07:00:00Z null',
    ],
    [
      'or to a time of its day',
      due({ offset: '-P1D', at: '18:00' }),
      moment,
      '2026-03-04T23:30:00Z',
      '2026-03-04T17:00:00Z 2026-03-04',
    ],
    ['of what is no moment, none', due(), moment, 'soon', null],
  ])('%s', (_name, one, field, value, wanted) => expect(shown(dueInstant(one, field, value, MADRID))).toBe(wanted));

  it('are past once their day is over in the zone, moments once they are', () => {
    expect(isDatePast(date, '2026-03-04', instantOf('2026-03-04T22:59:59Z'), MADRID)).toBe(false);
    expect(isDatePast(date, '2026-03-04', instantOf('2026-03-04T23:00:00Z'), MADRID)).toBe(true);
    expect(isDatePast(moment, '2026-03-04T10:00:00Z', at('10:00:00'), MADRID)).toBe(false);
    expect(isDatePast(moment, '2026-03-04T10:00:00Z', at('10:00:01'), MADRID)).toBe(true);
    expect(isDatePast(moment, 'soon', at('10:00:00'), MADRID)).toBe(true);
  });

  it('have one key however they are written', () => {
    expect(dateKey(moment, '2026-03-04T11:00:00+01:00')).toBe(dateKey(moment, '2026-03-04T10:00:00Z'));
    expect(dateKey(date, '2026-03-04')).toBe('2026-03-04');
    expect(dateKey(moment, 'soon')).toBe('soon');
  });

  it('repeat at their local time where they fired on time, else from the instant they fired', () => {
    const weekly = { every: 'P7D', times: 2 };
    const onTime = dueInstant(due({ at: '09:00' }), date, '2026-03-25', MADRID);
    expect(onTime && printInstant(repeatOf(due({ at: '09:00' }), weekly, onTime, 1, MADRID))).toBe(
      '2026-04-01T07:00:00Z',
    );
    expect(printInstant(repeatOf(due({ at: '09:00' }), weekly, { at: at('15:20:00'), day: null }, 1, MADRID))).toBe(
      '2026-03-11T15:20:00Z',
    );
    const offset = due({ at: '09:00', offset: 'PT30M' });
    const morning = due({ at: '11:15' });
    const fired = dueInstant(morning, date, '2026-03-25', MADRID);
    expect(fired && printInstant(repeatOf(morning, weekly, fired, 1, MADRID))).toBe('2026-04-01T09:15:00Z');
    const late = dueInstant(offset, date, '2026-03-25', MADRID);
    expect(late && printInstant(repeatOf(offset, weekly, late, 1, MADRID))).toBe('2026-04-01T07:30:00Z');
  });

  it('count from the first, so that a month that is shorter does not shorten those after it', () => {
    const monthly = { every: 'P1M', times: 3 };
    const first = dueInstant(due({ at: '09:00' }), date, '2026-01-31', 'UTC');
    expect(
      [1, 2, 3].map((n) => first && printInstant(repeatOf(due({ at: '09:00' }), monthly, first, n, 'UTC'))),
    ).toEqual(['2026-02-28T09:00:00Z', '2026-03-31T09:00:00Z', '2026-04-30T09:00:00Z']);
    expect(
      printInstant(repeatOf(due({}), monthly, { at: instantOf('2026-01-31T15:00:00Z'), day: null }, 2, 'UTC')),
    ).toBe('2026-03-31T15:00:00Z');
  });
});

describe('quiet hours', () => {
  const window = (days: string, from: string, to: string): QuietHours => ({
    days: days.split(' ') as QuietHours['days'],
    from,
    to,
  });
  const end = (windows: QuietHours[], instant: string) => {
    const found = quietEnd(windows, instantOf(instant), MADRID);
    return found && printInstant(found);
  };
  // 2026-03-04 is a Wednesday.
  it.each<[string, QuietHours[], string, string | null]>([
    [
      'hold within a day, from their first minute on',
      [window('WE', '12:00', '14:00')],
      '2026-03-04T11:00:00Z',
      '2026-03-04T13:00:00Z',
    ],
    ['and not at their end', [window('WE', '12:00', '14:00')], '2026-03-04T13:00:00Z', null],
    ['nor before', [window('WE', '12:00', '14:00')], '2026-03-04T10:59:00Z', null],
    ['nor on another day', [window('TH', '12:00', '14:00')], '2026-03-04T11:30:00Z', null],
    [
      'run into the next day, which belongs to the day they began',
      [window('TU', '19:00', '07:30')],
      '2026-03-04T05:00:00Z',
      '2026-03-04T06:30:00Z',
    ],
    ['and begin anew only on their days', [window('TU', '19:00', '07:30')], '2026-03-04T19:00:00Z', null],
    ['are none where both ends are equal', [window('WE', '12:00', '12:00')], '2026-03-04T11:00:00Z', null],
    [
      'are one where they touch',
      [window('WE', '12:00', '14:00'), window('WE', '14:00', '15:00')],
      '2026-03-04T11:30:00Z',
      '2026-03-04T14:00:00Z',
    ],
    [
      'and where they overlap',
      [window('WE', '12:00', '14:00'), window('WE', '13:00', '18:00')],
      '2026-03-04T11:30:00Z',
      '2026-03-04T17:00:00Z',
    ],
    ['follow a clock change', [window('SA', '22:00', '08:00')], '2026-03-28T23:00:00Z', '2026-03-29T06:00:00Z'],
    [
      'that never end are none',
      [window('MO TU WE TH FR SA SU', '00:00', '12:00'), window('MO TU WE TH FR SA SU', '12:00', '00:00')],
      '2026-03-04T11:30:00Z',
      null,
    ],
    ['of nobody', [], '2026-03-04T11:30:00Z', null],
  ])('%s', (_name, windows, instant, wanted) => expect(end(windows, instant)).toBe(wanted));
});

it('a digest is due at the first instant later than the alert, in its own zone or else the reader’s', () => {
  const pace = { kind: 'digest', every: 'day', at: '09:00' } as const;
  expect(printInstant(digestInstant(pace, at('08:00:00'), MADRID))).toBe('2026-03-05T08:00:00Z');
  expect(printInstant(digestInstant({ ...pace, zone: 'Asia/Tokyo' }, at('08:00:00'), MADRID))).toBe(
    '2026-03-05T00:00:00Z',
  );
});
