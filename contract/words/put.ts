import type { Phrases, Put } from '../../core/locales/index.ts';

/** What is put into a text, by name. */
export type Params = Readonly<Record<string, unknown>>;

/** Says a text with a code's parameters put in: lists joined, their sizes as `…Count`; what is asked for and not given is left out. */
export function sayWith<Key extends string>(
  { say }: Phrases<Key>,
  key: Key,
  { english, params, none }: { english: string; params: Params; none: string },
): string {
  const asked = [...english.matchAll(/\{(\w+)/g)].map(([, name = '']) => name);
  return say(key, Object.fromEntries(asked.map((name) => [name, putFor(name, params, none)])));
}

function putFor(name: string, params: Params, none: string): Put[string] {
  const value = params[name];
  if (name.endsWith('Count')) return countOf(params[name.slice(0, -'Count'.length)]);
  if (Array.isArray(value)) return value.join(', ') || none;
  return typeof value === 'number' ? value : String(value ?? '');
}

const countOf = (value: unknown): number => (Array.isArray(value) ? value.length : Number(Boolean(value)));
