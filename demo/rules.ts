import { ruleSchema } from '../contract/documents/index.ts';
import type { Rule } from '../core/rules/index.ts';

const ZONE = 'Europe/Madrid';
const DIGEST = { kind: 'digest', every: 'day', at: '08:30' };

/** How many days ago each went live, and the rule's document. */
const DOCUMENTS: [daysAgo: number, document: Record<string, unknown>][] = [
  [38, {
    id: 'insured-value', name: 'Insured value changes', owner: 'ines', urgency: 'important', scope: { sources: ['loans'] }, when: { kinds: ['changed'], if: { changed: 'insured' } },
    to: [{ group: 'insurers' }, { field: 'registrar' }], message: { show: ['lender', 'status'], doNow: 'Check that the cover still suffices.' },
  }],
  [36, {
    id: 'loan-returned', name: 'Loan comes back', owner: 'ines', scope: { sources: ['loans'] }, when: { if: { became: { field: 'status', op: 'is', value: 'Returned' } } },
    to: [{ group: 'registrars' }, { group: 'loans-office' }], pace: DIGEST, channels: ['inApp', 'email'],
  }],
  [34, {
    id: 'due-moves', name: 'Due date moves', owner: 'hugo', urgency: 'important', scope: { sources: ['loans'], where: { field: 'status', op: 'oneOf', value: ['Agreed', 'On view'] } },
    when: { kinds: ['changed'], if: { changed: 'due' } }, to: [{ field: 'registrar' }, { person: 'ravi' }], message: { show: ['courier'] },
  }],
  [33, {
    id: 'task-blocked', name: 'Task is blocked', owner: 'tomas', urgency: 'critical', scope: { sources: ['tasks'] }, when: { if: { became: { field: 'state', op: 'is', value: 'Blocked' } } },
    to: [{ field: 'lead' }, { group: 'crew-leads' }], channels: ['inApp', 'email', 'text'], message: { show: ['place', 'due'], doNow: 'Call the lead, then say who takes it on.' },
  }],
  [33, {
    id: 'task-done', name: 'Tasks done', owner: 'tomas', scope: { sources: ['tasks'] }, when: { if: { became: { field: 'state', op: 'is', value: 'Done' } } },
    to: [{ group: 'crew-leads' }, { group: 'curators' }], pace: DIGEST, channels: ['inApp', 'email'],
  }],
  [31, {
    id: 'approved-edited', name: 'Approved paper edited again', owner: 'sol', urgency: 'important', scope: { sources: ['papers'] },
    when: { kinds: ['contentAdded'], if: { was: { field: 'approval', op: 'is', value: 'Approved' } } }, to: [{ field: 'author' }, { field: 'approver' }],
  }],
  [30, {
    id: 'below-press', name: 'Everything below Press', owner: 'hugo', scope: { sources: ['papers'], under: ['woven-press', 'fires-press'] }, when: {},
    to: [{ group: 'press' }], channels: ['inApp'],
  }],
  [29, {
    id: 'wall-texts', name: 'Wall texts approved', owner: 'sol', scope: { sources: ['papers'], under: ['woven-wall', 'fires-wall'] },
    when: { if: { became: { field: 'approval', op: 'is', value: 'Approved' } } }, to: [{ group: 'text-editors' }, { field: 'author' }], pace: { ...DIGEST, at: '09:00' },
  }],
];

export const RULES: { rule: Rule; daysAgo: number }[] = DOCUMENTS.map(([daysAgo, document]) => ({ daysAgo, rule: ruleSchema.parse({ zone: ZONE, ...document }) }));
