import type { AccessEntry, Folder } from '../core/people/index.ts';
import type { ListedSource } from '../server/store/index.ts';

export const EXHIBITIONS = ['Woven Waters', 'Small Fires'];
export const STATUSES = ['Requested', 'Agreed', 'On view', 'Returned'];
export const TASK_STATES = ['To do', 'Under way', 'Blocked', 'Done'];
export const APPROVALS = ['Draft', 'Submitted', 'Approved', 'Rejected'];
export const GALLERIES = ['Gallery 1', 'Gallery 2', 'Gallery 3', 'Foyer', 'Store 2', 'Loading dock'];

export const SOURCES: ListedSource[] = [
  {
    id: 'loans', kind: 'records', name: 'Loan agreements', about: 'What the museum borrows, from whom, until when', titleField: 'title',
    fields: [
      { id: 'title', name: 'Loan', type: 'text' },
      { id: 'status', name: 'Status', type: 'choice', options: STATUSES },
      { id: 'exhibition', name: 'Exhibition', type: 'choice', options: EXHIBITIONS },
      { id: 'lender', name: 'Lender', type: 'text' },
      { id: 'registrar', name: 'Registrar', type: 'person' },
      { id: 'insured', name: 'Insured value', type: 'money' },
      { id: 'due', name: 'Due back', type: 'date' },
      { id: 'place', name: 'Place', type: 'choice', options: GALLERIES },
      { id: 'courier', name: 'Courier', type: 'text' },
      { id: 'fragile', name: 'Fragile', type: 'boolean' },
      { id: 'note', name: 'Note', type: 'longText' },
    ],
  },
  {
    id: 'tasks', kind: 'list', name: 'Installation tasks', about: 'Who builds, hangs and lights what, by when', titleField: 'title',
    fields: [
      { id: 'title', name: 'Task', type: 'text' },
      { id: 'state', name: 'State', type: 'choice', options: TASK_STATES },
      { id: 'exhibition', name: 'Exhibition', type: 'choice', options: EXHIBITIONS },
      { id: 'lead', name: 'Lead', type: 'person' },
      { id: 'crew', name: 'Crew', type: 'people' },
      { id: 'place', name: 'Place', type: 'choice', options: GALLERIES },
      { id: 'due', name: 'Due', type: 'date' },
      { id: 'hours', name: 'Hours', type: 'number' },
      { id: 'loan', name: 'Loan', type: 'link', to: 'loans' },
      { id: 'note', name: 'Note', type: 'longText' },
    ],
  },
  {
    id: 'papers', kind: 'folders', name: 'Exhibition papers', about: 'Catalogue, wall texts, press, contracts and plans', titleField: 'name',
    fields: [
      { id: 'name', name: 'Name', type: 'text' },
      { id: 'approval', name: 'Approval', type: 'choice', options: APPROVALS },
      { id: 'version', name: 'Version', type: 'number' },
      { id: 'size', name: 'Size in KB', type: 'number' },
      { id: 'author', name: 'Author', type: 'person' },
      { id: 'approver', name: 'Approver', type: 'person' },
      { id: 'checkedOutBy', name: 'Checked out by', type: 'person' },
    ],
  },
];

const folder = (id: string, name: string, parent: string | null): Folder => ({ id, source: 'papers', name, parent });

export const FOLDERS: Folder[] = [
  folder('woven', 'Woven Waters', null),
  ...['Catalogue', 'Press', 'Wall texts', 'Contracts', 'Floor plans'].map((name) => folder(`woven-${name.split(' ')[0]?.toLowerCase()}`, name, 'woven')),
  folder('fires', 'Small Fires', null),
  ...['Catalogue', 'Press', 'Wall texts', 'Contracts'].map((name) => folder(`fires-${name.split(' ')[0]?.toLowerCase()}`, name, 'fires')),
];

export const ACCESS: AccessEntry[] = [
  { source: 'loans', readers: [{ group: 'registrars' }, { group: 'insurance-desk' }, { group: 'loans-office' }, { group: 'direction' }] },
  { folder: 'woven-contracts', readers: [{ group: 'contracts' }, { group: 'direction' }] },
  { folder: 'fires-contracts', readers: [{ group: 'contracts' }, { group: 'direction' }] },
];
