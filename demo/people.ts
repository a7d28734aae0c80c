import type { Contact, Follower, Group, Plan } from '../core/people/index.ts';
import type { Profile } from '../server/store/index.ts';

/** Somebody as they are laid out: all of their plan is what they chose. */
type Laid = Omit<Profile, 'chosen' | 'start'>;
type Line = [id: string, name: string, title: string, manager: string | null, more?: Partial<Laid>];

const LINES: Line[] = [
  ['ines', 'Inés Calder', 'Registrar, loans', 'hugo', { role: 'coordinator', phone: '+34600555014' }],
  ['hugo', 'Hugo Brandt', 'Head of registration', 'marisol', { role: 'coordinator', phone: '+34600555021' }],
  ['mei', 'Mei Tanaka', 'Insurance', 'hugo', { phone: '+34600555033' }],
  ['sol', 'Sol Petrosyan', 'Text editor', 'olu', { role: 'coordinator' }],
  ['wren', 'Wren Adeyemi', 'Loans officer', 'hugo', { phone: '+34600555047' }],
  ['petra', 'Petra Onwudiwe', 'Insurance, on exchange', 'mei'],
  ['noor', 'Noor Haddad', 'Installation lead', 'tomas', { phone: '+34600555052' }],
  ['tomas', 'Tomás Iriarte', 'Head of installation', 'marisol', { role: 'coordinator', phone: '+34600555060' }],
  ['kofi', 'Kofi Mensah', 'Exhibition design', 'tomas'],
  ['lidia', 'Lidia Roque', 'Contracts', 'marisol'],
  ['ravi', 'Ravi Menon', 'Transport', 'hugo', { phone: '+34600555078' }],
  ['marisol', 'Marisol Vega', 'Director', null, { role: 'steward' }],
  ['olu', 'Olu Bankole', 'Head of publications', 'marisol'],
  ['anneke', 'Anneke Visser', 'Steward of Ojo', 'marisol', { role: 'steward' }],
  ['dario', 'Dario Lucchesi', 'Conservator, textiles', 'hugo'],
  ['yuki', 'Yuki Aranda', 'Conservator, ceramics', 'hugo', { zone: 'Asia/Tokyo' }],
  ['bruno', 'Bruno Castellanos', 'Crew', 'noor'],
  ['ife', 'Ife Lawal', 'Crew', 'noor'],
  ['greta', 'Greta Solheim', 'Crew', 'noor'],
  ['pau', 'Pau Ferrer', 'Lighting', 'tomas'],
  ['samir', 'Samir Dallal', 'Press officer', 'olu'],
  ['clara', 'Clara Whitlock', 'Press, London', 'samir', { zone: 'Europe/London' }],
  ['jonas', 'Jonas Reiter', 'Photographer', 'olu'],
  ['amara', 'Amara Diop', 'Curator, Woven Waters', 'marisol'],
  ['felix', 'Felix Okafor', 'Curator, Small Fires', 'marisol', { zone: 'America/New_York' }],
  ['nuria', 'Núria Bastida', 'Catalogue editor', 'olu', { locale: 'es' }],
  ['teo', 'Teo Marchetti', 'Registrar, tours', 'hugo', { phone: '+34600555091' }],
  ['hana', 'Hana Kovács', 'Assistant registrar', 'ines'],
  ['ilse', 'Ilse van Dongen', 'Education', 'amara'],
  ['adaeze', 'Adaeze Obi', 'Transport, until last month', 'hugo', { active: false }],
  [
    'maximiliana',
    'Maximiliana Etxeberria-Goikoetxea von Hohenstein',
    'Trustee and chair of the acquisitions and long-term loans committee',
    null,
  ],
];

const PLANS: Record<string, Plan> = {
  wren: { emailFormat: 'text' },
  kofi: { reach: { routine: [{ channel: 'inApp' }] } },
  hugo: { reach: { important: [{ channel: 'inApp' }, { channel: 'email', after: 'PT30M' }] } },
  jonas: { off: ['email'] },
  dario: { quiet: [{ days: ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'], from: '19:00', to: '07:30' }] },
  noor: { quiet: [{ days: ['SA', 'SU'], from: '00:00', to: '09:00' }], own: { 'task-status': [{ channel: 'inApp' }] } },
  felix: { reach: { routine: [{ channel: 'inApp' }, { channel: 'email', when: 'away', after: 'PT30M' }] } },
};

export const PEOPLE: Laid[] = LINES.map(([id, name, title, manager, more]) => ({
  id,
  name,
  title,
  manager,
  email: `${id}@marisma.example`,
  phone: null,
  zone: 'Europe/Madrid',
  locale: 'en-GB',
  active: true,
  role: 'member',
  plan: PLANS[id] ?? null,
  ...(id === 'greta' ? { mutes: [{ rule: 'task-status' }] } : {}),
  ...more,
}));

const group = (id: string, name: string, members: string[], groups: string[] = []): Group => ({
  id,
  name,
  members,
  groups,
});

export const GROUPS: Group[] = [
  group('registrars', 'Registrars', ['ines', 'hugo', 'teo', 'hana']),
  group('insurers', 'Insurers', ['mei', 'sol', 'wren', 'petra']),
  group('insurance-desk', 'Insurance desk', ['mei', 'sol', 'wren']),
  group('loans-office', 'Loans office', ['wren', 'ravi', 'lidia', 'amara', 'felix', 'dario', 'yuki', 'maximiliana']),
  group('crew-leads', 'Crew leads', ['noor', 'tomas', 'pau']),
  group('crew', 'Crew', ['bruno', 'ife', 'greta'], ['crew-leads']),
  group('press', 'Press team', ['samir', 'clara', 'jonas', 'noor', 'hugo', 'olu']),
  group('text-editors', 'Text editors', ['sol', 'nuria', 'olu']),
  group('curators', 'Curators', ['amara', 'felix']),
  group('conservators', 'Conservators', ['dario', 'yuki']),
  group('direction', 'Direction', ['marisol', 'anneke']),
  group('contracts', 'Contracts desk', ['lidia', 'hugo', 'ines']),
];

/** People outside: one has confirmed their address, one has not. */
export const CONTACTS: Contact[] = [
  { id: 'halyard', name: 'Halyard Transport, desk', email: 'desk@halyard.example', confirmed: true, unsubscribed: [] },
  { id: 'ferro', name: 'Ana Ferro', email: 'ana@ferro.example', confirmed: false, unsubscribed: [] },
];

export const FOLLOWERS: Follower[] = [
  ...[1, 2, 3, 5, 8, 12].map((at) => ({ item: `L-${at}`, person: 'ines' })),
  ...[1, 4, 9].map((at) => ({ item: `L-${at}`, person: 'amara' })),
  { item: 'L-7', person: 'wren' },
];
