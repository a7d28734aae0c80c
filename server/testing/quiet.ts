import { pino } from 'pino';

/** Says nothing: what fails in a test shows in the test. */
export const quietLog = pino({ level: 'silent' });
