import { beforeAll, describe, expect, it } from 'vitest';
import { LIMITS } from '../../contract/limits.ts';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { NOON, ON_VIEW, putLive, rule } from '../testing/museum.ts';

const asking = askMuseum();
const { museum, ask, settle } = asking;
beforeAll(async () => {
  await putLive(
    museum.pool,
    rule({ ...ON_VIEW, id: 'innocent', owner: 'ines', to: [{ person: 'wren' }] }),
    NOON - 1000,
  );
});

/** So long a refusal may take, in ms; of some tries the fastest counts, since others work on the same machine. */
const REFUSED_MS = 100;
const TRIES = 20;

let loans = 0;
/** That somebody still hears of what has nothing to do with it. */
async function innocentStillHeard(after: string): Promise<void> {
  const title = `Innocent ${++loans}`;
  const made = await ask('/sources/loans/items', {
    as: 'mei',
    method: 'POST',
    body: { set: { title, status: 'Agreed' } },
  });
  const { status } = await ask(`/items/${made.body.id}`, {
    as: 'mei',
    method: 'PATCH',
    body: { from: 1, set: { status: 'On view' } },
  });
  expect(status, after).toBe(200);
  await settle();
  expect(JSON.stringify((await ask('/inbox', { as: 'wren' })).body.messages.slice(0, 3)), after).toContain(title);
}

interface Hostile {
  name: string;
  path: string;
  body: unknown;
  method?: string;
  as?: string;
  /** Whether it must be refused, or may be taken. */
  is: 'refused' | 'either';
}

/** Sends it, some times where it is refused; that it was refused in words, soon, with where and why, or taken. */
async function send({ name, path, body, method = 'POST', as = 'marisol', is }: Hostile): Promise<void> {
  let fastest = Number.POSITIVE_INFINITY;
  let answer = { status: 0, body: null as unknown };
  for (let tries = 0; tries < TRIES && fastest > REFUSED_MS; tries++) {
    const began = performance.now();
    answer = await ask(path, { as, method, body });
    fastest = Math.min(fastest, performance.now() - began);
    if (answer.status < 400) break;
  }
  const said = `${name}: ${answer.status} ${JSON.stringify(answer.body).slice(0, 300)}`;
  expect(answer.status, said).toBeLessThan(500);
  if (is === 'refused') expect(answer.status, said).toBeGreaterThanOrEqual(400);
  if (answer.status < 400) {
    await goLive(answer.body);
    return;
  }
  const { code, faults = [], because, detail } = answer.body as Record<string, unknown> & { faults?: object[] };
  expect(code, said).toEqual(expect.any(String));
  expect(faults.length > 0 || because !== undefined || detail !== undefined, said).toBe(true);
  expect(faults.length, said).toBeLessThanOrEqual(LIMITS.faults + 1);
  for (const fault of faults)
    expect(fault, said).toMatchObject({ path: expect.any(String), words: expect.stringMatching(/\S/) });
  expect(fastest, said).toBeLessThan(REFUSED_MS);
}

/** A rule that was taken is put live, so that what is done next meets it. */
async function goLive(body: unknown): Promise<void> {
  const { id, draftRevision } = body as { id?: string; draftRevision?: number };
  if (id === undefined || draftRevision === undefined) return;
  const { status } = await ask(`/rules/${id}/live`, {
    as: 'marisol',
    method: 'POST',
    body: { revision: draftRevision, isSure: true },
  });
  expect(status).toBeLessThan(500);
}

const IS = { field: 'status', op: 'is', value: 'On view' };
const nested = (depth: number, inner: unknown = IS): unknown =>
  depth === 0 ? inner : { all: [nested(depth - 1, inner)] };
const managers = (depth: number): unknown =>
  depth === 0 ? { field: 'registrar' } : { managerOf: managers(depth - 1) };
const many = <T>(count: number, make: (at: number) => T): T[] => Array.from({ length: count }, (_, at) => make(at));
const rulesOf = (documents: [name: string, is: Hostile['is'], more: Record<string, unknown>][]): Hostile[] =>
  documents.map(([name, is, more]) => ({ name, is, path: '/rules', body: { document: documentOf(more) } }));
const when = (condition: unknown) => ({ when: { if: condition } });

const RULES = rulesOf([
  ['conditions as deep as may be', 'either', when(nested(LIMITS.nesting))],
  ['conditions one too deep', 'refused', when(nested(LIMITS.nesting + 1))],
  ['conditions far too deep', 'refused', when(nested(900))],
  ['as many conditions as a list may have', 'either', when({ any: many(1500, () => IS) })],
  ['one condition too many', 'refused', when({ any: many(LIMITS.list + 1, () => IS) })],
  ['too many parts', 'refused', when({ all: many(60, () => ({ any: many(60, () => IS) })) })],
  ['each condition of a kind that there is not', 'refused', when({ any: many(1000, () => ({ field: 'x', op: 'y' })) })],
  [
    'each condition on a field that there is not',
    'refused',
    when({ any: many(1000, (at) => ({ ...IS, field: `f${at}` })) }),
  ],
  ['a very long text to compare with', 'either', when({ field: 'note', op: 'contains', value: 'x'.repeat(100_000) })],
  [
    'patterns that others take for expressions',
    'either',
    when({ field: 'note', op: 'contains', value: '(a+)+$'.repeat(2000) }),
  ],
  ['numbers that are none', 'refused', when({ rose: { field: 'status', by: '9'.repeat(5000) } })],
  ['a very long name', 'refused', { name: 'n'.repeat(10_000) }],
  ['nothing but blanks for a name', 'refused', { name: ' '.repeat(1000) }],
  ['names of what objects have', 'refused', { constructor: { prototype: {} } }],
  ['managers as deep as may be', 'either', { to: [managers(LIMITS.nesting)] }],
  ['managers one too deep', 'refused', { to: [managers(LIMITS.nesting + 1)] }],
  ['everybody a thousand times', 'either', { to: many(1000, () => ({ person: 'mei' })) }],
  ['a thousand who are nobody', 'either', { to: many(1000, (at) => ({ person: `nobody ${at}` })) }],
  [
    'more items than a list may have',
    'refused',
    { scope: { sources: ['loans'], items: many(LIMITS.list + 1, String) } },
  ],
  ['as many items', 'either', { scope: { sources: ['loans'], items: many(LIMITS.list, String) } }],
  ['a duration of ages', 'refused', { pace: { kind: 'settled', quiet: 'P9999999Y', most: 'P9999999Y' } }],
  ['a pace that never comes', 'either', { pace: { kind: 'digest', every: 'month', on: [31], at: '23:59' } }],
  ['two ways to begin', 'refused', { due: { field: 'due' }, idle: { for: 'P1D' } }],
  ['words that take for ever', 'either', { message: { body: '{% for i in (1..100000000) %}x{% endfor %}' } }],
  ['words within words', 'either', { message: { body: '{% if 1 %}'.repeat(2000) + '{% endif %}'.repeat(2000) } }],
  ['very long words', 'refused', { message: { body: 'w'.repeat(200_000) } }],
  ['an address that is half of one', 'refused', { message: { replyTo: `${'a'.repeat(240)}@` } }],
]);

const PLANS: Hostile[] = (
  [
    ['a thousand steps', 'either', { reach: { critical: many(1000, () => ({ channel: 'email' })) } }],
    ['a step too many', 'refused', { reach: { critical: many(LIMITS.list + 1, () => ({ channel: 'email' })) } }],
    ['a thousand quiet times', 'either', { quiet: many(1000, () => ({ days: ['MO'], from: '22:00', to: '07:00' })) }],
    ['a quiet time of no day', 'refused', { quiet: [{ days: [], from: '22:00', to: '07:00' }] }],
    ['an urgency that there is not', 'refused', { reach: { ['x'.repeat(1000)]: [] } }],
  ] as const
).map(([name, is, plan]) => ({ name, is, path: '/me/plan', method: 'PUT', as: 'petra', body: { plan, mutes: [] } }));

const WORDINGS: Hostile[] = (
  [
    ['a loop of ages', '{% for i in (1..100000000) %}x{% endfor %}'],
    ['loops within loops', '{% for i in (1..1000) %}'.repeat(8) + '{% endfor %}'.repeat(8)],
    ['a value that grows', `{% assign a = "x" %}${'{% assign a = a | append: a %}'.repeat(60)}{{ a }}`],
    ['blocks that never close', '{% if true %}'.repeat(500)],
    ['a thousand filters', `{{ item.title ${'| upcase '.repeat(1000)}}}`],
    ['brackets of no end', '{{'.repeat(20_000)],
  ] as const
).map(([name, body]) => ({ name, is: 'either', path: '/wordings', body: { name, subject: null, body } }));

const VIEWS: Hostile[] = [
  {
    name: 'a view of a thousand tests',
    path: '/sources/loans/views',
    is: 'refused',
    body: { name: 'A', asked: { where: JSON.stringify(many(1000, () => IS)) } },
  },
  {
    name: 'a view that is no JSON',
    path: '/sources/loans/views',
    is: 'either',
    body: { name: 'B', asked: { where: '{'.repeat(7000) } },
  },
  {
    name: 'a view of a very long name',
    path: '/sources/loans/views',
    is: 'refused',
    body: { name: 'v'.repeat(9000), asked: {} },
  },
];

const ITEMS: Hostile[] = (
  [
    ['a line at its longest', 'either', { title: 'x'.repeat(LIMITS.line) }],
    ['a line one too long', 'refused', { title: 'x'.repeat(LIMITS.line + 1) }],
    ['a text at its longest', 'either', { title: 'Long', note: '🙂'.repeat(LIMITS.text / 2) }],
    ['a text too long', 'refused', { title: 'Long', note: 'x'.repeat(LIMITS.text + 1) }],
    ['a text of marks upon marks', 'either', { title: `Z${'\u0301'.repeat(LIMITS.line - 1)}` }],
    ['fields that there are not', 'refused', Object.fromEntries(many(900, (at) => [`f${at}`, 'x']))],
    ['a field that objects have', 'refused', { title: 'A', constructor: 'x' }],
    ['values within values', 'refused', { title: JSON.parse('['.repeat(30) + ']'.repeat(30)) }],
    ['somebody a thousand times', 'refused', { title: 'A', registrar: many(1000, () => 'mei') }],
  ] as const
).map(([name, is, set]) => ({ name, is, path: '/sources/loans/items', body: { set } }));

const rowsOfTable = (count: number) => `Title,Status\n${many(count, (at) => `Row ${at},Agreed`).join('\n')}`;
const TABLES: [name: string, file: string, bytes: () => string | Buffer][] = [
  ['more rows than a table may have', 'rows.csv', () => rowsOfTable(LIMITS.tableRows + 1)],
  [
    'more columns than a table may have',
    'columns.csv',
    () => many(LIMITS.tableColumns + 50, (at) => `C${at}`).join(','),
  ],
  ['a quotation that never ends', 'open.csv', () => `Title\n"${'x'.repeat(200_000)}`],
  ['brackets of no end', 'deep.json', () => '['.repeat(100_000)],
  ['what is no workbook', 'none.xlsx', () => Buffer.alloc(50_000, 'PK\u0003\u0004')],
  ['a calendar of no end', 'days.ics', () => `BEGIN:VCALENDAR\n${'BEGIN:VEVENT\n'.repeat(20_000)}`],
];

describe('a document at a limit or over it', { timeout: 60_000 }, () => {
  for (const [kind, documents] of Object.entries({
    rule: RULES,
    plan: PLANS,
    wording: WORDINGS,
    view: VIEWS,
    item: ITEMS,
  }))
    it(`that is a ${kind} is refused with where and why, or decided; others hear what they heard before`, async () => {
      for (const one of documents) {
        await send(one);
        await innocentStillHeard(one.name);
      }
    });

  it('that is a file with a table is refused, or looked at', async () => {
    for (const [name, file, bytes] of TABLES) {
      const handed = await asking.handIn('marisol', 'loans', file, bytes());
      expect(handed.status, name).toBeLessThan(500);
      if (handed.status < 300) {
        const looked = await ask('/sources/loans/table/look', {
          as: 'marisol',
          method: 'POST',
          body: { upload: handed.body.upload, name: file },
        });
        expect(looked.status, `${name}: ${JSON.stringify(looked.body).slice(0, 200)}`).toBeLessThan(500);
      }
      await innocentStillHeard(name);
    }
  });
});
