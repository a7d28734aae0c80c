import type { RouteName } from '../../contract/paths.ts';
import type { Ids } from './rights-world.ts';

/** One way to ask a route: what stands in its path, behind it, and in its body. */
export interface Ask {
  params?: Record<string, string>;
  query?: Record<string, string>;
  body?: object;
}
type AsksOf = (ids: Ids) => Ask[];

const NOWHERE = 'nothing-has-this-id';
const each = (kind: keyof Ids, name = 'id'): ((more?: (id: string) => Omit<Ask, 'params'>) => AsksOf) => {
  return (more = () => ({})) =>
    (ids) =>
      [...ids[kind].slice(0, 14), NOWHERE].map((id) => ({ params: { [name]: id }, ...more(id) }));
};
const item = each('item');
const rule = each('rule');
const message = each('message');
const person = each('person');
const source = each('source', 'source');
const once =
  (ask: Ask = {}): AsksOf =>
  () => [ask];
const change =
  (more: Omit<Ask, 'params'> = {}): AsksOf =>
  (ids) =>
    ids.change.slice(0, 16).map((id) => {
      const [from = '', own = ''] = id.split('/');
      return { params: { source: from, id: own }, ...more };
    });
const perItem =
  (make: (id: string) => Ask): AsksOf =>
  (ids) =>
    [...ids.item.slice(0, 14), NOWHERE].map(make);
const perMessage =
  (make: (id: string) => Ask): AsksOf =>
  (ids) =>
    [...ids.message.slice(0, 8), NOWHERE].map(make);

const RULE = (of: string, more: object = {}) => ({
  document: { name: 'A try', scope: { sources: [of] }, when: {}, to: [{ person: 'petra' }], ...more },
});
const account = {
  name: 'Somebody',
  title: '',
  email: null,
  zone: 'UTC',
  locale: 'en-GB',
  manager: null,
  role: 'member',
  isActive: true,
  looksAfter: [],
  groups: [],
};
const machine = { name: 'A machine', url: 'http://127.0.0.1:9/', kind: 'event', template: '' };
const wording = { name: 'A wording', subject: null, body: 'Hello' };
const form = { title: 'A form', about: '', thanks: '', fields: [], most: 10, isOpen: true };
const door = { name: 'A door', isOpen: true, mappings: [] };
const plan = { plan: null, mutes: [] };

/**
 * How every route is asked by whoever may read little: with ids of all there is, and with one that nothing has. What is
 * `null` is not asked here, for the reason that stands beside it.
 */
export const ASKS: Record<RouteName, AsksOf | null> = {
  'session.open': null, // It is how the others are asked.
  'session.close': null, // Whoever asks goes on asking.
  'session.me': once(),
  'session.speak': once({ body: { language: 'en' } }),
  'session.demo': once(),
  'session.ways': once(),
  'session.events': null, // The streams are listened to for as long as the test lasts.
  'directory.read': once(),
  'find.text': () => ['zq', 'Thing', 'Hidden', 'Said', 'contents'].map((text) => ({ query: { text } })),
  'sources.list': once(),
  'sources.define': once({ body: { name: 'x', about: '', kind: 'list', fields: [], title: 0 } }),
  'sources.redefine': source(() => ({ body: { name: 'x', about: '', kind: 'list', fields: [], title: 0 } })),
  'sources.guess': once({ query: { name: 'a.csv' } }),
  'sources.readers': (ids) =>
    ids.source.flatMap((of) => [
      { params: { source: of } },
      ...ids.item.slice(0, 12).map((id) => ({ params: { source: of }, query: { item: id } })),
    ]),
  'sources.rhythm': (ids) =>
    ids.source.flatMap((of) => [
      { params: { source: of } },
      ...ids.item.slice(0, 12).map((id) => ({ params: { source: of }, query: { item: id } })),
    ]),
  'access.read': source(),
  'access.preview': source(() => ({ body: { folder: null, rights: null } })),
  'access.save': null, // Stewards alone; it would change what the others are asked about.
  'access.noteLooks': source(() => ({ body: { folder: 'closed', isOn: false } })),
  'views.list': source(),
  'views.name': source(() => ({ body: { name: 'Mine', asked: { text: 'zq' } } })),
  'views.drop': each('view')(),
  'items.list': (ids) =>
    ids.source.flatMap((of) =>
      [
        {},
        { text: 'zq' },
        { sort: 'title' },
        { where: JSON.stringify({ field: 'title', op: 'contains', value: 'zq' }) },
      ].map((query) => ({ params: { source: of }, query: query as Record<string, string> })),
    ),
  'items.create': source(() => ({ body: { set: {} } })),
  'items.read': item(),
  'items.edit': item(() => ({ body: { from: 1, set: { title: 'Taken over' } } })),
  'items.remove': item(() => ({ body: { from: 1 } })),
  'items.restore': item(() => ({ body: { from: 1 } })),
  'items.bringBack': item(() => ({ body: { from: 1, change: 'none' } })),
  'items.file': item(() => ({ query: { as: 'text' } })),
  'items.acts': (ids) =>
    ids.source.map((of) => ({
      params: { source: of },
      body: { ids: ids.item.slice(0, 14), act: { act: 'comment', text: 'Hm', mentions: ['petra'] } },
    })),
  'calendars.list': source(),
  'calendars.add': source(() => ({ body: { field: 'due', asked: { text: 'nothing like it' } } })),
  'calendars.drop': each('calendar')(),
  'doors.list': source(),
  'doors.add': source(() => ({ body: door })),
  'doors.try': source(() => ({ body: { mappings: [], sample: '{}' } })),
  'doors.save': each('rule')(() => ({ body: door })),
  'doors.rekey': each('rule')(),
  'doors.drop': each('rule')(),
  'signingIn.read': once(),
  'signingIn.password': null, // Whoever asks goes on asking, by the password they have.
  'signingIn.beginSecond': once({ body: { old: 'wrong' } }),
  'signingIn.putOnSecond': once({ body: { code: '000000' } }),
  'signingIn.dropSecond': once({ body: { old: 'wrong' } }),
  'signingIn.end': each('message')(),
  'signingIn.endOthers': null, // Whoever asks goes on asking.
  'signingIn.ask': null, // Stewards alone; it would stand before what the others are asked.
  'tokens.list': once(),
  'tokens.make': once({ body: { name: 'A program', scope: 'read', days: 1 } }),
  'tokens.end': each('message')(),
  'forms.list': source(),
  'forms.add': source(() => ({ body: form })),
  'forms.save': each('rule')(() => ({ body: form })),
  'forms.drop': each('rule')(),
  'contents.handIn': null, // Takes what it is given, and answers with a number.
  'tables.look': source(() => ({ body: { upload: NOWHERE } })),
  'tables.plan': source(() => ({ body: { upload: NOWHERE, mapping: { columns: ['title'], key: 'title' } } })),
  'tables.take': source(() => ({ body: { upload: NOWHERE, mapping: { columns: ['title'], key: 'title' }, seal: '' } })),
  'tables.progress': source(() => ({ query: { upload: NOWHERE } })),
  'tables.out': (ids) =>
    ids.source.flatMap((of) => ['csv', 'json'].map((as) => ({ params: { source: of }, query: { as } }))),
  'sheets.look': item(),
  'sheets.watch': item(() => ({ body: { key: 'title' } })),
  'sheets.leave': item(),
  'documents.add': source(() => ({ body: { folder: 'closed', files: [{ upload: NOWHERE, name: 'a.txt' }] } })),
  'documents.versions': item(),
  'documents.addVersion': item(() => ({ body: { number: 1 } })),
  'changes.why': (ids) => [...change()(ids), ...change({ query: { person: 'mei' } })(ids)],
  'changes.read': change(),
  'audit.list': once(),
  'trail.list': (ids) => [
    {},
    ...ids.source.map((of) => ({ query: { source: of } })),
    ...ids.item.slice(0, 14).map((id) => ({ query: { item: id } })),
    { query: { person: 'mei' } },
  ],
  'today.gathering': once({ query: { at: '2026-03-04T12:00:00Z' } }),
  'today.read': once({ query: { since: '2026-03-01T00:00:00Z' } }),
  'inbox.list': (): Ask[] => [{}, { query: { text: 'zq' } }, { query: { source: 'vault' } }, { query: { by: 'item' } }],
  'inbox.markRead': perMessage((id) => ({ body: { ids: [id] } })),
  'inbox.markUnread': perMessage((id) => ({ body: { ids: [id] } })),
  'inbox.acknowledge': perMessage((id) => ({ body: { ids: [id] } })),
  'inbox.again': perMessage((id) => ({ body: { ids: [id], when: '2026-03-05T09:00:00Z' } })),
  'messages.read': message(),
  'threads.check': perItem((id) => ({ body: { item: id, people: ['mei'] } })),
  'threads.begin': perItem((id) => ({ body: { item: id, people: ['mei'], word: 'Look' } })),
  'threads.read': each('thread')(),
  'threads.say': each('thread')(() => ({ body: { words: 'A word' } })),
  'outbox.list': (): Ask[] => [
    {},
    { query: { text: 'zq' } },
    { query: { fate: 'withheld' } },
    { query: { channel: 'email' } },
  ],
  'outbox.read': message(),
  'outbox.sendAgain': message(),
  'aside.list': once(),
  'aside.tryAgain': () => [{ params: { id: '1' } }],
  'rules.list': once(),
  'rules.create': (ids) => ids.source.map((of) => ({ body: RULE(of, { name: `Own ${of}` }) })),
  'rules.import': (ids) =>
    ids.source.map((of) => ({ body: { documents: [RULE(of, { name: `More ${of}` }).document] } })),
  'rules.acts': (ids) => [...ids.rule, NOWHERE].map((id) => ({ body: { act: 'undelete', ids: [id] } })),
  'rules.cost': (ids) => [
    ...ids.source.map((of) => ({ body: RULE(of) })),
    ...ids.item.slice(0, 6).map((id) => ({ body: RULE('vault', { scope: { sources: ['vault'], items: [id] } }) })),
  ],
  'rules.suggestions': (ids) => ids.source.map((of) => ({ body: RULE(of) })),
  'rules.tally': (ids) =>
    ids.source.map((of) => ({
      body: RULE(of, { when: null, tally: { of: 'items', per: 'loan', becomes: { op: 'above', value: 1 } } }),
    })),
  'rules.typed': (ids) => [
    ...ids.source.flatMap((of) =>
      [
        'tell ',
        'tell the ',
        'tell petra when a thing of ',
        'tell petra when a Thing of Hidden',
        'tell the webhook ',
      ].map((text) => ({ body: { text, cursor: text.length, sources: [of] } })),
    ),
    ...ids.item.slice(0, 10).map((id) => ({ body: { text: `tell petra when a thing namely [${id}]` } })),
  ],
  'rules.said': (ids) => [
    ...ids.source.map((of) => ({ body: RULE(of) })),
    ...ids.item.slice(0, 10).map((id) => ({ body: RULE('vault', { scope: { sources: ['vault'], items: [id] } }) })),
  ],
  'rules.try': (ids) =>
    ids.source.flatMap((of) => [
      ...ids.item.slice(0, 12).map((id) => ({ body: { ...RULE(of), item: id, person: 'mei' } })),
      ...ids.change.slice(0, 12).map((id) => ({ body: { ...RULE(of), change: id.split('/')[1], person: 'mei' } })),
    ]),
  'rules.sendTrial': (ids) =>
    ids.item.slice(0, 12).map((id) => ({ body: { ...RULE('vault'), item: id, channel: 'email' } })),
  'rules.read': rule(),
  'rules.keepDraft': rule(() => ({ body: { revision: 0, ...RULE('loans') } })),
  'rules.dropDraft': rule(),
  'rules.putLive': rule(() => ({ body: { revision: 0 } })),
  'rules.approve': rule(() => ({ body: { revision: 0 } })),
  'rules.sendBack': rule(() => ({ body: { why: 'Too loud' } })),
  'rules.versions': rule(),
  'rules.editing': rule(),
  'eyes.keep': perItem((id) => ({
    body: RULE('vault', { name: `Eye ${id}`, scope: { sources: ['vault'], items: [id] } }),
  })),
  'wordings.create': once({ body: wording }),
  'wordings.save': rule(() => ({ body: wording })),
  'wordings.drop': rule(),
  'house.saveEyes': null, // Stewards alone; it would hold up what the others put live.
  'house.savePaper': null, // Stewards alone; it would stand on what the others are sent.
  'senders.create': once({ body: { kind: 'house', name: 'House', address: 'a@b.example' } }),
  'senders.save': rule(() => ({ body: { kind: 'house', name: 'House', address: 'a@b.example' } })),
  'senders.drop': rule(),
  'people.list': once(),
  'accounts.add': null, // Stewards alone, and it makes somebody.
  'accounts.read': person(),
  'accounts.preview': person(() => ({ body: account })),
  'accounts.save': person(() => ({ body: { account, seal: 'of nothing' } })),
  'accounts.dropSecond': person(),
  'accounts.welcome': null, // Stewards alone, and it signs somebody out in time.
  'welcome.read': () => [{ params: { token: NOWHERE } }],
  'welcome.choose': () => [{ params: { token: NOWHERE }, body: { password: 'several words of no use' } }],
  'groups.list': once(),
  'groups.add': null, // Stewards alone.
  'groups.preview': () => [{ params: { id: 'readers' }, body: { name: 'Readers', members: [], groups: [] } }],
  'groups.save': () => [
    { params: { id: 'readers' }, body: { group: { name: 'Readers', members: [], groups: [] }, seal: 'of nothing' } },
  ],
  'groups.drop': () => [{ params: { id: NOWHERE } }],
  'starts.read': once(),
  'starts.save': once({ body: { starts: [], seal: 'of nothing' } }),
  'people.hears': person(),
  'plan.read': once(),
  'plan.save': once({ body: plan }),
  'plan.week': once({ body: plan }),
  'less.read': (ids) =>
    ids.rule
      .slice(0, 4)
      .flatMap((id) => [
        { query: { rule: id } },
        ...ids.item.slice(0, 8).map((one) => ({ query: { rule: id, item: one } })),
      ]),
  'less.take': (ids) =>
    ids.item.slice(0, 8).map((id) => ({ body: { way: 'notThisItem', rule: 'vault-watched', item: id } })),
  'less.back': once({ body: { ...plan, rule: null } }),
  'addresses.ask': once({ body: { channel: 'email', address: 'mine@marisma.example', isFurther: true } }),
  'addresses.confirm': once({ body: { code: '000000' } }),
  'addresses.forget': () => [{ params: { channel: 'text' } }],
  'addresses.remove': () => [{ params: { channel: 'text' } }],
  'addresses.removeFurther': () => [{ params: { address: 'none@marisma.example' } }],
  'addresses.trial': () => [{ params: { channel: 'email' } }],
  'contacts.list': once(),
  'contacts.add': once({ body: { name: 'Another', email: 'another@outside.example' } }),
  'contacts.rename': () => [{ params: { id: NOWHERE }, body: { name: 'No one' } }],
  'contacts.drop': () => [{ params: { id: NOWHERE } }],
  'contacts.ask': () => [{ params: { id: NOWHERE } }],
  'running.resumeAddress': once({ body: { address: 'none@marisma.example' } }),
  'running.keep': null, // Stewards alone; it would take away what the others are asked about.
  'running.read': once(),
  'machines.preview': once({ body: { kind: 'json', template: '{}' } }),
  'machines.list': once(),
  'machines.add': once({ body: machine }),
  'machines.save': rule(() => ({ body: { ...machine, isPaused: true } })),
  'machines.rotate': rule(),
  'machines.try': rule(),
  'machines.drop': rule(),
  'standins.mailboxes': null, // They are the demo's alone, on one's own machine.
  'standins.mailbox': null,
  'standins.mail': null,
  'standins.phones': null,
  'standins.phone': null,
  'standins.hooks': null,
  'standins.moods': null,
  'standins.setMoods': null,
  'standins.answer': null,
  'test.clock': null, // Only a server whose clock can be set has it.
};

/** Routes that hand something of a place out, or take part in it: the id of one they may not read is as good as none. */
export const OF_ONE_ITEM: readonly RouteName[] = [
  'items.read',
  'items.edit',
  'items.remove',
  'items.restore',
  'items.bringBack',
  'items.file',
  'sheets.look',
  'sheets.watch',
  'sheets.leave',
  'documents.versions',
  'documents.addVersion',
  'threads.check',
  'threads.begin',
];
