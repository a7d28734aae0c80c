export { type ReadCell, readCell, type Reading } from './cells.ts';
export { type Name, type NamesKnown, readingBy } from './named.ts';
export { freshId } from './fresh-id.ts';
export { type Cell, type Grid, gridOf } from './grid.ts';
export { type Guess, guessColumns, guessKey, tellsApart } from './guess.ts';
export {
  faultsOfMapping,
  ITEM_ID,
  type Known,
  type Mapping,
  planTable,
  type RowFault,
  type RowPlan,
  type TablePlan,
} from './plan.ts';
export { asItWas, defused, writeCell, type Writing } from './written.ts';
