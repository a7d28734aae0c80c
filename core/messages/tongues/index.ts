export type { TextKey } from './en.ts';
export { CATALOGUES, PAGES_TONGUE, type Tongue, tongueOf } from './tongue.ts';
