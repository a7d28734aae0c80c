import { type Field, foldCase, type Source } from '../values/index.ts';
import type { Rule } from './rule.ts';

/** Of so many fields two sources have to agree, beside the one that names an item, to be like one another. */
const ALIKE = 2;

const isSame = (a: Field, b: Field): boolean => a.type === b.type && foldCase(a.name) === foldCase(b.name);

/** The fields of a source that another has too, by name and type: from one's ids to the other's. */
function sharedFields(from: Source, to: Source): Map<string, string> {
  const shared = from.fields.flatMap((field): [string, string][] => {
    const own = to.fields.find((one) => isSame(field, one));
    return own ? [[field.id, own.id]] : [];
  });
  return new Map(shared).set(from.titleField, to.titleField);
}

/** Whether two sources are of one kind and have fields in common, so that rules of one may be wanted at the other. */
export const areAlike = (a: Source, b: Source): boolean =>
  a.id !== b.id && a.kind === b.kind && sharedFields(a, b).size > ALIKE;

/** Where in a rule a field is named, by the key that names it. */
const NAMING = new Set(['field', 'linked', 'through', 'changed', 'show', 'per', 'sum']);

/**
 * A rule of one source as it would be at another like it: its fields by the other's ids; narrowed to no folder and no
 * items, which are the first one's own. What the other does not have stays named, and is for the check to find.
 */
export function carriedOver(rule: Rule, from: Source, to: Source): Rule {
  const shared = sharedFields(from, to);
  const named = (value: unknown): unknown => {
    if (typeof value === 'string') return shared.get(value) ?? value;
    return Array.isArray(value) ? value.map(named) : walked(value);
  };
  const walked = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(walked);
    if (typeof value !== 'object' || value === null) return value;
    // What holds of linked items is in the fields of where the link leads.
    const carried = (key: string, part: unknown) => (key === 'holds' ? part : walked(part));
    return Object.fromEntries(
      Object.entries(value).map(([key, part]) => [key, NAMING.has(key) ? named(part) : carried(key, part)]),
    );
  };
  const { scope, ...rest } = walked(rule) as Rule;
  return { ...rest, scope: { ...scope, sources: [to.id], under: [], items: [] } };
}
