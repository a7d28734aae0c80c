import type { AccessEntry, Folder } from '../core/people/index.ts';
import type { Field } from '../core/values/index.ts';
import type { ListedSource, OpenForm } from '../server/store/index.ts';

export const EXHIBITIONS = ['Woven Waters', 'Small Fires'];
export const STATUSES = ['Requested', 'Agreed', 'On view', 'Returned'];
export const TASK_STATES = ['To do', 'Under way', 'Blocked', 'Done'];
export const APPROVALS = ['Draft', 'Submitted', 'Approved', 'Rejected'];
export const GALLERIES = ['Gallery 1', 'Gallery 2', 'Gallery 3', 'Foyer', 'Store 2', 'Loading dock'];
export const CRATE_STATES = ['Ordered', 'Packed', 'In transit', 'Arrived', 'Empty'];
export const ENQUIRY_STATES = ['New', 'Answered', 'Waiting', 'Closed'];
export const CONDITIONS = ['Good', 'Fair', 'Fragile', 'Damaged'];
export const RATINGS = ['Trusted', 'New', 'On hold'];
export const MATERIALS = ['wool', 'linen', 'clay', 'glass', 'reed', 'copper'];

const field = (id: string, name: string, type: Field['type'], more: Partial<Field> = {}): Field => ({
  id,
  name,
  type,
  ...more,
});
const choice = (id: string, name: string, options: string[]): Field => field(id, name, 'choice', { options });
const document = [
  field('name', 'Name', 'text'),
  choice('approval', 'Approval', APPROVALS),
  field('version', 'Version', 'number'),
  field('size', 'Size in KB', 'number'),
  field('author', 'Author', 'person'),
  field('approver', 'Approver', 'person'),
  field('checkedOutBy', 'Checked out by', 'person'),
  field('sharedWith', 'Shared with', 'people'),
];

export const SOURCES: ListedSource[] = [
  {
    id: 'loans',
    kind: 'records',
    name: 'Loan agreements',
    about: 'What the museum borrows, from whom, until when',
    titleField: 'title',
    fields: [
      field('title', 'Loan', 'text'),
      choice('status', 'Status', STATUSES),
      choice('exhibition', 'Exhibition', EXHIBITIONS),
      field('lender', 'Lender', 'link', { to: 'lenders' }),
      field('registrar', 'Registrar', 'person'),
      field('insured', 'Insured value', 'money'),
      field('cover', 'Cover limit', 'money'),
      field('due', 'Due back', 'date'),
      choice('place', 'Place', GALLERIES),
      field('courier', 'Courier', 'text'),
      field('fragile', 'Fragile', 'boolean'),
      field('objects', 'Objects', 'links', { to: 'objects' }),
      field('note', 'Note', 'longText'),
    ],
  },
  {
    id: 'lenders',
    kind: 'records',
    name: 'Lenders',
    about: 'People and houses that lend, and who looks after them',
    titleField: 'name',
    fields: [
      field('name', 'Lender', 'text'),
      field('keeper', 'Keeper', 'person'),
      field('email', 'Email', 'email'),
      field('site', 'Web site', 'url'),
      choice('terms', 'Terms', ['Free', 'Fee', 'Exchange']),
      choice('rating', 'Rating', RATINGS),
      field('since', 'Lends since', 'date'),
      field('note', 'Note', 'longText'),
    ],
  },
  {
    id: 'objects',
    kind: 'records',
    name: 'Objects',
    about: 'Every work, where it is and how it fares',
    titleField: 'title',
    fields: [
      field('title', 'Object', 'text'),
      field('materials', 'Materials', 'choices', { options: MATERIALS }),
      choice('condition', 'Condition', CONDITIONS),
      choice('place', 'Place', GALLERIES),
      field('conservator', 'Conservator', 'person'),
      field('value', 'Value', 'money'),
      field('weight', 'Weight in kg', 'number'),
      field('checked', 'Last checked', 'date'),
    ],
  },
  {
    id: 'cases',
    kind: 'records',
    name: 'Display cases',
    about: 'What stands in which case, and the air in it',
    titleField: 'name',
    fields: [
      field('name', 'Case', 'text'),
      choice('place', 'Place', GALLERIES),
      field('humidity', 'Humidity in %', 'number'),
      field('light', 'Light in lux', 'number'),
      field('keepers', 'Keepers', 'people'),
      field('holds', 'Holds', 'links', { to: 'objects' }),
      field('opened', 'Last opened', 'dateTime'),
    ],
  },
  {
    id: 'tasks',
    kind: 'list',
    name: 'Installation tasks',
    about: 'Who builds, hangs and lights what, by when',
    titleField: 'title',
    fields: [
      field('title', 'Task', 'text'),
      choice('state', 'State', TASK_STATES),
      choice('exhibition', 'Exhibition', EXHIBITIONS),
      field('lead', 'Lead', 'person'),
      field('crew', 'Crew', 'people'),
      choice('place', 'Place', GALLERIES),
      field('due', 'Due', 'date'),
      field('hours', 'Hours', 'number'),
      field('loan', 'Loan', 'link', { to: 'loans' }),
      field('note', 'Note', 'longText'),
    ],
  },
  {
    id: 'crates',
    kind: 'list',
    name: 'Crate list',
    about: 'Crates, what travels in them and where they are',
    titleField: 'code',
    fields: [
      field('code', 'Crate', 'text'),
      choice('state', 'State', CRATE_STATES),
      field('loan', 'Loan', 'link', { to: 'loans' }),
      field('carrier', 'Carrier', 'text'),
      field('weight', 'Weight in kg', 'number'),
      field('leaves', 'Leaves', 'dateTime'),
      field('packer', 'Packer', 'person'),
      field('shocks', 'Shocks', 'number'),
    ],
  },
  {
    id: 'enquiries',
    kind: 'list',
    name: 'Press enquiries',
    about: 'Who asked what, and whether they have their answer',
    titleField: 'subject',
    fields: [
      field('subject', 'Enquiry', 'text'),
      choice('state', 'State', ENQUIRY_STATES),
      field('outlet', 'Outlet', 'text'),
      field('from', 'From', 'email'),
      field('handler', 'Handler', 'person'),
      field('deadline', 'Deadline', 'dateTime'),
      choice('exhibition', 'Exhibition', EXHIBITIONS),
      field('answer', 'Answer', 'longText'),
    ],
  },
  {
    id: 'papers',
    kind: 'folders',
    name: 'Exhibition papers',
    about: 'Catalogue, wall texts, press, contracts and plans',
    titleField: 'name',
    fields: document,
  },
  {
    id: 'reports',
    kind: 'folders',
    name: 'Condition reports',
    about: 'How each object was when it came and when it went',
    titleField: 'name',
    fields: [
      ...document,
      field('object', 'Object', 'link', { to: 'objects' }),
      choice('finding', 'Finding', CONDITIONS),
    ],
  },
  {
    id: 'climate',
    kind: 'stream',
    name: 'Climate sensors',
    about: 'Readings from the galleries and the store, as they come',
    titleField: 'name',
    fields: [
      field('name', 'Sensor', 'text'),
      choice('place', 'Place', GALLERIES),
      field('temperature', 'Temperature in °C', 'number'),
      field('humidity', 'Humidity in %', 'number'),
      field('battery', 'Battery in %', 'number'),
    ],
  },
];

const folder = (source: string, id: string, name: string, parent: string | null): Folder => ({
  id,
  source,
  name,
  parent,
});
const PARTS = ['Catalogue', 'Press', 'Wall texts', 'Contracts', 'Floor plans'];

export const FOLDERS: Folder[] = [
  folder('papers', 'woven', 'Woven Waters', null),
  ...PARTS.map((name) => folder('papers', `woven-${name.split(' ')[0]?.toLowerCase()}`, name, 'woven')),
  folder('papers', 'fires', 'Small Fires', null),
  ...PARTS.slice(0, 4).map((name) => folder('papers', `fires-${name.split(' ')[0]?.toLowerCase()}`, name, 'fires')),
  folder('papers', 'woven-press-images', 'Images', 'woven-press'),
  folder('reports', 'incoming', 'Incoming', null),
  folder('reports', 'outgoing', 'Outgoing', null),
  folder('reports', 'incoming-textiles', 'Textiles', 'incoming'),
  folder('reports', 'incoming-ceramics', 'Ceramics', 'incoming'),
];

/** Folders in which it is noted who opens a document. */
export const NOTED = ['woven-contracts', 'fires-contracts'];

export const ACCESS: AccessEntry[] = [
  {
    source: 'loans',
    readers: [{ group: 'registrars' }, { group: 'insurance-desk' }, { group: 'loans-office' }, { group: 'direction' }],
  },
  {
    source: 'lenders',
    readers: [{ group: 'registrars' }, { group: 'loans-office' }, { group: 'direction' }, { field: 'keeper' }],
  },
  { folder: 'woven-contracts', readers: [{ group: 'contracts' }, { group: 'direction' }, { field: 'sharedWith' }] },
  { folder: 'fires-contracts', readers: [{ group: 'contracts' }, { group: 'direction' }, { field: 'sharedWith' }] },
];

/** By which people without an account add to lists. */
export const FORMS: Omit<OpenForm, 'token' | 'sent'>[] = [
  {
    id: '01JZWORKSHOPFORM0000000001',
    source: 'tasks',
    title: 'Something wants mending',
    about: 'You work here for a while and see what the house does not? Say what, where and until when.',
    thanks: 'Thank you. Somebody looks at it today.',
    fields: [
      { field: 'title', isNeeded: true },
      { field: 'place', isNeeded: true },
      { field: 'due', isNeeded: false },
      { field: 'note', isNeeded: false },
    ],
    most: 60,
    isOpen: true,
    locale: 'en-GB',
    zone: 'Europe/Madrid',
  },
];
