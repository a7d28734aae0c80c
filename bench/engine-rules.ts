import { openRule, type Rule } from '../core/rules/index.ts';
import type { Change, Fields, Source } from '../core/values/index.ts';

/** Chance that is the same at every run (mulberry32). */
export function chance(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

export const SOURCE: Source = {
  id: 'papers',
  kind: 'folders',
  name: 'Papers',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Requested', 'Agreed', 'On view', 'Returned'] },
    { id: 'keeper', name: 'Keeper', type: 'person' },
    { id: 'lender', name: 'Lender', type: 'text' },
    { id: 'insured', name: 'Insured value', type: 'money' },
    { id: 'exhibition', name: 'Exhibition', type: 'choice', options: ['Woven Waters', 'Small Fires'] },
    { id: 'note', name: 'Note', type: 'longText' },
    { id: 'due', name: 'Due', type: 'date' },
    { id: 'team', name: 'Team', type: 'people' },
    { id: 'fragile', name: 'Fragile', type: 'boolean' },
  ],
};
const STATUS = SOURCE.fields[1]?.options ?? [];
const TOP = 1_000_000;

/** A museum that grows with its rules: the more there are, the more people, lenders, words and folders they speak of, so that about as many match a change. */
export interface Scale {
  people: number;
  words: number;
  folders: number;
  /** How far an insured value moves. */
  step: number;
}

export const scaleOf = (rules: number): Scale => ({
  people: Math.ceil(rules / 40),
  words: Math.ceil(rules / 5),
  folders: Math.ceil(rules / 10),
  step: (TOP * 5) / rules,
});

const word = (at: number): string => `w${at.toString(36).padStart(4, 'q')}x`;
const whole = (next: () => number, below: number) => Math.floor(next() * below);
const money = (amount: number) => ({ amount: amount.toFixed(2), currency: 'EUR' });

/** A rule of one of five sorts, in turn: equality, ranges, text, folders, trees of any and all. */
export function ruleAt(at: number, scale: Scale, next: () => number): Rule {
  const base = openRule(`r${at}`, `Rule ${at}`, 'ines', [SOURCE.id]);
  const status = STATUS[whole(next, 4)] ?? '';
  const keeper = `p${whole(next, scale.people)}`;
  const became = { became: { field: 'status', op: 'is' as const, value: status } };
  switch (at % 5) {
    case 0:
      return {
        ...base,
        when: { kinds: [], if: { all: [became, { field: 'keeper', op: 'is', value: keeper }] }, burst: null },
      };
    case 1:
      return {
        ...base,
        when: {
          kinds: [],
          if: { became: { field: 'insured', op: 'above', value: money(whole(next, TOP)) } },
          burst: null,
        },
      };
    case 2:
      return {
        ...base,
        when: {
          kinds: ['changed'],
          if: { became: { field: 'note', op: 'contains', value: word(whole(next, scale.words)) } },
          burst: null,
        },
      };
    case 3:
      return {
        ...base,
        scope: { ...base.scope, under: [`f${whole(next, scale.folders)}`] },
        when: { kinds: [], if: { changed: ['note', 'status'] }, burst: null },
      };
    default:
      return {
        ...base,
        when: {
          kinds: [],
          if: {
            any: [
              { all: [became, { field: 'lender', op: 'is', value: `Lender ${whole(next, scale.people)}` }] },
              {
                all: [
                  { was: { field: 'keeper', op: 'is', value: keeper } },
                  { became: { field: 'status', op: 'is', value: STATUS[whole(next, 4)] ?? '' } },
                ],
              },
            ],
          },
          burst: null,
        },
      };
  }
}

/** Changes that move a status, an insured value and a note at once, as a busy edit does. */
export function changeAt(at: number, scale: Scale, next: () => number): Change {
  const from = whole(next, 4);
  const amount = next() * (TOP - scale.step);
  const before: Fields = {
    title: `Paper ${at}`,
    status: STATUS[from] ?? '',
    keeper: `p${whole(next, scale.people)}`,
    lender: `Lender ${whole(next, scale.people)}`,
    insured: money(amount),
    exhibition: 'Woven Waters',
    note: 'as agreed',
    due: '2026-03-18',
    team: ['mei'],
    fragile: false,
  };
  const words = Array.from({ length: 2 }, () => word(whole(next, scale.words)));
  const after: Fields = {
    ...before,
    status: STATUS[(from + 1) % 4] ?? '',
    insured: money(amount + scale.step),
    note: words.join(' '),
  };
  const folder = `f${whole(next, scale.folders)}`;
  return {
    id: `c${at}`,
    at: 1_772_600_000_000 + at * 1000,
    source: SOURCE.id,
    item: `i${at % 5000}`,
    kind: 'changed',
    actor: 'mei',
    before,
    after,
    folder,
    folderBefore: folder,
    batch: null,
    detail: {},
  };
}
