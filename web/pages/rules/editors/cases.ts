import { asKind, type Selector } from '../../../../core/people/index.ts';
import { type FieldTest, isKind, type StateTest } from '../../../../core/rules/index.ts';
import { type Field, foldCase, optionName, type Value } from '../../../../core/values/index.ts';

/** Recipients by case as a table has them: one field, for each of its values who hears, and who otherwise. */
export interface CaseTable {
  field: string;
  rows: { value: Value; to: Selector[] }[];
  otherwise: Selector[];
}

/** Cases as a table; `null` where they ask for more than what one field is. */
export function tableOf(selector: Selector): CaseTable | null {
  const cases = asKind(selector, 'cases');
  if (!cases) return null;
  const tests = cases.cases.flatMap(({ if: test }): FieldTest[] =>
    isKind(test as StateTest, 'test') ? [test as FieldTest] : [],
  );
  const [first] = tests;
  const isOne =
    tests.length === cases.cases.length && tests.every(({ op, field }) => op === 'is' && field === first?.field);
  if (!first || !isOne) return null;
  return {
    field: first.field,
    rows: cases.cases.map(({ to }, at) => ({ value: (tests[at]?.value ?? null) as Value, to })),
    otherwise: cases.else ?? [],
  };
}

/** A table as the cases that it stands for. */
export const casesOf = ({ field, rows, otherwise }: CaseTable): Selector => ({
  cases: rows.map(({ value, to }) => ({ if: { field, op: 'is', value }, to })),
  ...(otherwise.length > 0 ? { else: otherwise } : {}),
});

/** What a filled row says, or what of it is not known: `value` or the names. */
export type ReadRow = { row: CaseTable['rows'][number] } | { line: number; unknown: string };

/**
 * Rows of a file, of each the value and then who hears, by name or address; a value that is no option, and names that
 * nobody has, are told by their line.
 */
export function readRows(
  lines: readonly (readonly string[])[],
  field: Field,
  find: { who: (name: string) => Selector | undefined; value: (text: string) => Value | undefined },
): ReadRow[] {
  return lines.flatMap(([text = '', ...names], at): ReadRow[] => {
    const given = names.flatMap((name) => name.split(';')).map((name) => name.trim());
    const wanted = given.filter(Boolean);
    if (text.trim() === '' && wanted.length === 0) return [];
    // A first line of column heads is none of the values.
    if (at === 0 && foldCase(text.trim()) === foldCase(field.name)) return [];
    const value = find.value(text.trim());
    if (value === undefined) return [{ line: at + 1, unknown: text.trim() }];
    const to = wanted.map((name) => find.who(name));
    const lacking = to.indexOf(undefined);
    if (lacking >= 0 || to.length === 0)
      return [{ line: at + 1, unknown: wanted[Math.max(0, lacking)] ?? text.trim() }];
    return [{ row: { value, to: to.flatMap((one) => one ?? []) } }];
  });
}

/** The option that a text names, by id or by name; of other fields the text itself. */
export function valueNamed(field: Field, text: string): Value | undefined {
  if (text === '') return undefined;
  if (!field.options) return text;
  return field.options.find((one) => [one, optionName(field, one)].some((name) => foldCase(name) === foldCase(text)));
}
