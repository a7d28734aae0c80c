import { describe, expect, it } from 'vitest';
import type { World } from '../people/index.ts';
import { OPEN_MESSAGE, openRule, type Rule } from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import { item, LOANS, person } from '../testing/museum.ts';
import {
  type Content,
  forPages,
  htmlMail,
  type Listed,
  makeReport,
  plainLinks,
  readableContent,
  wordsOf,
} from './index.ts';

const AT = instantOf('2026-03-02T07:00:00Z');
const LETTER = plainLinks({ base: 'https://ojo.example', name: 'Ojo' });
const READER = { id: 'mei', name: 'Mei Tanaka', locale: 'en-GB', zone: 'Europe/Madrid' };
const ITEMS = [
  item('L-1', { title: 'Reed Gate', due: '2026-12-03' }),
  item('L-2', { title: 'Salt Basket', due: '2026-12-09' }),
];
const WORLD: World = {
  people: new Map([['ines', person('ines', { name: 'Inés Calder' })]]),
  groups: new Map(),
  sources: new Map([['loans', LOANS]]),
  folders: new Map(),
  access: [],
  item: (id) => ITEMS.find((one) => one.id === id),
};
const ruleOf = (message: Partial<Rule['message']>): Rule => ({
  ...openRule('due-soon', 'Loans due soon', 'ines', ['loans']),
  when: null,
  report: { every: 'week', at: '08:00', on: ['MO'], if: { all: [] }, empty: true },
  message: { ...OPEN_MESSAGE, show: ['due'], ...message },
});
const listed: Listed[] = ITEMS.map(({ id, source }) => ({ item: id, source }));
const made = (message: Partial<Rule['message']>, of: readonly Listed[] = listed): Content =>
  makeReport(ruleOf(message), of, AT, READER, WORLD, () => true);

describe('a report', () => {
  it('says by itself how many there are and which comes first, with its table in every format', () => {
    const report = made({});
    expect(report.headline).toBe('Loans due soon: 2, first Reed Gate on 3 December 2026');
    expect(report.own).toBeUndefined();
    for (const said of [htmlMail(report, LETTER), wordsOf(report, 'email', LETTER)])
      expect(said).toMatch(/Reed Gate[\s\S]*3 December 2026[\s\S]*Salt Basket/);
    expect(wordsOf(report, 'text', LETTER)).toContain('Loans due soon: 2, first Reed Gate');
  });

  it('has the rule’s own words over its table, and its subject; where there is nothing to report, Ojo’s', () => {
    const words = { subject: '{{ rule.name }} for {{ recipient.name }}', body: 'First **{{ item.title }}**, please.' };
    const report = made(words);
    expect(report.own?.subject).toBe('Loans due soon for Mei Tanaka');
    const [html, plain] = [htmlMail(report, LETTER), wordsOf(report, 'email', LETTER)];
    expect(html).toMatch(/First <(b|strong)>Reed Gate<\/\1>, please\.[\s\S]*<table[\s\S]*Salt Basket/);
    expect(plain).toMatch(/First Reed Gate, please\.[\s\S]*Salt Basket\n\s+Due back: 9 December 2026/);
    expect(wordsOf(report, 'text', LETTER)).toContain('Reed Gate, please.');
    expect(made(words, []).own).toBeUndefined();
    expect(made(words, []).headline).toBe('Loans due soon: nothing to report');
  });

  it('comes in whose name its rule says, and says below it what to do now', () => {
    const report = made({
      from: 'owner',
      replyTo: 'loans@marisma.example',
      doNow: 'Ring the [carrier](https://x.example).',
    });
    expect(report.sender).toEqual({ name: 'Inés Calder', replyTo: 'loans@marisma.example' });
    expect(htmlMail(report, LETTER)).toMatch(/Salt Basket[\s\S]*Ring the <a [^>]*href="https:\/\/x\.example"/);
    for (const channel of ['email', 'text'] as const)
      expect(wordsOf(report, channel, LETTER)).toContain('Ring the carrier (https://x.example).');
  });

  it('keeps how what it has no room for stands to the last one, for its files and for nobody else', () => {
    const many: Listed[] = Array.from({ length: 260 }, (_, at) => ({
      item: `L-${at}`,
      source: 'loans',
      ...(at === 3 || at === 230 ? { mark: 'changed' as const } : {}),
      ...(at === 240 ? { mark: 'new' as const } : {}),
    }));
    const gone: Listed[] = Array.from({ length: 210 }, (_, at) => ({ item: `G-${at}`, source: 'loans', mark: 'gone' }));
    const report = made({ attach: ['csv'] }, [...many, ...gone]);
    expect(report.report?.beyond).toMatchObject({ new: ['L-240'], changed: ['L-230'] });
    expect(report.report?.beyond?.gone).toHaveLength(10);
    expect(forPages(report).report?.beyond).toBeUndefined();
    const left = readableContent(report, (id) => id !== 'L-5');
    expect([left.isWhole, left.content.report?.beyond]).toEqual([false, undefined]);
    // Without files there is nobody to keep it for.
    expect(made({}, many).report?.beyond).toBeUndefined();
  });
});
