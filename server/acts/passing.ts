import { Refusal } from '../../contract/problems.ts';
import type { Passing } from '../../contract/wire/index.ts';
import { itemEntry, passedContent } from '../../core/messages/index.ts';
import { addressOf, isMuted, mayRead, membersOfGroup } from '../../core/people/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { membersOf, type Source, isLinkType } from '../../core/values/index.ts';
import { type Caller, readableItem } from '../access/index.ts';
import {
  type Directory,
  inTransaction,
  newId,
  one,
  type Profile,
  rows,
  runAll,
  shortKey,
  type Statement,
  store,
  type StoredChange,
  type StoredItem,
  type Thread,
  worldOf,
} from '../store/index.ts';
import type { ActContext } from './context.ts';

/** The item that somebody would pass on, and which of those named may read it. */
export interface Readers {
  item: StoredItem;
  may: string[];
  mayNot: string[];
}

/** Who of those named may read an item, and who may not: known before anything is sent. */
export async function readersAmong(
  { pool }: Pick<ActContext, 'pool'>,
  { item: id, people = [], groups = [] }: Passing,
  asking: Caller,
): Promise<Readers> {
  const { me, directory } = asking;
  const item = await readableItem(pool, id, asking);
  const named = new Set([...people, ...groups.flatMap((group) => [...membersOfGroup(group, directory)])]);
  named.delete(me.id);
  const active = [...named].filter((one) => directory.people.get(one)?.active);
  const world = worldOf(directory, new Map());
  const may = active.filter((one) => mayRead(one, item, world));
  return { item, may, mayNot: active.filter((one) => !may.includes(one)) };
}

/** Passes an item on to colleagues, as a message told of it or as it stands, with a word of one's own; the thread it begins. */
export async function passOn(
  context: ActContext,
  wanted: Passing,
  asking: Caller,
): Promise<Readers & { thread: Thread }> {
  const readers = await readersAmong(context, wanted, asking);
  const { item, may } = readers;
  if (may.length === 0) throw new Refusal('badRequest', { because: 'nobodyMayRead' });
  const now = context.clock.now();
  const thread: Thread = {
    id: newId(now),
    source: item.source,
    item: item.id,
    ...(await matterOf(context, wanted.message, item, asking)),
    beganBy: asking.me.id,
    at: now,
  };
  const word = wanted.word ?? '';
  await tell(context, { thread, to: may, word, began: null }, asking, [
    ...store.threads.begin(thread, may),
    ...(word === '' ? [] : [store.threads.say(newId(now), thread.id, asking.me.id, word, now)]),
  ]);
  return { ...readers, thread };
}

/** A thread that the caller is in, with its item, as long as they may read that. */
export async function readThread(
  { pool }: Pick<ActContext, 'pool'>,
  id: string,
  asking: Caller,
): Promise<{ thread: Thread; item: StoredItem }> {
  const thread = await one(pool, store.threads.byId(id, asking.me.id));
  if (!thread) throw new Refusal('notFound');
  return { thread, item: await readableItem(pool, thread.item, asking) };
}

/** An answer in a thread goes to everybody else in it who may still read what it is about. */
export async function sayInThread(
  context: ActContext,
  { thread, item }: { thread: Thread; item: StoredItem },
  words: string,
  asking: Caller,
): Promise<void> {
  const { pool, clock } = context;
  const { me, directory } = asking;
  const world = worldOf(directory, new Map());
  const people = await rows(pool, store.threads.people(thread.id));
  const to = people.filter((id) => id !== me.id && directory.people.get(id)?.active && mayRead(id, item, world));
  const now = clock.now();
  await tell(context, { thread, to, word: words, began: thread.beganBy }, asking, [
    store.threads.say(newId(now), thread.id, me.id, words, now),
  ]);
}

/** What of an item is passed on: what the message tells of it, else the last thing that happened to it. */
async function matterOf(
  { pool }: ActContext,
  message: string | undefined,
  item: StoredItem,
  { me }: Caller,
): Promise<Pick<Thread, 'changes' | 'notes'>> {
  const told = message === undefined ? undefined : await one(pool, store.messages.byId(message));
  const entry = told?.person === me.id ? told.content.entries.find((own) => own.item.id === item.id) : undefined;
  if (entry) return { changes: entry.steps.map((step) => step.change), notes: entry.notes };
  return { changes: (await rows(pool, store.changes.ofItem(item.id, 1))).map(({ id }) => id), notes: [] };
}

interface Word {
  thread: Thread;
  to: readonly string[];
  word: string;
  /** Who began the thread, of an answer. */
  began: string | null;
}

/** Writes the messages: in Ojo to all, and by email to those who are not there. */
async function tell(context: ActContext, said: Word, { me, directory }: Caller, before: Statement[]): Promise<void> {
  const { pool, clock } = context;
  const { thread, to, word, began } = said;
  const now = clock.now();
  const changes = await changesOf(context, thread);
  const items = await itemsNamed(context, thread, changes, directory);
  const here = new Set(to.length === 0 ? [] : await rows(pool, store.presence.among([...to], now)));
  const messages = to.flatMap((id): Statement[] => {
    const person = directory.people.get(id) as Profile;
    const reader = { ...person, emailFormat: person.plan?.emailFormat ?? ('html' as const) };
    const entry = itemEntry(thread, changes, thread.notes, reader, worldOf(directory, items));
    const beganBy = began === null ? null : (directory.people.get(began)?.name ?? began);
    const words = { by: me.name, began: beganBy, word, title: entry.item.title, entry };
    const content = passedContent(thread.id, words, reader, now);
    const key = `${thread.id}|${newId(now)}|${id}`;
    const direct = (channel: 'inApp' | 'email', address: string) =>
      store.messages.sendDirect(
        shortKey(`${key}|${channel}`),
        { to: id, toKind: 'person', channel, address },
        content,
        now,
      );
    const email = here.has(id) ? null : emailFor(person, thread.item, now);
    return [direct('inApp', id), ...(email === null ? [] : [direct('email', email)])];
  });
  await inTransaction(pool, (on) => runAll(on, [...before, ...messages]));
  context.wakeSender();
}

/** Where something passed on goes by email; `null` where its reader has none, or wants none. */
function emailFor(person: Profile, item: string, now: Instant): string | null {
  const isUnwanted = person.plan?.off?.includes('email') || isMuted(person, '', item, now);
  return isUnwanted ? null : addressOf(person, 'email');
}

async function changesOf({ pool }: ActContext, { changes, source }: Thread): Promise<StoredChange[]> {
  if (changes.length === 0) return [];
  const found = await rows(pool, store.changes.byIds(changes.map((id): [string, string] => [source, id])));
  return found.sort((a, b) => a.at - b.at);
}

/** The item and those that its links name, for their titles. */
async function itemsNamed(
  { pool }: ActContext,
  thread: Thread,
  changes: readonly StoredChange[],
  directory: Directory,
): Promise<Map<string, StoredItem>> {
  const links = (directory.sources.get(thread.source) as Source).fields.filter((field) => isLinkType(field.type));
  const named = changes.flatMap((change) =>
    links.flatMap((field) => [...membersOf(change.before?.[field.id]), ...membersOf(change.after?.[field.id])]),
  );
  const items = await rows(pool, store.items.byIds([...new Set([thread.item, ...named])]));
  return new Map(items.map((item) => [item.id, item]));
}
