import { nestingFault, ruleSchema, schemaFaults, shapeFault } from '../../contract/documents/index.ts';
import { type FaultAt, Refusal } from '../../contract/problems.ts';
import { checkMessage } from '../../core/messages/index.ts';
import {
  asKind,
  kindOfSelector,
  laidOpen,
  mayRead,
  mayReadAll,
  mayReadSome,
  type SelectorKind,
} from '../../core/people/index.ts';
import { checkRule, checkSense, type Rule } from '../../core/rules/index.ts';
import { dateIn, type Instant } from '../../core/time/index.ts';
import {
  type Connection,
  type Directory,
  one,
  type Profile,
  rows,
  store,
  type StoredRule,
  worldOf,
} from '../store/index.ts';
import { type Caller, coordinates } from './caller.ts';
import { nameFault } from './names.ts';

/** Whether somebody may read something of all that a rule looks at. */
export const readsAll = (rule: Pick<Rule, 'scope'> | null, { me, directory }: Caller): boolean =>
  (rule?.scope.sources ?? []).every((id) => mayReadSome(me.id, id, directory));

export const mayEdit = (rule: StoredRule, me: Profile, directory: Directory): boolean =>
  rule.owner === me.id || coordinates(me, (rule.live ?? rule.draft)?.scope.sources ?? [], directory);
/** Whether somebody looks after a rule, by the newest version that was put live: its owner, and who coordinates all that it looks at. */
export function looksAfter(rule: Rule | undefined, { me, directory }: Caller): boolean {
  return rule !== undefined && (rule.owner === me.id || coordinates(me, rule.scope.sources, directory));
}

/** A rule is seen by those who may read something of each source it looks at; a draft by those who may edit it, or are asked to look after it. */
export function maySee(rule: StoredRule, asking: Caller): boolean {
  const { me, directory } = asking;
  const isShown = rule.state !== 'draft' || rule.offer?.to === me.id || mayEdit(rule, me, directory);
  return isShown && readsAll(rule.live ?? rule.draft, asking);
}

/** Reads a rule's document, or refuses it with all that is wrong with it: its shape first, then its sense. */
export function readRule(document: Record<string, unknown>, asking: Caller, allowed: string[] = []): Rule {
  const fault = shapeFault(document) ?? nestingFault(document);
  if (fault) throw new Refusal('badRule', { faults: [fault] });
  const parsed = ruleSchema.safeParse(document);
  if (!parsed.success) throw new Refusal('badRule', { faults: schemaFaults(parsed.error, ruleSchema) });
  const rule = parsed.data;
  const world = worldOf(readableWorld(asking), new Map());
  const faults: FaultAt[] = [
    ...checkRule(rule, world),
    ...checkMessage(rule, world.sources, {
      wordings: new Set(world.wordings.keys()),
      senders: new Set(world.house.senders.map(({ id }) => id)),
    }),
    ...rightsFaults(rule, asking),
  ];
  const counted = faults.filter((fault) => !allowed.includes(fault.code));
  if (counted.length > 0) throw new Refusal('badRule', { faults: counted });
  return rule;
}

/** Reads a rule's document as somebody saves it: it also has to be meant, and to have a name of its own among its owner's. */
export async function savedRule(
  on: Connection,
  document: Record<string, unknown>,
  asking: Caller,
  now: Instant,
): Promise<Rule> {
  const rule = readRule(document, asking);
  const { sources, folders } = asking.directory;
  const taken = (await rows(on, store.rules.names(rule.owner))).filter(({ id }) => id !== rule.id);
  const twice = nameFault(
    rule.name,
    taken.map(({ name }) => name),
  );
  const faults = [
    ...(twice ? [twice] : []),
    ...checkSense(rule, { sources, folders, today: dateIn(now, rule.zone) }),
    ...(await itemsElsewhere(on, rule, asking)),
  ];
  if (faults.length > 0) throw new Refusal('badRule', { faults });
  return rule;
}

/** Single items that a rule looks at, that its maker may read, and that lie in none of its sources: it would never be told of them. */
async function itemsElsewhere(
  on: Connection,
  { scope: { items, sources } }: Rule,
  { me, directory }: Caller,
): Promise<FaultAt[]> {
  if (items.length === 0) return [];
  const known = (await rows(on, store.items.byIds(items))).filter((item) =>
    mayRead(me.id, item, worldOf(directory, new Map([[item.id, item]]))),
  );
  const elsewhere = new Set(known.filter(({ source }) => !sources.includes(source)).map(({ id }) => id));
  return items.flatMap((id, at) =>
    elsewhere.has(id) ? [{ code: 'itemElsewhere', path: `scope.items.${at}`, params: {} }] : [],
  );
}

/** The directory with only what the caller may read: a rule must not tell what its maker may not see. */
function readableWorld({ me, directory }: Caller): Directory {
  return { ...directory, sources: new Map([...directory.sources].filter(([id]) => mayReadSome(me.id, id, directory))) };
}

/** Kinds of selectors that may reach somebody outside, whatever the item is. */
const OUTSIDE: readonly SelectorKind[] = ['contact', 'webhook', 'linked'];

/**
 * Whether somebody would make a rule of another's tell outside what they may not read themselves: outsiders are told
 * what the rule's owner may read, so that only who may read as much may send it there in the owner's name.
 */
export function reachesFarther(rule: Rule, owner: string, { me, directory }: Caller): boolean {
  const selectors = laidOpen([...rule.to, ...(rule.ack?.escalate ?? []).flatMap(({ to }) => to)]);
  const isAddress = (source: string, id: string) =>
    directory.sources.get(source)?.fields.some((field) => field.id === id && field.type === 'email') ?? false;
  const isOutside = selectors.some((selector) => {
    const field = asKind(selector, 'field')?.field;
    if (field !== undefined) return rule.scope.sources.some((source) => isAddress(source, field));
    return OUTSIDE.includes(kindOfSelector(selector));
  });
  return owner !== me.id && isOutside && !rule.scope.sources.every((source) => mayReadAll(me.id, source, directory));
}

/** Everybody makes rules for themselves; coordinators for others too, within what they coordinate. */
function rightsFaults(rule: Rule, asking: Caller): FaultAt[] {
  const { me, directory } = asking;
  if (reachesFarther(rule, rule.owner, asking)) return [{ code: 'notYoursToTell', path: 'to', params: {} }];
  if (coordinates(me, rule.scope.sources, directory)) return [];
  const lists: [path: string, selectors: Rule['to']][] = [
    ['to', rule.to],
    ...(rule.ack?.escalate ?? []).map(({ to }, at): [string, Rule['to']] => [`ack.escalate.${at}.to`, to]),
  ];
  const isMe = (selector: Rule['to'][number]) =>
    laidOpen([selector]).every((one) => asKind(one, 'person')?.person === me.id);
  const code = me.role === 'member' ? 'onlyYourself' : 'notYours';
  return lists.flatMap(([path, selectors]) =>
    selectors.flatMap((selector, at) => (isMe(selector) ? [] : [{ code, path: `${path}.${at}`, params: {} }])),
  );
}

/** A rule that the caller may see; any other is answered as if it were not there. */
export async function visibleRule(on: Connection, id: string, asking: Caller): Promise<StoredRule> {
  const rule = await one(on, store.rules.byId(id));
  if (!rule || !maySee(rule, asking)) throw new Refusal('notFound');
  return rule;
}

/** A rule that the caller may edit. */
export async function editableRule(on: Connection, id: string, asking: Caller): Promise<StoredRule> {
  const rule = await visibleRule(on, id, asking);
  if (!mayEdit(rule, asking.me, asking.directory)) throw notYoursToEdit();
  return rule;
}

export const notYoursToEdit = (): Refusal =>
  new Refusal('notAllowed', {
    because: 'ruleOfAnother',
  });
