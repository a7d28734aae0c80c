export { Meters } from './meters.ts';
export { readiness, type Readiness } from './readiness.ts';
export { clean } from './cleaning.ts';
