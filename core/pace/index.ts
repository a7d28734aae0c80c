export { burstKey, type Counted, countIn } from './burst.ts';
export { digestInstant } from './digest.ts';
export { dateKey, type DueInstant, dueInstant, isDatePast, repeatOf } from './due.ts';
export { quietEnd } from './quiet.ts';
export { netChange, settlesAt } from './settle.ts';
export { type Rhythm, rhythmOf } from './rhythm.ts';
