import { type Field, foldCase, isPersonType, isTextType, optionName, type Source } from '../values/index.ts';
import type { FieldTest, StateTest } from './nodes.ts';

/** People as far as words find them: by name. */
type Named = Iterable<{ id: string; name: string }>;

/** Tests of one field that hold where its value, as people read it, has the word in it; none where it never can. */
function testsOf(field: Field, word: string, people: Named): FieldTest[] {
  const has = (text: string) => foldCase(text).includes(foldCase(word));
  const among = (values: string[]): FieldTest[] => {
    if (values.length === 0) return [];
    const isSet = field.type === 'choices' || field.type === 'people';
    return [{ field: field.id, op: isSet ? 'includesAny' : 'oneOf', value: values }];
  };
  if (isTextType(field.type)) return [{ field: field.id, op: 'contains', value: word }];
  if (field.options) return among(field.options.filter((option) => has(optionName(field, option))));
  if (isPersonType(field.type)) return among([...people].filter(({ name }) => has(name)).map(({ id }) => id));
  return field.type === 'number' && /^-?\d+(\.\d+)?$/.test(word) ? [{ field: field.id, op: 'is', value: word }] : [];
}

/**
 * The state in which items are that words find: each word, parted by spaces, stands in at least one field, in whatever
 * case; people are found by name. Whoever is shown a list and makes a rule of it is then told of just these.
 */
export function wordsTest(text: string, source: Pick<Source, 'fields'>, people: Named): StateTest {
  const named = [...people];
  const words = text.split(/\s+/).filter((word) => word !== '');
  return { all: words.map((word) => ({ any: source.fields.flatMap((field) => testsOf(field, word, named)) })) };
}
