import { type Response, Router } from 'express';
import { passSchema, type PassCheck, type PassDone, saySchema, type TalkPage } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { type Entry, itemEntry, passedContent } from '../../core/messages/index.ts';
import { addressOf, isMuted, mayRead, membersOfGroup } from '../../core/people/index.ts';
import { type Source, membersOf } from '../../core/values/index.ts';
import {
  beginTalkQueries,
  changesByIdQuery,
  changesOfItemQuery,
  directQuery,
  type Directory,
  inTransaction,
  itemQuery,
  itemsQuery,
  messageQuery,
  newId,
  one,
  presentQuery,
  type Profile,
  type Query,
  rows,
  runAll,
  sayQuery,
  shortKey,
  type StoredItem,
  type Talk,
  talkPeopleQuery,
  talkQuery,
  talkWordsQuery,
  toChange,
  toItem,
  toMessage,
  toTalk,
  worldOf,
  type StoredChange,
} from '../store/index.ts';
import { type Caller, caller, type Context, param, readableItem, take, when } from './context.ts';

/** Passing an item or a message on to colleagues, with a word of one's own, and the talk that follows. */
export function passingRoutes(context: Context): Router {
  const routes = Router();
  const { pool, clock } = context;

  /** Who of those named may read the item, and who may not: asked before anything is sent. */
  routes.post('/pass/check', async (request, response) => {
    const asking = caller(response);
    const wanted = take(passSchema, request.body);
    const { may, mayNot } = await readersAmong(wanted, asking);
    response.json({ may, mayNot } satisfies PassCheck);
  });

  routes.post('/pass', async (request, response) => {
    const asking = caller(response);
    const wanted = take(passSchema, request.body);
    const { item, may, mayNot } = await readersAmong(wanted, asking);
    if (may.length === 0) throw new Refusal('badRequest', { detail: 'Nobody of those named may read it.' });
    const now = clock.now();
    const talk: Talk = {
      id: newId(now),
      source: item.source,
      item: item.id,
      ...(await matterOf(wanted, item, asking)),
      beganBy: asking.me.id,
      at: now,
    };
    await tell(talk, asking, may, wanted.word, null, [
      ...beginTalkQueries(talk, may),
      ...(wanted.word === '' ? [] : [sayQuery(newId(now), talk.id, asking.me.id, wanted.word, now)]),
    ]);
    response.json({ talk: talk.id, told: may, mayNot } satisfies PassDone);
  });

  routes.get('/talks/:id', async (_request, response) => {
    const { talk, item } = await readTalk(param(_request, 'id'), response);
    response.json(await talkPage(talk, item));
  });

  /** An answer goes to everybody else in the talk who may still read what it is about. */
  routes.post('/talks/:id', async (request, response) => {
    const asking = caller(response);
    const { talk, item } = await readTalk(param(request, 'id'), response);
    const { words } = take(saySchema, request.body);
    const people = (await rows<{ person_id: string }>(pool, talkPeopleQuery(talk.id))).map((row) => row.person_id);
    const may = people.filter(
      (id) =>
        id !== asking.me.id &&
        asking.directory.people.get(id)?.active &&
        mayRead(id, item, worldOf(asking.directory, new Map())),
    );
    const now = clock.now();
    await tell(talk, asking, may, words, talk.beganBy, [sayQuery(newId(now), talk.id, asking.me.id, words, now)]);
    response.json(await talkPage(talk, item));
  });

  async function readersAmong(
    wanted: { item: string; people: string[]; groups: string[] },
    asking: Caller,
  ): Promise<{ item: StoredItem; may: string[]; mayNot: string[] }> {
    const { me, directory } = asking;
    const item = await readableItem(pool, wanted.item, asking);
    const named = new Set([
      ...wanted.people,
      ...wanted.groups.flatMap((group) => [...membersOfGroup(group, directory)]),
    ]);
    named.delete(me.id);
    const active = [...named].filter((id) => directory.people.get(id)?.active);
    const world = worldOf(directory, new Map());
    return {
      item,
      may: active.filter((id) => mayRead(id, item, world)),
      mayNot: active.filter((id) => !mayRead(id, item, world)),
    };
  }

  /** What of an item is passed on: what the message tells of it, else the last thing that happened to it. */
  async function matterOf(
    { message: id }: { message?: string },
    item: StoredItem,
    { me }: Caller,
  ): Promise<Pick<Talk, 'changes' | 'notes'>> {
    const row = id === undefined ? undefined : await one(pool, messageQuery(id));
    const message = row && toMessage(row);
    const entry =
      message?.person === me.id ? message.content.entries.find((own) => own.item.id === item.id) : undefined;
    if (entry) return { changes: entry.steps.map((step) => step.change), notes: entry.notes };
    return { changes: (await rows(pool, changesOfItemQuery(item.id, 1))).map((own) => toChange(own).id), notes: [] };
  }

  /** Writes the messages: in Ojo to all, and by email to those who are not there. */
  async function tell(
    talk: Talk,
    { me, directory }: Caller,
    to: readonly string[],
    word: string,
    began: string | null,
    before: Query[],
  ): Promise<void> {
    const now = clock.now();
    const changes =
      talk.changes.length === 0
        ? []
        : (await rows(pool, changesByIdQuery(talk.changes.map((id) => [talk.source, id]))))
            .map(toChange)
            .sort((a, b) => a.at - b.at);
    const items = await itemsNamed(talk, changes, directory);
    const here = new Set(
      to.length === 0
        ? []
        : (await rows<{ person_id: string }>(pool, presentQuery([...to], now))).map((row) => row.person_id),
    );
    const messages = to.flatMap((id): Query[] => {
      const person = directory.people.get(id) as Profile;
      const reader = { ...person, emailFormat: person.plan?.emailFormat ?? ('html' as const) };
      const entry: Entry = itemEntry(talk, changes, talk.notes, reader, worldOf(directory, items));
      const content = passedContent(
        talk.id,
        {
          by: me.name,
          began: began === null ? null : (directory.people.get(began)?.name ?? began),
          word,
          title: entry.item.title,
          entry,
        },
        reader,
        now,
      );
      const key = `${talk.id}|${newId(now)}|${id}`;
      const email = addressOf(person, 'email');
      const isByEmail =
        email !== null && !here.has(id) && !person.plan?.off?.includes('email') && !isMuted(person, '', talk.item, now);
      return [
        directQuery(
          shortKey(`${key}|inApp`),
          { to: id, toKind: 'person', channel: 'inApp', address: id },
          content,
          now,
        ),
        ...(isByEmail
          ? [
              directQuery(
                shortKey(`${key}|email`),
                { to: id, toKind: 'person', channel: 'email', address: email },
                content,
                now,
              ),
            ]
          : []),
      ];
    });
    await inTransaction(pool, (on) => runAll(on, [...before, ...messages]));
    context.wakeSender();
  }

  /** The item and those that its links name, for their titles. */
  async function itemsNamed(
    talk: Talk,
    changes: readonly StoredChange[],
    directory: Directory,
  ): Promise<Map<string, StoredItem>> {
    const links = (directory.sources.get(talk.source) as Source).fields.filter(
      (field) => field.type === 'link' || field.type === 'links',
    );
    const named = changes.flatMap((change) =>
      links.flatMap((field) => [...membersOf(change.before?.[field.id]), ...membersOf(change.after?.[field.id])]),
    );
    return new Map(
      (await rows(pool, itemsQuery([...new Set([talk.item, ...named])]))).map(toItem).map((item) => [item.id, item]),
    );
  }

  async function readTalk(id: string, response: Response): Promise<{ talk: Talk; item: StoredItem }> {
    const asking = caller(response);
    const row = await one(pool, talkQuery(id, asking.me.id));
    if (!row) throw new Refusal('notFound');
    const talk = toTalk(row);
    const item = await one(pool, itemQuery(talk.item));
    if (!item || !mayRead(asking.me.id, toItem(item), worldOf(asking.directory, new Map())))
      throw new Refusal('notFound');
    return { talk, item: toItem(item) };
  }

  async function talkPage(talk: Talk, item: StoredItem): Promise<TalkPage> {
    const people = (await rows<{ person_id: string }>(pool, talkPeopleQuery(talk.id))).map((row) => row.person_id);
    const words = await rows<{ person_id: string; at: number; words: string }>(pool, talkWordsQuery(talk.id));
    return {
      id: talk.id,
      item: { id: item.id, title: item.title, source: item.source },
      beganBy: talk.beganBy,
      at: when(talk.at),
      people,
      words: words.map((row) => ({ person: row.person_id, at: when(row.at), words: row.words })),
    };
  }

  return routes;
}
