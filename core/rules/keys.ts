import { parseInstant } from '../time/index.ts';
import { decimalOf, type Field, type FieldType, foldCase, isMoney, type Value } from '../values/index.ts';

const folded = (value: Value): string => foldCase(String(value));
const exactly = (value: Value): string => String(value);

const KEYS = {
  text: folded,
  longText: folded,
  number: (value) => String(decimalOf(value)),
  money: (value) => (isMoney(value) ? `${decimalOf(value)} ${value.currency}` : ''),
  boolean: exactly,
  date: exactly,
  dateTime: (value) => {
    // Beside an instant a day means its midnight in the rule's zone, which a key cannot know: all days are one key.
    const instant = parseInstant(String(value));
    return instant === null ? '' : String(instant);
  },
  choice: exactly,
  choices: exactly,
  person: exactly,
  people: exactly,
  link: exactly,
  links: exactly,
  url: folded,
  email: folded,
} satisfies Record<FieldType, (value: Value) => string>;

/** A text that is the same for values that are the same as tests see it; of text in folded case. */
export const keyOfValue = (field: Field, value: Value): string => KEYS[field.type](value);
