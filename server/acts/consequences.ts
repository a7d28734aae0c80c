import type { Consequences } from '../../contract/wire/index.ts';
import { previewRecipients } from '../../core/decide/index.ts';
import { namesOutright, readersAt } from '../../core/people/index.ts';
import type { CompiledRule, Rule } from '../../core/rules/index.ts';
import { asChange } from '../../core/values/index.ts';
import { type Directory, livePhases, query, several, store, type StoredItem, worldOf } from '../store/index.ts';
import type { ActContext } from './context.ts';

/** So many items of a rule are asked whom it would reach. */
const MOST_ASKED = 200;
/** Whoever asks is a steward, who sets up what others may read. */
const ALL = query('TRUE');

/** A directory as it stands and as it would be, at an instant. */
export interface Turned {
  before: Directory;
  after: Directory;
  now: number;
}

/** Live rules over one of these sources at least. */
export const rulesOver = (sources: readonly string[], directory: Directory, now: number): CompiledRule[] =>
  livePhases(directory, now)
    .map(({ compiled }) => compiled)
    .filter(({ rule }) => rule.scope.sources.some((source) => sources.includes(source)));

/** Rules that reach somebody by one of these items now, and would reach nobody. */
export function silentRules(
  rules: readonly CompiledRule[],
  items: readonly StoredItem[],
  { before, after, now }: Turned,
): Consequences['silent'] {
  const world = worldOf(before, new Map());
  return rules.flatMap((compiled) => {
    const looked = items.filter((item) => compiled.inScope(asChange(item, now), world)).slice(0, MOST_ASKED);
    const reaches = (directory: Directory) =>
      looked.some((item) =>
        previewRecipients(compiled, item, now, worldOf(directory, new Map([[item.id, item]]))).some(
          ({ reason }) => reason === null,
        ),
      );
    return reaches(before) && !reaches(after) ? [{ id: compiled.rule.id, name: compiled.rule.name }] : [];
  });
}

/** What a change of people and groups comes to: who would read less where, and which rules would tell nobody. */
export async function consequencesOf({ pool }: Pick<ActContext, 'pool'>, turned: Turned): Promise<Consequences> {
  const { before, after, now } = turned;
  const sources = [...before.sources.values()];
  const broken = before.access.flatMap(({ folder }) => before.folders.get(folder ?? '') ?? []);
  const places = [
    ...sources.map(({ id, name }) => ({ source: id, folder: null, name })),
    ...broken.map(({ id, source }) => ({ source, folder: id, name: pathOf(id, before) })),
  ];
  /** Whether somebody reads all there, some of it, as the items have it, or nothing. */
  const reads = (person: string, directory: Directory): number[] =>
    places.map(({ source, folder }) => {
      const readers = readersAt(source, folder, directory);
      if (readers === null) return 2;
      const named = readers.map((reader) => namesOutright(reader, person, directory));
      if (named.includes(true)) return 2;
      return named.includes(null) ? 1 : 0;
    });
  const shutOut = [...before.people.keys()].flatMap((person) => {
    // Whoever is no longer here is not shut out of single sources.
    if (!after.people.get(person)?.active) return [];
    const [was, will] = [reads(person, before), reads(person, after)];
    const lost = places.filter((_, at) => (was[at] ?? 0) > (will[at] ?? 0)).map(({ name }) => name);
    return lost.length > 0 ? [{ person, places: lost }] : [];
  });
  const lists = await several(
    pool,
    sources.map(({ id }) => store.items.last([id], ALL, MOST_ASKED)),
  );
  const rules = rulesOver([...before.sources.keys()], before, now);
  return { shutOut, silent: silentRules(rules, lists.flat(), turned) };
}

/** A folder with those above it: *Woven Waters / Contracts*. */
function pathOf(id: string, { folders }: Pick<Directory, 'folders'>): string {
  const names: string[] = [];
  for (let at = folders.get(id); at && names.length < 50; at = folders.get(at.parent ?? '')) names.unshift(at.name);
  return names.join(' / ');
}

/** Whether a rule names something by a selector, wherever in it. */
export const isNamedIn = (rule: Rule, selector: Record<string, string>): boolean =>
  JSON.stringify(rule).includes(JSON.stringify(selector).slice(1, -1));
