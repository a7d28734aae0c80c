/** Every route of the API by its name: its method and its path below `/api`, `:name` standing for a part of it. */
export const PATHS = {
  'session.open': 'POST /session',
  'session.close': 'DELETE /session',
  'session.me': 'GET /session',
  'session.speak': 'PUT /me/language',
  'session.demo': 'GET /demo',
  'session.events': 'GET /events',

  'directory.read': 'GET /directory',
  'find.text': 'GET /find',
  'sources.list': 'GET /sources',
  'sources.define': 'POST /sources',
  'sources.redefine': 'PUT /sources/:source',
  'sources.guess': 'POST /sources/guess',
  'sources.readers': 'GET /sources/:source/readers',
  'sources.rhythm': 'GET /sources/:source/rhythm',
  'access.read': 'GET /sources/:source/access',
  'access.preview': 'POST /sources/:source/access/preview',
  'access.save': 'PUT /sources/:source/access',
  'views.list': 'GET /sources/:source/views',
  'views.name': 'POST /sources/:source/views',
  'views.drop': 'DELETE /views/:id',
  'items.list': 'GET /sources/:source/items',
  'items.create': 'POST /sources/:source/items',
  'items.read': 'GET /items/:id',
  'items.edit': 'PATCH /items/:id',
  'items.remove': 'DELETE /items/:id',
  'items.restore': 'POST /items/:id/restore',
  'items.bringBack': 'POST /items/:id/back',
  'items.file': 'GET /items/:id/file',
  'items.acts': 'POST /sources/:source/acts',
  'contents.handIn': 'POST /sources/:source/contents',
  'tables.look': 'POST /sources/:source/table/look',
  'tables.plan': 'POST /sources/:source/table/plan',
  'tables.take': 'POST /sources/:source/table',
  'tables.out': 'GET /sources/:source/table',
  'sheets.look': 'GET /items/:id/table',
  'sheets.watch': 'PUT /items/:id/table',
  'sheets.leave': 'DELETE /items/:id/table',
  'documents.add': 'POST /sources/:source/documents',
  'documents.versions': 'GET /items/:id/versions',
  'documents.addVersion': 'POST /items/:id/versions',
  'changes.read': 'GET /changes/:source/:id',
  'audit.list': 'GET /audit',
  'trail.list': 'GET /trail',

  'today.gathering': 'GET /today/gathering',
  'today.read': 'GET /today',
  'inbox.list': 'GET /inbox',
  'inbox.markRead': 'POST /inbox/read',
  'inbox.markUnread': 'POST /inbox/unread',
  'inbox.acknowledge': 'POST /inbox/acknowledge',
  'messages.read': 'GET /messages/:id',
  'threads.check': 'POST /pass/check',
  'threads.begin': 'POST /pass',
  'threads.read': 'GET /threads/:id',
  'threads.say': 'POST /threads/:id',
  'outbox.list': 'GET /outbox',
  'outbox.sendAgain': 'POST /outbox/:id/again',
  'aside.list': 'GET /aside',
  'aside.tryAgain': 'POST /aside/:id/again',

  'rules.list': 'GET /rules',
  'rules.create': 'POST /rules',
  'rules.import': 'POST /rules/import',
  'rules.acts': 'POST /rules/acts',
  'rules.cost': 'POST /rules/cost',
  'rules.suggestions': 'POST /rules/suggestions',
  'rules.try': 'POST /rules/try',
  'rules.sendTrial': 'POST /rules/try/send',
  'rules.read': 'GET /rules/:id',
  'rules.keepDraft': 'PUT /rules/:id/draft',
  'rules.dropDraft': 'DELETE /rules/:id/draft',
  'rules.putLive': 'POST /rules/:id/live',
  'rules.versions': 'GET /rules/:id/versions',
  'rules.editing': 'PUT /rules/:id/editing',
  'eyes.keep': 'POST /eyes',
  'wordings.create': 'POST /wordings',
  'wordings.save': 'PUT /wordings/:id',
  'wordings.drop': 'DELETE /wordings/:id',
  'house.savePaper': 'PUT /house/paper',
  'senders.create': 'POST /senders',
  'senders.save': 'PUT /senders/:id',
  'senders.drop': 'DELETE /senders/:id',

  'people.list': 'GET /people',
  'people.hears': 'GET /people/:id/hears',
  'plan.read': 'GET /me/plan',
  'plan.save': 'PUT /me/plan',
  'plan.week': 'POST /me/plan/week',
  'less.read': 'GET /less',
  'less.take': 'POST /less',
  'less.back': 'POST /less/back',
  'addresses.ask': 'POST /me/addresses',
  'addresses.confirm': 'POST /me/addresses/code',
  'addresses.forget': 'DELETE /me/addresses/:channel/asked',
  'addresses.remove': 'DELETE /me/addresses/:channel',
  'addresses.trial': 'POST /me/trial/:channel',
  'contacts.list': 'GET /contacts',
  'contacts.ask': 'POST /contacts/:id/ask',

  'standins.mailboxes': 'GET /standins/mail',
  'standins.mailbox': 'GET /standins/mail/:address',
  'standins.mail': 'GET /standins/mail/:address/:id',
  'standins.phones': 'GET /standins/phones',
  'standins.phone': 'GET /standins/phones/:number',
  'standins.answer': 'POST /standins/phones/:number',
  'test.clock': 'PUT /test/clock',
} as const satisfies Record<string, `${'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'} /${string}`>;

/** The name of a route, as both sides call it. */
export type RouteName = keyof typeof PATHS;

/** The names in a path: `id` in `GET /rules/:id`. */
type NamesIn<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Name | NamesIn<Rest>
  : P extends `${string}:${infer Name}`
    ? Name
    : never;
/** What stands for the named parts of a route's path. */
export type ParamsOf<N extends RouteName> = Record<NamesIn<(typeof PATHS)[N]>, string>;

/** A route's method, and its path with its parts in their places. */
export function addressOf<N extends RouteName>(name: N, params: ParamsOf<N>): { method: string; path: string } {
  const [method = '', path = ''] = PATHS[name].split(' ');
  const parts: Record<string, string> = params;
  return { method, path: path.replace(/:(\w+)/g, (_, part: string) => encodeURIComponent(parts[part] ?? '')) };
}
