export { indexItems } from './indexing.ts';
