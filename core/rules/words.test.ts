import { describe, expect, it } from 'vitest';
import type { Fields, Source } from '../values/index.ts';
import { compileState } from './condition.ts';
import { wordsTest } from './words.ts';

const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loans',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
    { id: 'hazards', name: 'Hazards', type: 'choices', options: ['Glass', 'Salt'] },
    { id: 'keeper', name: 'Keeper', type: 'person' },
    { id: 'team', name: 'Team', type: 'people' },
    { id: 'crates', name: 'Crates', type: 'number' },
  ],
};
const PEOPLE = [
  { id: 'p1', name: 'Inés Calder' },
  { id: 'p2', name: 'Mei Tanaka' },
];
const ITEM: Fields = {
  title: 'Reed Gate',
  status: 'On view',
  hazards: ['Salt'],
  keeper: 'p1',
  team: ['p2'],
  crates: '12',
};
const finds = (text: string) =>
  compileState(wordsTest(text, LOANS, PEOPLE), { source: LOANS, zone: 'UTC', sources: new Map() })(ITEM, 0, {
    item: () => undefined,
  });

describe('what words find', () => {
  it.each(['reed', 'REED gate', 'gate reed', 'view', 'salt', 'inés', 'tanaka', '12', 'reed view calder', ''])(
    '%j finds it',
    (text) => expect(finds(text)).toBe(true),
  );
  it.each(['reeds', 'agreed', 'glass', 'p1', 'status', 'on-view', '1', 'reed glass'])('%j does not', (text) =>
    expect(finds(text)).toBe(false),
  );
});
