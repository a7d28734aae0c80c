import { parseInstant } from '../time/index.ts';
import { decimalOf, type Field, foldCase, isMoney, type Value } from '../values/index.ts';

/** A text that is the same for values that are the same as tests see it; of text in folded case. */
export function keyOfValue(field: Field, value: Value): string {
  switch (field.type) {
    case 'text':
    case 'longText':
    case 'url':
    case 'email':
      return foldCase(String(value));
    case 'number':
      return String(decimalOf(value));
    case 'money':
      return isMoney(value) ? `${decimalOf(value)} ${value.currency}` : '';
    case 'dateTime': {
      // Beside an instant a day means its midnight in the rule's zone, which a key cannot know: all days are one key.
      const instant = parseInstant(String(value));
      return instant === null ? '' : String(instant);
    }
    default:
      return String(value);
  }
}
