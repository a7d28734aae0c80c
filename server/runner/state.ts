import type { Input, State, Waiting } from '../../core/decide/index.ts';
import { type Change, type ItemState, judgedFields, membersOf, type Source } from '../../core/values/index.ts';
import { changesByIdQuery, type Connection, type Directory, itemsQuery, liveRulesOf, readAlertsQuery, rows, shortKey, toChange, toItem, toWaiting, waitingQuery } from '../store/index.ts';

/** Reads all that deciding these inputs asks for, so that the step itself touches no database. */
export async function readState(on: Connection, directory: Directory, inputs: readonly Input[]): Promise<State> {
  const waiting = await readWaiting(on, inputs);
  const portions = [...waiting.values()].flat().concat(inputs.flatMap((input) => (input.input === 'later' ? (input.later.portions as Waiting[]) : [])));
  const changes = new Map<string, Change>();
  for (const input of inputs) if (input.input === 'change') changes.set(`${input.change.source}/${input.change.id}`, input.change);
  const keys = portions.flatMap((portion) => portion.changes.map((id): [string, string] => [portion.source, id])).filter(([source, id]) => !changes.has(`${source}/${id}`));
  if (keys.length > 0) for (const row of await rows(on, changesByIdQuery(keys))) changes.set(`${row.source_id}/${row.id}`, toChange(row));
  const told = new Set(portions.map((portion) => portion.item));
  const items = await readItems(on, told, linkedItems(directory, [...changes.values()]));
  const read = await readReading(on, inputs);
  return stateOf(directory, { changes, items, waiting, read });
}

/** What deciding a fresh change asks for, where that is all known without asking the database; `null` where it is not. */
export function stateAtHand(directory: Directory, change: Change): State | null {
  if (linkedItems(directory, [change]).length > 0) return null;
  return stateOf(directory, { changes: new Map([[`${change.source}/${change.id}`, change]]), items: new Map(), waiting: new Map(), read: new Set() });
}

interface Found {
  changes: ReadonlyMap<string, Change>;
  items: ReadonlyMap<string, ItemState>;
  waiting: ReadonlyMap<string, Waiting[]>;
  read: ReadonlySet<string>;
}

function stateOf(directory: Directory, { changes, items, waiting, read }: Found): State {
  return {
    ...directory,
    item: (id) => items.get(id),
    liveRules: (source, at) => liveRulesOf(directory, source, at),
    rule: (id, version) => directory.compiled.find((one) => one.rule.id === id && one.version === version),
    change: (source, id) => changes.get(`${source}/${id}`),
    waiting: (person, channel, due) => waiting.get(`${person}|${channel}|${due}`) ?? [],
    isUnread: (alert, person) => !read.has(`${person}|${shortKey(alert)}`),
  };
}

async function readWaiting(on: Connection, inputs: readonly Input[]): Promise<Map<string, Waiting[]>> {
  const found = new Map<string, Waiting[]>();
  for (const input of inputs) {
    if (input.input !== 'digest') continue;
    const { person, channel, at } = input;
    found.set(`${person}|${channel}|${at}`, (await rows(on, waitingQuery(person, channel, at))).map((row) => toWaiting(row, person, channel, at)));
  }
  return found;
}

/** The items that links of these changes name. */
function linkedItems(directory: Directory, changes: Change[]): string[] {
  return changes.flatMap((change) => {
    const linking = directory.sources.get(change.source)?.fields.filter(isLink) ?? [];
    return linking.flatMap((field) => [change.before, judgedFields(change)].flatMap((state) => membersOf(state?.[field.id])));
  });
}

/** The items that are told of now although they changed earlier, and linked ones; a change itself bears its item's state. */
async function readItems(on: Connection, told: Set<string>, linked: string[]): Promise<Map<string, ItemState>> {
  const ids = new Set([...told, ...linked]);
  if (ids.size === 0) return new Map();
  return new Map((await rows(on, itemsQuery([...ids]))).map(toItem).map((item) => [item.id, item]));
}

const isLink = (field: Source['fields'][number]) => field.type === 'link' || field.type === 'links';

async function readReading(on: Connection, inputs: readonly Input[]): Promise<Set<string>> {
  const found = new Set<string>();
  for (const input of inputs) {
    if (input.input !== 'later') continue;
    const { person, portions } = input.later;
    for (const row of await rows<{ alert_id: string }>(on, readAlertsQuery(person, portions.map((one) => one.alert)))) found.add(`${person}|${row.alert_id}`);
  }
  return found;
}
