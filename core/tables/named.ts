import { foldCase } from '../values/index.ts';
import type { Reading } from './cells.ts';

/** Something by its id, with the names that it goes by. */
export type Name = readonly [id: string, names: readonly string[]];

/** By what names people and items are known to whoever reads a table; plain data, for another thread. */
export interface NamesKnown {
  locale: string;
  /** What stands for an item that may not be read. */
  hidden?: string;
  people: readonly Name[];
  /** Items that may be read, by the source that they are of. */
  items: readonly (readonly [source: string, items: readonly Name[]])[];
}

/** What is found again by its id, or by a name that it has alone. */
class Named {
  private readonly ids: ReadonlySet<string>;
  private readonly byName = new Map<string, string | null>();

  constructor(known: readonly Name[]) {
    this.ids = new Set(known.map(([id]) => id));
    for (const [id, names] of known) {
      for (const name of names.map(foldCase)) {
        if (name === '') continue;
        const other = this.byName.get(name);
        this.byName.set(name, other === undefined || other === id ? id : null);
      }
    }
  }

  find(text: string): string | null {
    return this.ids.has(text) ? text : (this.byName.get(foldCase(text)) ?? null);
  }
}

/** How a table's texts are read by names that are known. */
export function readingBy({ locale, hidden, people, items }: NamesKnown): Reading {
  const [named, linked] = [new Named(people), new Map(items.map(([source, known]) => [source, new Named(known)]))];
  return {
    locale,
    person: (text) => named.find(text),
    item: (source, text) => linked.get(source)?.find(text) ?? null,
    isHidden: (text) => hidden !== undefined && text.split(/[;\n]/).some((part) => part.trim() === hidden),
  };
}
