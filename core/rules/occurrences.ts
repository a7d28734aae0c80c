import type { Change, Field, Source, Value } from '../values/index.ts';
import { fieldOf } from '../values/index.ts';
import { compileState } from './condition.ts';
import type { Condition, Rule, StateTest } from './rule.ts';

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
    ...(field.type === 'date' || field.type === 'dateTime' ? [{ what: 'date', field: field.id } as const] : []),
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

const isOpen = (node: Condition): boolean => 'all' in node && node.all.length === 0;

type Happening = Exclude<Occurrence, { what: 'date' | 'standstill' }>;

function ofCondition(node: Condition, source: Source, happening: Happening): Watch {
  if ('all' in node) {
    // What happens together with something else is brought about by each of them, now and then.
    const events = node.all.filter(isEvent).map((part) => ofCondition(part, source, happening));
    if (events.length > 0 && events.every((watch) => watch === 'never')) return 'never';
    const states = node.all.filter((part) => !isEvent(part)).map((part) => ofCondition(part, source, happening));
    return leastOf([...events.map((watch) => (watch === 'never' ? 'sometimes' : watch)), ...states]);
  }
  if ('any' in node)
    return node.any.some((part) => ofCondition(part, source, happening) === 'always')
      ? 'always'
      : node.any.some((part) => ofCondition(part, source, happening) === 'sometimes')
        ? 'sometimes'
        : 'never';
  if ('none' in node) return 'sometimes';
  if ('op' in node) return ofState(node, source, happening) === 'never' ? 'never' : 'sometimes';
  if ('was' in node) return happening.what === 'kind' && happening.kind === 'created' ? 'never' : 'sometimes';
  if ('became' in node) return turned(node.became, source, happening, 'deleted');
  if ('ceased' in node) return turned(node.ceased, source, happening, 'created') === 'never' ? 'never' : 'sometimes';
  const fields =
    'changed' in node
      ? [node.changed].flat()
      : 'rose' in node
        ? [node.rose.field]
        : 'fell' in node
          ? [node.fell.field]
          : 'gained' in node
            ? [node.gained.field]
            : [node.lost.field];
  if (happening.what === 'kind')
    return happening.kind === 'created' || happening.kind === 'deleted' || happening.kind === 'contentAdded'
      ? 'sometimes'
      : 'never';
  if (!fields.includes('*') && !fields.includes(happening.field)) return 'never';
  return 'changed' in node ? 'always' : 'sometimes';
}

/** Whether a part of a condition is about what a change does, not only about how the item stands or stood. */
const isEvent = (node: Condition): boolean =>
  'all' in node
    ? node.all.some(isEvent)
    : 'any' in node
      ? node.any.some(isEvent)
      : !('op' in node || 'was' in node || 'none' in node);

const leastOf = (parts: Watch[]): Watch =>
  parts.includes('never') ? 'never' : parts.includes('sometimes') ? 'sometimes' : 'always';

/** A state that turns true: by the field that it asks about alone, or with an item that comes (never with one that goes). */
function turned(state: StateTest, source: Source, happening: Happening, never: Change['kind']): Watch {
  if (happening.what === 'kind')
    return happening.kind === never
      ? 'never'
      : happening.kind === 'created' || happening.kind === 'deleted'
        ? 'sometimes'
        : fieldsIn(state).some((id) => isNatural(fieldOf(source, id)))
          ? 'sometimes'
          : 'never';
  if (!fieldsIn(state).includes(happening.field)) return 'never';
  return ofState(state, source, happening);
}

/** Fields that change with a document itself, not by anybody's edit. */
const isNatural = (field: Field | undefined): boolean =>
  field !== undefined && ['name', 'size', 'version', 'approval', 'checkedOutBy'].includes(field.id);

function ofState(state: StateTest, source: Source, happening: Happening): Watch {
  if (!('op' in state)) return 'sometimes';
  if (happening.what !== 'option' || happening.field !== state.field) return 'sometimes';
  const fields: Record<string, Value> = { [happening.field]: happening.option };
  return compileState(state, source, 'UTC')(fields, 0) ? 'always' : 'never';
}

const fieldsIn = (state: StateTest): string[] =>
  'op' in state
    ? [state.field]
    : ('all' in state ? state.all : 'any' in state ? state.any : state.none).flatMap(fieldsIn);
