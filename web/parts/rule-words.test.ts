import { paceWords } from '../../core/messages/index.ts';
import { describe, expect, it } from 'vitest';
import type { Condition } from '../../core/rules/index.ts';
import { openRule } from '../../core/rules/index.ts';
import { readClause } from '../pages/rules/editors/clause-editor.tsx';
import { asGroup, fromGroup, groupOf, insideOf, withInside } from '../pages/rules/editors/condition-groups.ts';
import { editedParts } from './rule-parts.ts';
import { phrases } from '../words/index.ts';

const onView: Condition = { became: { field: 'status', op: 'is', value: 'On view' } };
const fromTo: Condition = {
  all: [
    { was: { field: 'status', op: 'oneOf', value: ['Requested', 'Agreed'] } },
    { became: { field: 'status', op: 'is', value: 'On view' } },
  ],
};
const CONDITIONS: Condition[] = [
  { all: [] },
  onView,
  fromTo,
  { any: [onView, { changed: 'insured' }] },
  { all: [onView, { rose: { field: 'insured', percent: 10 } }] },
  { any: [fromTo, { lost: { field: 'team' } }] },
  { none: [onView] },
  { all: [{ none: [onView] }, { any: [onView, fromTo] }] },
  { changed: ['status', 'insured'] },
  { field: 'status', op: 'filled' },
];

describe('a rule’s condition', () => {
  it.each(CONDITIONS.map((condition) => [JSON.stringify(condition), condition] as const))(
    '%s is taken apart and put together unchanged',
    (_name, condition) => {
      expect(fromGroup(asGroup(condition))).toEqual(condition);
      if (groupOf(condition)) expect(withInside(condition, insideOf(condition))).toEqual(condition);
    },
  );

  it('shows a move from some to one as one clause', () => expect(asGroup(fromTo).parts).toEqual([fromTo]));

  it('is read for its editor, and left alone where that cannot show it', () => {
    expect(readClause(fromTo)).toMatchObject({
      field: 'status',
      way: 'fromTo',
      from: ['Requested', 'Agreed'],
      test: { value: 'On view' },
    });
    expect(readClause(onView)).toMatchObject({ way: 'becomes', test: { op: 'is' } });
    expect(readClause({ rose: { field: 'insured', percent: 10 } })).toMatchObject({
      way: 'rises',
      least: { percent: 10 },
    });
    for (const deep of [{ none: [onView] }, { became: { all: [] } }] as Condition[])
      expect(readClause(deep)).toBeNull();
    expect(readClause({ changed: ['a', 'b'] })).toMatchObject({ way: 'changes', field: 'a', from: ['b'] });
  });
});

it('the parts that differ from what is live are named', () => {
  const live = openRule('r', 'R', 'ines', ['loans']);
  expect(
    editedParts({ ...live, urgency: 'critical', pace: { kind: 'digest', every: 'day', at: '08:30' } }, live),
  ).toEqual(['urgency', 'pace']);
  expect(editedParts({ ...live }, live)).toEqual([]);
});

it.each([
  [{ kind: 'now' }, 'at once'],
  [{ kind: 'digest', every: 'day', at: '08:30' }, 'daily digest, 08:30'],
  [{ kind: 'digest', every: 'week', at: '09:00', on: ['MO', 'TH'] }, 'digest on Monday and Thursday, 09:00'],
  [{ kind: 'digest', every: 'month', at: '09:00', on: [1, 15] }, 'monthly digest, day 1 and 15, 09:00'],
  [{ kind: 'digest', every: 'hour', at: '00:10' }, 'hourly digest, at minute 10'],
] as const)('%j is said as “%s”', (pace, words) =>
  expect(paceWords(pace as Parameters<typeof paceWords>[0], phrases())).toBe(words),
);
