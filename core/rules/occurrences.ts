import { type Change, type Field, fieldOf, isTemporalType, type Source, type Value } from '../values/index.ts';
import { compileState } from './condition.ts';
import { type Condition, isKind, isOpen, ownFields, type StateTest, stateParts, visitCondition } from './nodes.ts';
import type { Rule } from './rule.ts';
import type { Linked } from './tests.ts';

/** One sort of thing that can happen to items of a source, as somebody would ask about it: a kind of change, a field that changes, an option it becomes, a date, a standstill. */
export type Occurrence =
  | { what: 'kind'; kind: Change['kind'] }
  | { what: 'field'; field: string }
  | { what: 'option'; field: string; option: string }
  | { what: 'date'; field: string }
  | { what: 'standstill' };

/** How far a rule waits for an occurrence: wherever it happens, only where something else is so too, or not at all. */
export type Watch = 'always' | 'sometimes' | 'never';

const KINDS: Record<Source['kind'], Change['kind'][]> = {
  folders: ['created', 'contentAdded', 'renamed', 'moved', 'submitted', 'approved', 'rejected', 'commented', 'deleted'],
  list: ['created', 'commented', 'deleted'],
  records: ['created', 'commented', 'deleted'],
  stream: ['created', 'deleted'],
};

/** What can happen in a source: what comes and goes, then field by field, with each option of a choice, and its dates. */
export function occurrencesOf(source: Source): Occurrence[] {
  const fields = source.fields.flatMap((field): Occurrence[] => [
    { what: 'field', field: field.id },
    ...(field.type === 'choice'
      ? (field.options ?? []).map((option): Occurrence => ({ what: 'option', field: field.id, option }))
      : []),
    ...(isTemporalType(field.type) ? [{ what: 'date', field: field.id } as const] : []),
  ]);
  return [...KINDS[source.kind].map((kind): Occurrence => ({ what: 'kind', kind })), ...fields, { what: 'standstill' }];
}

/** Whether a rule would be brought about by an occurrence, as far as the rule alone tells. */
export function watches(rule: Rule, source: Source, occurrence: Occurrence): Watch {
  if (!rule.scope.sources.includes(source.id)) return 'never';
  const isNarrow =
    rule.scope.under.length > 0 ||
    rule.scope.items.length > 0 ||
    !isOpen(rule.scope.where) ||
    rule.by.only.length > 0 ||
    rule.during.near !== null ||
    Boolean(rule.when?.burst);
  const narrowed = (watch: Watch): Watch => (watch === 'always' && isNarrow ? 'sometimes' : watch);
  switch (occurrence.what) {
    case 'date':
      return rule.due?.field !== occurrence.field ? 'never' : narrowed(isOpen(rule.due.if) ? 'always' : 'sometimes');
    case 'standstill':
      return rule.idle === null ? 'never' : narrowed(isOpen(rule.idle.if) ? 'always' : 'sometimes');
    default: {
      if (!rule.when) return 'never';
      const kind = occurrence.what === 'kind' ? occurrence.kind : 'changed';
      if (rule.when.kinds.length > 0 && !rule.when.kinds.includes(kind)) return 'never';
      return narrowed(ofCondition(rule.when.if, source, occurrence));
    }
  }
}

type Happening = Exclude<Occurrence, { what: 'date' | 'standstill' }>;

function ofCondition(node: Condition, source: Source, happening: Happening): Watch {
  const ofParts = (parts: Condition[]) => parts.map((part) => ofCondition(part, source, happening));
  const sometimes = (watch: Watch): Watch => (watch === 'never' ? 'never' : 'sometimes');
  const ofFields = () => sometimes(ofChanged(ownFields(node), happening));
  return visitCondition<Watch>(node, {
    test: (test) => sometimes(ofState(test, source, happening)),
    through: () => 'sometimes',
    all: ({ all }) => ofAll(all, ofParts),
    any: ({ any }) => mostOf(ofParts(any)),
    none: () => 'sometimes',
    was: () => (happening.what === 'kind' && happening.kind === 'created' ? 'never' : 'sometimes'),
    became: ({ became }) => turned(became, source, happening, 'deleted'),
    ceased: ({ ceased }) => sometimes(turned(ceased, source, happening, 'created')),
    changed: ({ changed }) => ofChanged([changed].flat(), happening),
    rose: ofFields,
    fell: ofFields,
    gained: ofFields,
    lost: ofFields,
  });
}

/** What happens together with something else is brought about by each of them, now and then. */
function ofAll(parts: Condition[], ofParts: (parts: Condition[]) => Watch[]): Watch {
  const events = ofParts(parts.filter(isEvent));
  if (events.length > 0 && events.every((watch) => watch === 'never')) return 'never';
  const states = ofParts(parts.filter((part) => !isEvent(part)));
  return leastOf([...events.map((watch): Watch => (watch === 'never' ? 'sometimes' : watch)), ...states]);
}

/** Kinds of changes that bring new values of fields with them. */
const BRING_VALUES: readonly Change['kind'][] = ['created', 'deleted', 'contentAdded'];

function ofChanged(fields: readonly string[], happening: Happening): Watch {
  if (happening.what === 'kind') return BRING_VALUES.includes(happening.kind) ? 'sometimes' : 'never';
  return fields.includes('*') || fields.includes(happening.field) ? 'always' : 'never';
}

const so = () => true;
const not = () => false;
/** Whether a part of a condition is about what a change does, not only about how the item stands or stood. */
const isEvent = (node: Condition): boolean =>
  visitCondition<boolean>(node, {
    test: not,
    through: not,
    all: ({ all }) => all.some(isEvent),
    any: ({ any }) => any.some(isEvent),
    none: not,
    was: not,
    became: so,
    ceased: so,
    changed: so,
    rose: so,
    fell: so,
    gained: so,
    lost: so,
  });

const ORDER: readonly Watch[] = ['never', 'sometimes', 'always'];
const leastOf = (parts: readonly Watch[]): Watch => ORDER.find((watch) => parts.includes(watch)) ?? 'always';
const mostOf = (parts: readonly Watch[]): Watch => ORDER.findLast((watch) => parts.includes(watch)) ?? 'never';

/** A state that turns true: by the field that it asks about alone, or with an item that comes (never with one that goes). */
function turned(state: StateTest, source: Source, happening: Happening, never: Change['kind']): Watch {
  const fields = fieldsIn(state);
  if (happening.what !== 'kind') return fields.includes(happening.field) ? ofState(state, source, happening) : 'never';
  if (happening.kind === never) return 'never';
  if (happening.kind === 'created' || happening.kind === 'deleted') return 'sometimes';
  return fields.some((id) => isNatural(fieldOf(source, id))) ? 'sometimes' : 'never';
}

/** Fields that change with a document itself, not by anybody's edit. */
const isNatural = (field: Field | undefined): boolean =>
  field !== undefined && ['name', 'size', 'version', 'approval', 'checkedOutBy'].includes(field.id);

/** A test of one field asks no other source and no other item. */
const NO_OTHERS: ReadonlyMap<string, Source> = new Map();
const NOTHING_LINKED: Linked = { item: () => undefined };

function ofState(state: StateTest, source: Source, happening: Happening): Watch {
  if (!isKind(state, 'test') || happening.what !== 'option' || happening.field !== state.field) return 'sometimes';
  const fields: Record<string, Value> = { [happening.field]: happening.option };
  const holds = compileState(state, { source, zone: 'UTC', sources: NO_OTHERS });
  return holds(fields, 0, NOTHING_LINKED) ? 'always' : 'never';
}

/** The fields that a state test asks about. */
const fieldsIn = (state: StateTest): string[] => [...ownFields(state), ...stateParts(state).flatMap(fieldsIn)];
