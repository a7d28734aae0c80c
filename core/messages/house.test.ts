import { describe, expect, it } from 'vitest';
import type { Person, World } from '../people/index.ts';
import { OPEN_MESSAGE, openRule, type Rule, type RuleMessage } from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import { asChange, type Source } from '../values/index.ts';
import {
  checkMessage,
  type Content,
  htmlMail,
  makeContent,
  plainLinks,
  type Telling,
  type Usual,
  voiceOf,
  wordsOf,
} from './index.ts';

const AT = instantOf('2026-03-04T10:15:00Z');
const source = (id: string): Source => ({
  id,
  kind: 'records',
  name: id,
  titleField: 'title',
  fields: [{ id: 'title', name: 'Title', type: 'text' }],
});
const SOURCES = new Map(['loans', 'crates'].map((id) => [id, source(id)]));
const hugo: Person = {
  id: 'hugo',
  name: 'Hugo Brandt',
  email: 'hugo@marisma.example',
  phone: null,
  zone: 'UTC',
  locale: 'en-GB',
  manager: null,
  active: true,
  plan: null,
};
const TEXTS: Record<string, { subject: string | null; body: string | null }> = {
  all: { subject: 'Everywhere: {{ item.title }}', body: null },
  loans: { subject: 'Loan: {{ item.title }}', body: 'The loan {{ item.title }}.' },
  shared: { subject: 'Shared', body: null },
};
const USUAL: Usual[] = [
  { source: null, occasion: 'change', wording: 'all' },
  { source: 'loans', occasion: 'change', wording: 'loans' },
];
const SENDERS = [{ id: 'registrars', name: 'Registrars', address: 'registrars@marisma.example' }];
const WORLD = {
  people: new Map([['hugo', hugo]]),
  groups: new Map(),
  sources: SOURCES,
  folders: new Map(),
  access: [],
  item: () => undefined,
  ...voiceOf({ usual: USUAL, senders: SENDERS }, (id) => TEXTS[id]),
} satisfies World & ReturnType<typeof voiceOf>;

const ruleOf = (of: string, message: Partial<RuleMessage> = {}): Rule => ({
  ...openRule(`r-${of}`, `Rule of ${of}`, 'hugo', [of]),
  message: { ...OPEN_MESSAGE, ...message },
});
function made(rule: Rule, occasion: Telling['occasion'] = 'change', others: Rule[] = []): Content {
  const of = rule.scope.sources[0] ?? '';
  const item = { id: 'I-1', source: of, folder: null, fields: {}, createdBy: null, lastBy: null, lastAt: null };
  const changed = { ...asChange(item, AT), actor: 'hugo', before: { title: 'Reed' }, after: { title: 'Reed Gate' } };
  const tellings = [rule, ...others].map(
    (one): Telling => ({
      alert: 'a1',
      rule: one,
      source: of,
      item: 'I-1',
      occasion,
      at: AT,
      changes: [changed],
      reasons: [],
    }),
  );
  const reader = { id: 'mei', name: 'Mei', locale: 'en-GB', zone: 'UTC' };
  return makeContent('single', [tellings], AT, reader, WORLD) as Content;
}

describe('what is usual', () => {
  it('is said by rules without words: a source’s own before that of every source, and part by part', () => {
    expect(made(ruleOf('loans')).own).toEqual({ subject: 'Loan: Reed Gate', body: 'The loan Reed Gate.' });
    expect(made(ruleOf('crates')).own).toEqual({ subject: 'Everywhere: Reed Gate', body: null });
    expect(made(ruleOf('loans', { subject: 'Mine' })).own).toEqual({ subject: 'Mine', body: 'The loan Reed Gate.' });
    expect(made(ruleOf('crates', { wording: 'shared' })).own).toEqual({ subject: 'Shared', body: null });
  });

  it('is of its occasion alone', () => expect(made(ruleOf('loans'), 'idle').own).toBeUndefined());
});

describe('in whose name a message comes', () => {
  const senderOf = (message: Partial<RuleMessage>, others: Partial<RuleMessage>[] = []) =>
    made(
      ruleOf('loans', message),
      'change',
      others.map((one) => ruleOf('loans', one)),
    ).sender;

  it('is that of the house’s choice, with its address, and answers go there unless the rule says where', () => {
    const from = { sender: 'registrars' };
    const named = { name: 'Registrars', address: 'registrars@marisma.example' };
    expect(senderOf({ from })).toEqual({ ...named, replyTo: named.address });
    expect(senderOf({ from, replyTo: 'desk@marisma.example' })).toEqual({ ...named, replyTo: 'desk@marisma.example' });
    expect(senderOf({ from: 'owner' })).toEqual({ name: 'Hugo Brandt', replyTo: 'hugo@marisma.example' });
  });

  it('is Ojo where its rules do not agree, or the name is gone', () => {
    expect(senderOf({ from: { sender: 'registrars' } }, [{ from: 'owner' }])).toBeUndefined();
    expect(senderOf({ from: { sender: 'gone' } })).toBeUndefined();
  });

  it('is refused where the house has no such name', () => {
    const faults = (from: RuleMessage['from']) =>
      checkMessage(ruleOf('loans', { from }), SOURCES, { senders: new Set(['registrars']) });
    expect(faults({ sender: 'registrars' })).toEqual([]);
    expect(faults({ sender: 'gone' })).toMatchObject([{ code: 'unknownSender', path: 'message.from' }]);
  });
});

it('every email stands between letterhead and sign-off, as HTML and as plain text; nothing else does', () => {
  const paper = { letterhead: '**Marisma** <Museum>', signOff: '[Ring us](tel:+34600555010)' };
  const links = plainLinks({ base: 'https://ojo.example', name: 'Ojo' }, 'm1', null, paper);
  const content = made(ruleOf('loans'));
  const html = htmlMail(content, links);
  const order = ['<b>Marisma</b> &lt;Museum&gt;', 'The loan Reed Gate.', 'href="tel:+34600555010">Ring us</a>'];
  expect(order.map((part) => html.indexOf(part)).toSorted((a, b) => a - b)).toEqual(
    order.map((part) => html.indexOf(part)),
  );
  expect(html.indexOf(order[0] ?? '')).toBeGreaterThan(0);
  const plain = wordsOf(content, 'email', links);
  expect(plain).toMatch(/^Marisma <Museum>\n\n[\s\S]*The loan Reed Gate\.[\s\S]*Ring us \(tel:\+34600555010\)\n/);
  expect(wordsOf(content, 'text', links)).not.toContain('Marisma');
});
