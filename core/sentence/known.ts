import { type Field, foldCase, namesSomebody, optionName, type Source } from '../values/index.ts';

/** Something with a name. */
export interface Named {
  id: string;
  name: string;
}

/** All that a typed rule may name: what whoever types may see, and no more. */
export interface Known {
  sources: ReadonlyMap<string, Source>;
  people: readonly Named[];
  groups: readonly Named[];
  contacts: readonly Named[];
  webhooks: readonly Named[];
  folders: readonly (Named & { source: string })[];
  senders: readonly Named[];
  wordings: readonly Named[];
  /** Items by what they are called, as far as the text may name them. */
  items: readonly (Named & { source: string })[];
}

/** What a name stands for, where one is read. */
export type NameKind =
  | 'source'
  | 'field'
  | 'option'
  | 'person'
  | 'group'
  | 'contact'
  | 'webhook'
  | 'folder'
  | 'item'
  | 'sender'
  | 'wording'
  | 'sourceItem';

/** What can be named of one kind, at one place: its names, with the word that tells what it is. */
export interface Choices {
  kind: NameKind;
  /** What they belong to, such as the field of options. */
  of: string | null;
  among: readonly Named[];
}

const choices = (kind: NameKind, among: readonly Named[], of: string | null = null): Choices => ({ kind, of, among });

/** Each source by its name, and by what one item of it is called: *a loan* of the loan agreements. */
export function sourceChoices({ sources }: Known): Choices[] {
  const all = [...sources.values()];
  const single = all.flatMap((source) => {
    const name = source.fields.find(({ id }) => id === source.titleField)?.name ?? '';
    return name === '' ? [] : [{ id: source.id, name }];
  });
  const names = new Set(all.map(({ name }) => foldCase(name)));
  const isSole = ({ name }: Named) => single.filter((one) => foldCase(one.name) === foldCase(name)).length === 1;
  return [
    choices(
      'sourceItem',
      single.filter((one) => isSole(one) && !names.has(foldCase(one.name))),
    ),
    choices('source', all),
  ];
}

/** Fields of some sources, as the first one calls them. */
export function fieldChoices(sources: readonly Source[], fits: (field: Field) => boolean = () => true): Choices {
  const [first] = sources;
  return choices('field', (first?.fields ?? []).filter(fits), first?.name ?? null);
}

/** Whom a bare name may mean: somebody, a group, or whoever a field names. */
export const whomChoices = (known: Known, sources: readonly Source[]): Choices[] => [
  choices('person', known.people),
  choices('group', known.groups),
  namingChoices(known, sources),
];

/** Fields that name somebody; of every source while it is not said which one is meant. */
export function namingChoices(known: Known, sources: readonly Source[]): Choices {
  const names = ({ type }: Field) => namesSomebody(type);
  if (sources.length > 0) return fieldChoices(sources, names);
  const all = [...known.sources.values()].flatMap(({ fields }) => fields.filter(names));
  return choices('field', [...new Map(all.map((field) => [foldCase(field.name), field])).values()]);
}

/** What can stand in a field by name: its options, people, or items of where it leads. */
export function valueChoices(field: Field, known: Known): Choices[] {
  switch (field.type) {
    case 'choice':
    case 'choices': {
      const options = (field.options ?? []).map((option) => ({ id: option, name: optionName(field, option) }));
      return [choices('option', options, field.name)];
    }
    case 'person':
    case 'people':
      return [choices('person', known.people, field.name)];
    case 'link':
    case 'links': {
      const items = known.items.filter(({ source }) => source === field.to);
      return [choices('item', items, field.name)];
    }
    default:
      return [];
  }
}

/** What of these is called so: by its id where one is given, else by its name in whatever case. */
export function calledSo(choice: Choices, text: string, id: string | null): Named[] {
  if (id !== null) return choice.among.filter((one) => one.id === id).slice(0, 1);
  const exact = choice.among.filter(({ name }) => name.normalize('NFC') === text.normalize('NFC'));
  const folded = foldCase(text);
  const found = exact.length > 0 ? exact : choice.among.filter(({ name }) => foldCase(name) === folded);
  return [...new Map(found.map((one) => [one.id, one])).values()];
}

/** Every name that may stand in a sentence. */
export function allNames(known: Known): string[] {
  const named = [
    ...known.people,
    ...known.groups,
    ...known.contacts,
    ...known.webhooks,
    ...known.folders,
    ...known.senders,
    ...known.wordings,
    ...known.items,
    ...sourceChoices(known).flatMap(({ among }) => among),
  ];
  const fields = [...known.sources.values()].flatMap((source) => source.fields);
  const options = fields.flatMap((field) => (field.options ?? []).map((option) => optionName(field, option)));
  return [...new Set([...named.map(({ name }) => name), ...fields.map(({ name }) => name), ...options])].filter(
    (name) => name.trim() !== '',
  );
}
