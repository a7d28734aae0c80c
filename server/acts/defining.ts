import { type FaultAt, Refusal } from '../../contract/problems.ts';
import type { SourceDefined } from '../../contract/wire/index.ts';
import { checkRule } from '../../core/rules/index.ts';
import { freshId } from '../../core/tables/index.ts';
import {
  type Field,
  faultOf,
  isEmpty,
  isLinkType,
  isPersonType,
  optionName,
  type Source,
} from '../../core/values/index.ts';
import { type Caller, nameFault } from '../access/index.ts';
import { originNow } from '../kit/index.ts';
import {
  type Directory,
  inTransaction,
  livePhases,
  type ListedSource,
  newId,
  rows,
  runAll,
  store,
  type StoredItem,
} from '../store/index.ts';
import type { ActContext } from './context.ts';

type FieldDefined = SourceDefined['fields'][number];

/** So many items that stand against a change are named. */
const MOST_NAMED = 5;

/** Makes a source of a steward's: an empty list or record type with its fields. */
export async function defineSource(
  { pool, clock }: Pick<ActContext, 'pool' | 'clock'>,
  given: SourceDefined,
  { me, directory }: Caller,
): Promise<string> {
  const source = sourceOf(newId(clock.now()), given, []);
  expectSound(given, source, directory);
  await inTransaction(pool, (on) =>
    runAll(on, [store.sources.create(source), store.world.raise(), written(source, me.id, clock.now())]),
  );
  return source.id;
}

/**
 * Gives a source another name, or other fields. A field keeps its id however it is called, and with it its values and
 * the rules that look at it. Refused where rules look at a field that would go, or values could not stand any more.
 */
export async function redefineSource(
  { pool, clock }: Pick<ActContext, 'pool' | 'clock'>,
  known: ListedSource,
  given: SourceDefined,
  { me, directory }: Caller,
): Promise<void> {
  const source = sourceOf(known.id, { ...given, kind: known.kind as SourceDefined['kind'] }, known.fields);
  expectSound(given, source, directory, known.id);
  await inTransaction(pool, async (on) => {
    const items = await rows(on, store.items.allOf(known.id, true));
    const faults = [...brokenRules(known, source, directory), ...valuesAgainst(known, source, items)];
    if (faults.length > 0) throw new Refusal('badValues', { faults });
    await runAll(on, [store.sources.save(source), store.world.raise(), written(source, me.id, clock.now())]);
  });
}

/** What the audit trail says of it. */
const written = ({ name }: Source, actor: string, at: number) =>
  store.audit.add({ at, kind: 'sourceDefined', actor, origin: originNow(), about: { source: name } });

/** A source as it was defined; a field that is new gets an id after its name. */
function sourceOf(id: string, given: SourceDefined, before: readonly Field[]): ListedSource {
  const taken = new Set(before.map((field) => field.id));
  const fields = given.fields.map((field): Field => {
    const known = before.find((one) => one.id === field.id);
    const fieldId = known?.id ?? freshId(field.name, taken);
    taken.add(fieldId);
    return {
      id: fieldId,
      name: field.name,
      type: field.type,
      ...(field.type === 'choice' || field.type === 'choices' ? optionsOf(field.options, known) : {}),
      ...(isLinkType(field.type) && field.to !== null ? { to: field.to } : {}),
    };
  });
  const { kind, name, about } = given;
  return { id, kind, name, about, titleField: fields[given.title]?.id ?? '', fields };
}

/** Options as they are defined: one that is called otherwise keeps what it was made as, and with it its values and rules. */
function optionsOf(given: FieldDefined['options'], known: Field | undefined): Pick<Field, 'options' | 'optionNames'> {
  const made = new Set(known?.options);
  const taken = new Set(made);
  const options = given.map(({ id, name }): [string, string] => {
    const own = id !== null && made.has(id) ? id : null;
    let fresh = name;
    // What was made under this name, and is called otherwise now, keeps it.
    for (let copy = 2; own === null && taken.has(fresh); copy += 1) fresh = `${name} ${copy}`;
    taken.add(own ?? fresh);
    return [own ?? fresh, name];
  });
  const renamed = options.filter(([id, name]) => id !== name);
  return {
    options: options.map(([id]) => id),
    ...(renamed.length > 0 ? { optionNames: Object.fromEntries(renamed) } : {}),
  };
}

/** Refuses a source that could not be used, with every fault. */
function expectSound(given: SourceDefined, source: Source, directory: Directory, own?: string): void {
  const faults: FaultAt[] = [];
  const others = [...directory.sources.values()].filter(({ id }) => id !== own).map(({ name }) => name);
  const twice = nameFault(given.name, others);
  if (twice) faults.push(twice);
  const title = source.fields[given.title];
  if (title?.type !== 'text') faults.push({ code: 'titleNeedsText', path: 'title', params: {} });
  for (const [at, field] of source.fields.entries()) {
    const path = (part: string) => `fields.${at}.${part}`;
    const same = nameFault(
      field.name,
      source.fields.slice(0, at).map(({ name }) => name),
    );
    if (same) faults.push({ ...same, path: path('name') });
    if (field.options?.length === 0)
      faults.push({ code: 'needsOptions', path: path('options'), params: { field: field.name } });
    for (const [place, option] of (field.options ?? []).entries()) {
      const name = optionName(field, option);
      const others = (field.options ?? []).slice(0, place).map((one) => optionName(field, one));
      const twice = nameFault(name, others);
      if (twice) faults.push({ ...twice, path: path(`options.${place}`) });
    }
    if (isLinkType(field.type) && !directory.sources.has(field.to ?? ''))
      faults.push({ code: 'needsSource', path: path('to'), params: { field: field.name } });
  }
  if (faults.length > 0) throw new Refusal('badValues', { faults });
}

/** Live rules that fit the source as it is and would not as it would be, by the fields that would go. */
function brokenRules(known: ListedSource, next: ListedSource, directory: Directory): FaultAt[] {
  const after = { ...directory, sources: new Map(directory.sources).set(known.id, next) };
  const broken = [...new Set(livePhases(directory, Number.MAX_SAFE_INTEGER).map(({ compiled }) => compiled.rule))]
    .filter((rule) => rule.scope.sources.includes(known.id))
    .filter((rule) => checkRule(rule, directory).length === 0 && checkRule(rule, after).length > 0)
    .map(({ name }) => name);
  return broken.length === 0 ? [] : [{ code: 'rulesUseIt', path: 'fields', params: { rules: broken } }];
}

/** Values that could not stand in their fields as these would be, with the items that have them. */
function valuesAgainst(known: Source, next: Source, items: readonly StoredItem[]): FaultAt[] {
  return next.fields.flatMap((field, at): FaultAt[] => {
    const before = known.fields.find(({ id }) => id === field.id);
    if (!before) return [];
    const meansOther = !namesTheSame(before, field);
    const against = items.filter(
      ({ fields }) => !isEmpty(fields[field.id]) && (meansOther || faultOf(field, fields[field.id] ?? null) !== null),
    );
    if (against.length === 0) return [];
    const named = against.slice(0, MOST_NAMED).map(({ title }) => title);
    return [
      {
        code: 'valuesAgainst',
        path: `fields.${at}.type`,
        params: { field: field.name, count: against.length, items: named },
      },
    ];
  });
}

/** Whether what stands in a field names the same in another: people, items of one source, or neither. */
const namesTheSame = (before: Field, after: Field): boolean =>
  isPersonType(before.type) === isPersonType(after.type) &&
  isLinkType(before.type) === isLinkType(after.type) &&
  (!isLinkType(after.type) || before.to === after.to);
