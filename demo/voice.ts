import type { Paper, Usual } from '../core/messages/index.ts';
import type { SenderRow } from '../server/store/index.ts';

/** What the museum puts above and below its emails. */
export const PAPER: Paper = {
  letterhead: '**Marisma Museum**\nLoans and exhibitions',
  signOff: 'Questions? Ring the registrars, [+34 600 555 010](tel:+34600555010), on weekdays from 9:00 to 17:00.',
};

/** In whose names the museum's messages may come. */
export const SENDERS: SenderRow[] = [
  { id: 'museum', kind: 'house', person: null, name: 'Marisma Museum', address: 'museum@marisma.example' },
  { id: 'registrars', kind: 'team', person: null, name: 'Registrars', address: 'registrars@marisma.example' },
  { id: 'conservation', kind: 'team', person: null, name: 'Conservation', address: 'conservation@marisma.example' },
  { id: 'hugo', kind: 'person', person: 'hugo', name: 'Hugo Brandt', address: 'hugo@marisma.example' },
];

/** What rules say that have no words of their own. */
export const USUAL: Usual[] = [{ source: 'loans', occasion: 'due', wording: 'loan-due' }];
