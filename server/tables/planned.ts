import {
  type Grid,
  type Known,
  type Mapping,
  type NamesKnown,
  planTable,
  readingBy,
  type TablePlan,
} from '../../core/tables/index.ts';
import type { Source } from '../../core/values/index.ts';

/** A table with all that says what it would come to. */
export interface Planning {
  grid: Grid;
  mapping: Mapping;
  source: Source;
  known: readonly Known[];
  names: NamesKnown;
}

/** What a table would come to. */
export const plannedHere = ({ grid, mapping, source, known, names }: Planning): TablePlan =>
  planTable(grid, mapping, source, known, readingBy(names));
