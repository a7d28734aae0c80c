import { foldCase } from './plain.ts';
import type { Field } from './fields.ts';

/** What an option is called now; what it was made as stays its value, in items, rules and everything that happened. */
export const optionName = ({ optionNames = {} }: Pick<Field, 'optionNames'>, option: string): string =>
  (Object.hasOwn(optionNames, option) ? optionNames[option] : undefined) ?? option;

/** The option that a text names, by what it is called or was made as, in whatever case; `undefined` where it names none. */
export function optionNamed(field: Pick<Field, 'options' | 'optionNames'>, text: string): string | undefined {
  const { options = [] } = field;
  return (
    options.find((option) => optionName(field, option) === text) ??
    options.find((option) => option === text) ??
    options.find((option) => foldCase(optionName(field, option)) === foldCase(text)) ??
    options.find((option) => foldCase(option) === foldCase(text))
  );
}
