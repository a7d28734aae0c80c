export { type Sealed, Seals } from './seals.ts';
