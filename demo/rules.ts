import { ruleSchema } from '../contract/documents/index.ts';
import type { Wording } from '../core/decide/index.ts';
import type { Rule } from '../core/rules/index.ts';

const ZONE = 'Europe/Madrid';
const DIGEST = { kind: 'digest', every: 'day', at: '08:30' };
const SETTLED = { kind: 'settled', quiet: 'PT10M', most: 'PT2H' };
const becomes = (field: string, value: unknown, op = 'is') => ({ became: { field, op, value } });
const was = (field: string, value: unknown, op = 'is') => ({ was: { field, op, value } });
const only = (...sources: string[]) => ({ sources });

export const WORDINGS: Wording[] = [
  {
    id: 'w-look',
    name: 'Look and answer',
    subject: '{{ item.title }}: please look',
    body: '{{ recipient.name }},\n\n{{ change.actor }} did this on {{ change.at }}:\n{% for field in change.fields %}{{ field.label }}: {{ field.before }} → {{ field.after }}\n{% endfor %}\nOpen it: {{ links.item }}\nWhy you hear: {{ rule.name }}, {{ links.rule }}\n',
  },
  {
    id: 'loan-due',
    name: 'Before a loan is due back',
    subject: '{{ item.title }} is due back on {{ item.fields.due }}',
    body: '{{ recipient.name }},\n\n**{{ item.title }}** is due back on **{{ item.fields.due }}**. It is {{ item.fields.status }}, and {{ item.fields.registrar }} looks after it.\n\n- Ask {{ item.fields.lender }} whether the day stands\n- Book its transport\n- Have its crate ready two days before\n\n[Open the loan]({{ links.item }})\n',
  },
];

/** How many days ago each went live, and the rule's document. */
const DOCUMENTS: [daysAgo: number, document: Record<string, unknown>][] = [
  [
    38,
    {
      id: 'insured-value',
      name: 'Insured value changes',
      owner: 'ines',
      urgency: 'important',
      scope: only('loans'),
      when: { kinds: ['changed'], if: { changed: 'insured' } },
      to: [{ group: 'insurers' }, { field: 'registrar' }],
      message: { show: ['lender', 'status'], doNow: 'Check that the cover still suffices.' },
    },
  ],
  [
    36,
    {
      id: 'loan-returned',
      name: 'Loan comes back',
      owner: 'ines',
      scope: only('loans'),
      when: { if: becomes('status', 'Returned') },
      to: [{ group: 'registrars' }, { group: 'loans-office' }, { contact: 'ferro' }],
      pace: DIGEST,
      channels: ['inApp', 'email'],
    },
  ],
  [
    34,
    {
      id: 'due-moves',
      name: 'Due date moves',
      owner: 'hugo',
      urgency: 'important',
      scope: { sources: ['loans'], where: { field: 'status', op: 'oneOf', value: ['Agreed', 'On view'] } },
      when: { kinds: ['changed'], if: { changed: 'due' } },
      to: [{ field: 'registrar' }, { person: 'ravi' }],
      message: { show: ['courier'], doNow: 'Tell the courier, then say that you have it.' },
      ack: {
        by: 'anyone',
        remind: { after: 'PT2H', times: 1 },
        escalate: [{ after: 'P1D', to: [{ managerOf: { field: 'registrar' } }] }],
      },
    },
  ],
  [
    33,
    {
      id: 'task-blocked',
      name: 'Task is blocked',
      owner: 'tomas',
      urgency: 'critical',
      scope: only('tasks'),
      when: { if: becomes('state', 'Blocked') },
      to: [{ field: 'lead' }, { group: 'crew-leads' }],
      channels: ['inApp', 'email', 'text'],
      message: { show: ['place', 'due'], doNow: 'Call the lead, then say who takes it on.' },
      ack: {
        by: 'anyone',
        remind: { after: 'PT1H', times: 3 },
        escalate: [{ after: 'PT3H', to: [{ managerOf: { told: true } }] }],
        allClear: true,
      },
    },
  ],
  [
    33,
    {
      id: 'task-done',
      name: 'Tasks done',
      owner: 'tomas',
      scope: only('tasks'),
      when: { if: becomes('state', 'Done') },
      to: [{ group: 'crew-leads' }, { group: 'curators' }],
      pace: DIGEST,
      channels: ['inApp', 'email'],
    },
  ],
  [
    31,
    {
      id: 'approved-edited',
      name: 'Approved paper edited again',
      owner: 'sol',
      urgency: 'important',
      scope: only('papers'),
      when: { kinds: ['contentAdded'], if: was('approval', 'Approved') },
      to: [{ field: 'author' }, { field: 'approver' }],
      pace: SETTLED,
      message: { wording: 'w-look' },
    },
  ],
  [
    30,
    {
      id: 'below-press',
      name: 'Everything below Press',
      owner: 'hugo',
      scope: { sources: ['papers'], under: ['woven-press', 'fires-press'] },
      when: {},
      to: [{ group: 'press' }],
      channels: ['inApp'],
    },
  ],
  [
    29,
    {
      id: 'wall-texts',
      name: 'Wall texts approved',
      owner: 'sol',
      scope: { sources: ['papers'], under: ['woven-wall', 'fires-wall'] },
      when: { if: becomes('approval', 'Approved') },
      to: [{ group: 'text-editors' }, { field: 'author' }],
      pace: { ...DIGEST, at: '09:00' },
    },
  ],
  [
    28,
    {
      id: 'due-soon',
      name: 'Loan due back in two weeks',
      owner: 'ines',
      urgency: 'important',
      scope: { sources: ['loans'], where: { field: 'status', op: 'isNot', value: 'Returned' } },
      due: { field: 'due', offset: '-P14D', at: '09:00', repeat: { every: 'P7D', times: 1 } },
      to: [{ field: 'registrar' }, { linked: 'lender', field: 'keeper' }],
      message: { show: ['lender', 'courier'], doNow: 'Book the courier.' },
    },
  ],
  [
    27,
    {
      id: 'enquiry-idle',
      name: 'Enquiry without an answer',
      owner: 'hugo',
      scope: { sources: ['enquiries'], where: { field: 'state', op: 'oneOf', value: ['New', 'Waiting'] } },
      idle: { for: 'P5D', repeat: { every: 'P7D', times: 2 } },
      to: [{ field: 'handler' }, { managerOf: { field: 'handler' } }],
    },
  ],
  [
    26,
    {
      id: 'humid',
      name: 'Case goes above 57.5 %',
      owner: 'ines',
      urgency: 'important',
      scope: only('cases'),
      when: { if: becomes('humidity', 57.5, 'above') },
      to: [{ field: 'keepers' }, { group: 'conservators' }],
      limit: { per: 'item', within: 'PT12H' },
      message: { show: ['place', 'holds'], doNow: 'Look at the case, then say what you found.' },
    },
  ],
  [
    25,
    {
      id: 'damaged',
      name: 'Object damaged',
      owner: 'hugo',
      urgency: 'critical',
      scope: only('objects', 'reports'),
      when: { if: { any: [{ changed: '*' }] }, kinds: ['x-damage'] },
      to: [{ group: 'conservators' }, { group: 'direction' }],
    },
  ],
  [
    24,
    {
      id: 'condition-falls',
      name: 'Condition becomes Damaged',
      owner: 'hugo',
      urgency: 'critical',
      scope: only('objects'),
      when: { if: becomes('condition', 'Damaged') },
      to: [{ field: 'conservator' }, { managerOf: { field: 'conservator' } }],
      pace: SETTLED,
      ack: { by: 'everyone', remind: { after: 'PT4H', times: 2 }, escalate: [], allClear: true },
    },
  ],
  [
    23,
    {
      id: 'many-deleted',
      name: 'Several reports deleted',
      owner: 'anneke',
      urgency: 'important',
      scope: only('reports'),
      when: { kinds: ['deleted'], burst: { count: 3, within: 'PT10M', per: 'actor' } },
      to: [{ group: 'direction' }, { group: 'conservators' }],
      message: { doNow: 'Ask whether that was meant.' },
    },
  ],
  [
    22,
    {
      id: 'loans-of-mine',
      name: 'Loans I keep an eye on',
      owner: 'ines',
      scope: only('loans'),
      when: { if: { changed: ['status', 'due', 'place'] } },
      to: [{ followers: true }],
      pace: { kind: 'digest', every: 'hour', at: '00:15' },
    },
  ],
  [
    21,
    {
      id: 'mentioned',
      name: 'Somebody mentions you',
      owner: 'anneke',
      urgency: 'important',
      scope: only('loans', 'tasks', 'objects', 'enquiries', 'papers'),
      when: { kinds: ['commented'] },
      to: [{ mentioned: true }],
      channels: ['inApp', 'email'],
    },
  ],
  [
    20,
    {
      id: 'made-by-me',
      name: 'Others edit what I made',
      owner: 'tomas',
      scope: only('tasks'),
      when: { kinds: ['changed'] },
      to: [{ creator: true }, { lastEditor: true }],
      about: 'createdByRecipient',
      pace: { kind: 'digest', every: 'week', at: '09:00', on: ['MO'] },
    },
  ],
  [
    19,
    {
      id: 'shocks',
      name: 'Crate takes a shock',
      owner: 'ravi',
      urgency: 'important',
      scope: only('crates'),
      when: { kinds: ['x-shock'], if: { rose: { field: 'shocks', by: 1 } } },
      to: [{ person: 'ravi' }, { field: 'packer' }, { contact: 'halyard' }],
      limit: { per: 'rule', within: 'PT1H' },
    },
  ],
  [
    18,
    {
      id: 'value-jumps',
      name: 'Insured value rises by a tenth',
      owner: 'mei',
      urgency: 'important',
      scope: only('loans'),
      when: { kinds: ['changed'], if: { rose: { field: 'insured', percent: 10 } } },
      by: { except: [{ system: 'import' }] },
      to: [{ person: 'mei' }, { webhook: 'insurer' }],
      pace: SETTLED,
    },
  ],
  [
    17,
    {
      id: 'imports',
      name: 'Values imported',
      owner: 'mei',
      scope: only('loans'),
      when: { kinds: ['changed'] },
      by: { only: [{ system: 'import' }] },
      to: [{ group: 'insurers' }],
      channels: ['inApp'],
    },
  ],
  [
    16,
    {
      id: 'near-opening',
      name: 'Changes close to leaving',
      owner: 'ravi',
      scope: only('crates'),
      when: { if: { changed: ['carrier', 'weight'] } },
      during: { near: { field: 'leaves', ahead: 'P3D' } },
      to: [{ group: 'loans-office' }],
      pace: { kind: 'digest', every: 'hour', at: '00:30' },
    },
  ],
  [
    15,
    {
      id: 'task-status',
      name: 'Task is under way',
      owner: 'noor',
      scope: only('tasks'),
      when: { kinds: ['changed'], if: { field: 'state', op: 'is', value: 'Under way' } },
      to: [{ group: 'crew' }],
      channels: ['inApp'],
    },
  ],
  [
    14,
    {
      id: 'linked-to-one',
      name: 'All about Tidal Loom',
      owner: 'amara',
      scope: { sources: ['loans', 'tasks', 'crates'], items: ['L-1'], linked: true },
      when: {},
      to: [{ group: 'curators' }],
      pace: { kind: 'digest', every: 'day', at: '18:00' },
      ownChanges: true,
    },
  ],
  [
    13,
    {
      id: 'warm',
      name: 'Gallery above 21.2 °C',
      owner: 'dario',
      scope: {
        sources: ['climate'],
        where: { field: 'place', op: 'oneOf', value: ['Gallery 1', 'Gallery 2', 'Gallery 3'] },
      },
      when: { if: becomes('temperature', 21.2, 'above') },
      to: [{ person: 'dario' }],
      pace: { kind: 'digest', every: 'month', at: '09:00', on: [1] },
    },
  ],
  [
    12,
    {
      id: 'catalogue-moves',
      name: 'Catalogue paper submitted or rejected',
      owner: 'olu',
      scope: { sources: ['papers'], under: ['woven-catalogue', 'fires-catalogue'] },
      when: { kinds: ['submitted', 'rejected'] },
      to: [{ field: 'approver' }, { field: 'author' }],
      together: false,
    },
  ],
];

export const RULES: { rule: Rule; daysAgo: number }[] = DOCUMENTS.map(([daysAgo, document]) => ({
  daysAgo,
  rule: ruleSchema.parse({ zone: ZONE, ...document }),
}));
