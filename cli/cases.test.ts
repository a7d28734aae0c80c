import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import { simulate } from '../core/decide/index.ts';
import { differences } from './differences.ts';
import { BadDocument, readCase, readInputs } from './reading.ts';

const CASES = fileURLToPath(new URL('../core/cases/', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'ojo-cli-'));
afterAll(() => rmSync(folder, { recursive: true }));

describe('cases', () => {
  it.each(readdirSync(CASES))('%s', (name) => {
    const { scenario, expected } = readCase(join(CASES, name));
    expect(differences(expected, simulate(scenario))).toEqual([]);
  });

  it('tells a wrong expectation from a right one', () => {
    expect(differences({ alerts: [{ rule: 'r1' }] }, { alerts: [] })).toHaveLength(1);
    expect(differences({ alerts: [{ rule: 'r1' }] }, { alerts: [{ rule: 'r1', at: 'now' }] })).toEqual([]);
    expect(differences({ alerts: [{ rule: 'r1' }] }, { alerts: [{ rule: 'r2' }] })).toEqual([
      'alerts.0.rule: expected "r1", and "r2" came out',
    ]);
  });
});

const SOURCE = {
  id: 'loans',
  kind: 'records',
  name: 'Loans',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
  ],
};
const RULE = {
  id: 'r1',
  name: 'R',
  owner: 'ines',
  scope: { sources: ['loans'] },
  when: { if: { became: { field: 'status', op: 'is', value: 'On view' } } },
  to: [{ person: 'ines' }],
};
const scenario = (more: Record<string, unknown> = {}) => ({
  start: '2026-03-02T00:00:00Z',
  end: '2026-03-03T00:00:00Z',
  people: [{ id: 'ines', name: 'Inés' }],
  sources: [SOURCE],
  rules: [RULE],
  ...more,
});

let count = 0;
function fileOf(content: unknown): string {
  const file = join(folder, `${++count}.json`);
  writeFileSync(file, typeof content === 'string' ? content : JSON.stringify(content));
  return file;
}

function faultsOf(content: unknown): string[] {
  try {
    readCase(fileOf(content));
    return [];
  } catch (error) {
    if (!(error instanceof BadDocument)) throw error;
    return error.message.split('\n').map((line) => line.replace(/^\S+\.json: /, ''));
  }
}

describe('a bad document', () => {
  it.each<[string, unknown, string[]]>([
    [
      'an unknown key, and what there may be',
      scenario({ people: [{ id: 'ines', name: 'Inés', shoe: 41 }] }),
      [
        'people.0.shoe: There is no part “shoe” here. There may be: id, name, email, phone, zone, locale, manager, active, plan, mutes.',
      ],
    ],
    [
      'a condition’s nearest shape',
      scenario({
        rules: [{ ...RULE, when: { if: { all: [{ became: { field: 'status', op: 'becomes', value: 'x' } }] } } }],
      }),
      [expect.stringMatching(/^rules\.0\.when\.if\.all\.0\.became\.op: It has to be one of: empty, filled, is, /)],
    ],
    [
      'a node there is not',
      scenario({ rules: [{ ...RULE, when: { if: { turned: 1 } } }] }),
      [expect.stringMatching(/^rules\.0\.when\.if: This is none of what may stand here: .*became/)],
    ],
    [
      'several at once',
      scenario({ rules: [{ ...RULE, urgency: 'loud', to: [{ person: 7 }] }] }),
      [
        expect.stringContaining('rules.0.urgency: It has to be one of: routine'),
        expect.stringContaining('rules.0.to.0.person'),
      ],
    ],
    [
      'a field the source lacks',
      scenario({ rules: [{ ...RULE, when: { if: { changed: 'colour' } } }] }),
      ['rules.0.when.if.changed: Loans has no field “colour”. It has: title, status.'],
    ],
    [
      'an operator the type lacks',
      scenario({ rules: [{ ...RULE, when: { if: { field: 'status', op: 'above', value: 3 } } }] }),
      [
        expect.stringContaining(
          'Status cannot be tested with “above”. It can with: is, isNot, oneOf, noneOf, empty, filled.',
        ),
      ],
    ],
    [
      'two occasions',
      scenario({ rules: [{ ...RULE, idle: { for: 'P1D' } }] }),
      [expect.stringContaining('one of when, due and idle')],
    ],
    [
      'a burst that settles',
      scenario({
        rules: [{ ...RULE, when: { burst: { count: 2, within: 'PT1H', per: 'rule' } }, pace: { kind: 'settled' } }],
      }),
      [expect.stringContaining('rules.0.when.burst')],
    ],
    [
      'a name that no text can use',
      scenario({ rules: [{ ...RULE, message: { subject: '{{ item.colour }} of {{ rule.name }}' } }] }),
      [expect.stringMatching(/^rules\.0\.message\.subject: There is no “item\.colour” to put in\. There is: item\.id/)],
    ],
    [
      'inputs out of order',
      scenario({
        inputs: [
          { do: 'read', at: '2026-03-02T02:00:00Z', person: 'ines' },
          { do: 'read', at: '2026-03-02T01:00:00Z', person: 'ines' },
        ],
      }),
      [expect.stringContaining('inputs.1.at: 2026-03-02T01:00:00Z comes after 2026-03-02T02:00:00Z')],
    ],
    [
      'resuming what is not paused',
      scenario({ inputs: [{ do: 'resume', at: '2026-03-02T02:00:00Z', rule: 'r1', catchUp: 'each' }] }),
      [expect.stringContaining('inputs.0.rule: The rule “r1” is not paused')],
    ],
    [
      'resuming without saying how',
      scenario({
        inputs: [
          { do: 'pause', at: '2026-03-02T01:00:00Z', rule: 'r1' },
          { do: 'resume', at: '2026-03-02T02:00:00Z', rule: 'r1' },
        ],
      }),
      [expect.stringContaining('inputs.1.catchUp')],
    ],
    [
      'an act on somebody unknown',
      scenario({ inputs: [{ do: 'read', at: '2026-03-02T02:00:00Z', person: 'nobody' }] }),
      ['inputs.0.person: There is no person “nobody”. There are: ines.'],
    ],
    ['no JSON', '{ "start": ', [expect.stringContaining('The document cannot be read')]],
  ])('tells of %s', (_name, document, wanted) => expect(faultsOf(document)).toEqual(wanted));

  it('is none where all is right, in YAML too', () => {
    const file = join(folder, 'right.yaml');
    writeFileSync(
      file,
      'start: 2026-03-02T00:00:00Z\nend: 2026-03-03T00:00:00Z\npeople:\n  - { id: ines, name: Inés }\n',
    );
    expect(readCase(file).scenario.people.map((person) => person.name)).toEqual(['Inés']);
    expect(faultsOf(scenario())).toEqual([]);
  });
});

describe('inputs, one a line', () => {
  const change = (id: string, at: string) => ({
    id,
    at,
    source: 'loans',
    item: 'L-1',
    kind: 'changed',
    actor: 'mei',
    before: {},
    after: { status: 'On view' },
  });
  const read = async (lines: unknown[]) => {
    const { scenario: setting } = readCase(fileOf(scenario()));
    const found = [];
    for await (const input of readInputs(setting, fileOf(lines.map((line) => JSON.stringify(line)).join('\n'))))
      found.push(input);
    return found;
  };

  it('are read in order, as changes or as events', async () => {
    const event = {
      specversion: '1.0',
      type: 'ojo.item.changed',
      source: 'loans',
      id: 'c2',
      subject: 'L-1',
      time: '2026-03-02T11:00:00Z',
      data: { actor: 'mei', before: {}, after: {} },
    };
    expect(
      (await read([change('c1', '2026-03-02T10:00:00Z'), event])).map((input) => ('do' in input ? '' : input.id)),
    ).toEqual(['c1', 'c2']);
  });

  it('name the line of what is wrong', async () => {
    await expect(
      read([change('c1', '2026-03-02T10:00:00Z'), { ...change('c2', '2026-03-02T11:00:00Z'), kind: 'bent' }]),
    ).rejects.toThrow(/line 2: \.?kind/);
    await expect(read([change('c1', '2026-03-02T10:00:00Z'), change('c2', '2026-03-02T09:00:00Z')])).rejects.toThrow(
      /line 2\.at: 2026-03-02T09:00:00Z comes after/,
    );
  });
});
