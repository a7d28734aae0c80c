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
  /** They are understood, and not offered: another form of names that are. */
  isOther?: true;
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
  const sole = single.filter((one) => isSole(one) && !names.has(foldCase(one.name)));
  // *All loans*: of several a name mostly ends so, in English as in Spanish. What else is called so goes before it.
  const taken = new Set([...names, ...single.map(({ name }) => foldCase(name))]);
  const several = sole.map(({ id, name }) => ({ id, name: `${name}s` }));
  return [
    choices('sourceItem', sole),
    choices('source', all),
    {
      ...choices(
        'sourceItem',
        several.filter(({ name }) => !taken.has(foldCase(name))),
      ),
      isOther: true,
    },
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

const choicesKnown = new WeakMap<Known, Map<Field, Choices[]>>();

/** What can stand in a field by name: its options, people, or items of where it leads; made once for all its values. */
export function valueChoices(field: Field, known: Known): Choices[] {
  const ofFields = choicesKnown.get(known) ?? new Map<Field, Choices[]>();
  choicesKnown.set(known, ofFields);
  const found = ofFields.get(field) ?? choicesIn(field, known);
  ofFields.set(field, found);
  return found;
}

function choicesIn(field: Field, known: Known): Choices[] {
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

/** Things by their ids, by their names as they are written, and in whatever case. */
interface LookUp {
  byId: ReadonlyMap<string, Named>;
  exact: ReadonlyMap<string, Named[]>;
  folded: ReadonlyMap<string, Named[]>;
}
const lookUps = new WeakMap<readonly Named[], LookUp>();

function lookUpOf(among: readonly Named[]): LookUp {
  const known = lookUps.get(among);
  if (known) return known;
  const [byId, exact, folded] = [new Map<string, Named>(), new Map<string, Named[]>(), new Map<string, Named[]>()];
  const put = (map: Map<string, Named[]>, key: string, one: Named) => {
    const there = map.get(key);
    if (there) there.push(one);
    else map.set(key, [one]);
  };
  for (const one of among) {
    if (!byId.has(one.id)) byId.set(one.id, one);
    put(exact, one.name.normalize('NFC'), one);
    put(folded, foldCase(one.name), one);
  }
  const made = { byId, exact, folded };
  lookUps.set(among, made);
  return made;
}

/** What of these has this id. */
export const withId = (choice: Choices, id: string): Named | undefined => lookUpOf(choice.among).byId.get(id);

/** What of these is called so: by its id where one is given, else by its name in whatever case. */
export function calledSo(choice: Choices, text: string, id: string | null): Named[] {
  const one = id === null ? undefined : withId(choice, id);
  if (id !== null) return one ? [one] : [];
  const { exact, folded } = lookUpOf(choice.among);
  const found = exact.get(text.normalize('NFC')) ?? folded.get(foldCase(text)) ?? [];
  return [...new Map(found.map((each) => [each.id, each])).values()];
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
