/**
 * The keys under which answers are kept, each made in one place. A key begins with those of what it belongs to, so that
 * refreshing `keys.rules.all` refreshes every rule, its versions too.
 */
export const keys = {
  me: ['me'],
  demo: ['demo'],
  directory: ['directory'],
  find: (text: string) => ['find', text],
  sources: ['sources'],
  views: (source: string) => ['views', source],
  readers: (source: string, item: string | null) => ['readers', source, item],
  rhythm: (source: string, item: string | null) => ['rhythm', source, item],
  items: {
    of: (source: string) => ['items', source],
    asked: (source: string, asked: string) => ['items', source, asked],
    pages: (source: string, asked: string) => ['items', source, 'pages', asked],
    every: ['item'],
    one: (id: string) => ['item', id],
  },
  change: (source: string, id: string) => ['change', source, id],
  trail: { all: ['trail'], asked: (asked: object) => ['trail', asked] },
  inbox: {
    all: ['inbox'],
    asked: (asked: object) => ['inbox', asked],
    today: ['inbox', 'today'],
    since: (since: string) => ['inbox', 'today', since],
    gathering: (at: string) => ['inbox', 'gathering', at],
  },
  messages: { all: ['message'], one: (id: string | null) => ['message', id] },
  passing: (passing: object) => ['pass', passing],
  thread: (id: string) => ['thread', id],
  outbox: { all: ['outbox'], asked: (filter: object) => ['outbox', filter], aside: ['outbox', 'aside'] },
  rules: {
    all: ['rules'],
    one: (id: string | null) => ['rules', id],
    versions: (id: string | null) => ['rules', id, 'versions'],
    editing: (id: string | null) => ['editing', id],
    cost: (days: number, document: string) => ['cost', days, document],
    suggestions: (days: number, document: string) => ['suggestions', days, document],
    tried: (change: string | null, person: string | null, document: string) => ['try', change, person, document],
  },
  people: { all: ['people'], hears: (person: string) => ['people', person, 'hears'] },
  contacts: ['contacts'],
  plan: { all: ['plan'], week: (preferences: string) => ['plan', 'week', preferences] },
  less: { all: ['less'], of: (rule: string, item: string | null) => ['less', rule, item] },
  mail: {
    all: ['mail'],
    box: (address: string | null) => ['mail', address],
    one: (address: string | null, id: string | null) => ['mail', address, id],
  },
  phones: { all: ['phones'], one: (number: string | null) => ['phones', number] },
} as const;
