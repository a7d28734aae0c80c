import { readdirSync, readFileSync } from 'node:fs';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { renderToStaticMarkup } from 'react-dom/server';
import { MemoryRouter } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { DirectoryPage, Me } from '../../../../contract/wire/index.ts';
import { ruleSchema, scenarioSchema } from '../../../../contract/documents/index.ts';
import { checkMessage } from '../../../../core/messages/index.ts';
import { type Condition, checkRule, type Rule } from '../../../../core/rules/index.ts';
import type { Source } from '../../../../core/values/index.ts';
import { ViewerProvider, editedParts, PARTS, partWords, worldFrom } from '../../../parts/index.ts';
import { startsFor } from './rule-starts.ts';
import { ClauseEditor } from '../editors/clause-editor.tsx';
import { asGroup, groupOf, insideOf } from '../editors/condition-groups.ts';
import { stepped } from './history.ts';
import { Sentences } from './sentences.tsx';

const CASES = new URL('../../../../core/cases/', import.meta.url);
const ME: Me = {
  id: 'ines',
  name: 'Inés',
  title: '',
  role: 'coordinator',
  zone: 'Europe/Madrid',
  locale: 'en-GB',
  unread: 0,
  isDemo: false,
  owesSecond: false,
  now: '2026-03-04T12:00:00Z',
};

interface Case {
  name: string;
  directory: DirectoryPage;
  rules: Rule[];
}

/** Every rule of the cases, with the sources it speaks of. */
const cases = readdirSync(CASES).map((name): Case => {
  const document = JSON.parse(readFileSync(new URL(name, CASES), 'utf8')) as Record<string, unknown>;
  const { expect: _, ...input } = document;
  const { sources, people, groups, folders, contacts, wordings, rules, inputs } = scenarioSchema.parse(
    'scenario' in document ? document.scenario : input,
  );
  const published = inputs.flatMap((one) => ('do' in one && one.do === 'publish' ? [one.rule] : []));
  const directory: DirectoryPage = {
    people: people.map((one) => ({ id: one.id, name: one.name, title: '', isActive: one.active })),
    groups,
    sources: sources.map((source) => ({ ...source, about: '' })),
    folders: folders.map((one) => ({ ...one, notesLooks: false })),
    contacts: contacts.map((one) => ({ id: one.id, name: one.name, isConfirmed: one.confirmed })),
    webhooks: [],
    systems: [],
    wordings: wordings.map((wording) => ({ ...wording, usual: [] })),
    house: { letterhead: null, signOff: null, senders: [], secondEyes: [] },
    coordinates: sources.map((source) => source.id),
    keepers: [],
    stewards: [],
  };
  return { name, directory, rules: [...rules.map(({ rule }) => rule), ...published] };
});

const draw = (directory: DirectoryPage, node: React.ReactNode) =>
  renderToStaticMarkup(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <ViewerProvider me={ME} directory={directory}>
          {node}
        </ViewerProvider>
      </MemoryRouter>
    </QueryClientProvider>,
  );

const clauses = (node: Condition): Condition[] => (groupOf(node) ? insideOf(node).flatMap(clauses) : [node]);

describe.each(cases)('rules of $name', ({ directory, rules }) => {
  it('open, are shown with every part they have, and stay as they were', () => {
    const viewer = {
      me: ME,
      directory,
      person: String,
      sources: new Map(directory.sources.map((one) => [one.id, one])),
      source: (id: string) => directory.sources.find((one) => one.id === id),
      group: () => undefined,
      folder: () => undefined,
      names: () => ({ person: String, item: String }),
    };
    for (const rule of rules) {
      const before = JSON.stringify(rule);
      const source = directory.sources.find((one) => one.id === rule.scope.sources[0]) as Source;
      const world = worldFrom(directory);
      expect([...checkRule(rule, world), ...checkMessage(rule, world.sources)]).toEqual([]);
      const edits: Rule[] = [];
      const html = draw(
        directory,
        <Sentences
          rule={rule}
          source={source}
          faults={[]}
          edited={[]}
          isFixed={false}
          onChange={(next) => edits.push(next)}
          tried={undefined}
          onPerson={() => undefined}
        />,
      );
      for (const id of rule.scope.sources)
        expect(html).toContain(directory.sources.find((one) => one.id === id)?.name.replaceAll('&', '&amp;'));
      if (rule.limit) expect(html).toContain('at most one in');
      if (rule.ack) expect(html).toContain('acknowledges');
      if (rule.due) expect(html).toContain('a date');
      if (rule.when?.burst) expect(html).toContain(`${rule.when.burst.count} times`);
      for (const clause of rule.when ? asGroup(rule.when.if).parts.flatMap(clauses) : [])
        expect(draw(directory, <ClauseEditor clause={clause} source={source} onChange={() => undefined} />)).toContain(
          'Field',
        );
      for (const part of PARTS) expect(partWords(rule, part, viewer)).not.toContain('undefined');
      expect(edits).toEqual([]);
      expect(JSON.stringify(rule)).toBe(before);
      expect(editedParts(ruleSchema.parse(JSON.parse(before)), rule)).toEqual([]);
    }
  });

  it('can be begun from any of their sources’ starting points', () => {
    const [first] = rules;
    if (!first) return;
    const world = worldFrom(directory);
    for (const source of directory.sources) {
      const fresh: Rule = ruleSchema.parse({
        id: 'new',
        name: 'New',
        owner: 'ines',
        scope: { sources: [source.id] },
        when: {},
        to: [{ person: 'ines' }],
      });
      for (const { rule } of startsFor(fresh, source)) expect(checkRule(rule, world)).toEqual([]);
    }
  });
});

describe('undo', () => {
  const set = (value: number, at: number) => ({ do: 'set' as const, value, at });
  it('goes back and forth, a burst of typing being one step, and forgets what was undone once something else is done', () => {
    let past = { before: [] as number[], now: 0, after: [] as number[], at: 0 };
    for (const step of [set(1, 1000), set(2, 1100), set(3, 5000)]) past = stepped(past, step);
    expect(past).toMatchObject({ before: [0, 2], now: 3 });
    past = stepped(stepped(past, { do: 'undo' }), { do: 'undo' });
    expect(past).toMatchObject({ before: [], now: 0, after: [2, 3] });
    expect(stepped(past, { do: 'undo' })).toBe(past);
    past = stepped(past, { do: 'redo' });
    expect(past).toMatchObject({ now: 2, after: [3] });
    expect(stepped(past, set(9, 9000))).toMatchObject({ before: [0, 2], now: 9, after: [] });
  });
});
