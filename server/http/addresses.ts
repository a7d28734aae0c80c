import { Router } from 'express';
import { addressSchema, channelSchema, codeSchema, type ContactRow } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { trialContent, plainLinks, wordsOf } from '../../core/messages/index.ts';
import { addressOf, type Contact } from '../../core/people/index.ts';
import { askContact, askOwnAddress, contactOf } from '../intake/index.ts';
import {
  asksOfContactsQuery,
  asksOfQuery,
  asksSentQuery,
  directQuery,
  dropAskQuery,
  inTransaction,
  newId,
  one,
  raiseWorldQuery,
  rows,
  run,
  runAll,
  saveMailToQuery,
  savePhoneQuery,
  toAsk,
  tryCodeQuery,
  unconfirmedRulesQuery,
  withheldUnconfirmedQuery,
} from '../store/index.ts';
import { caller, type Context, param, take, when, whenOrNull } from './context.ts';

/** A number's code may be tried so often; then it has to be asked for anew. */
const MOST_TRIES = 5;
/** An outside address is asked so often at most, by whomever. */
const MOST_TIMES = 10;
/** Somebody may ask for so many confirming messages in an hour, whatever they type in. */
const MOST_ASKED = 6;

/** Where somebody is reached, and the outside addresses of a house: each confirmed before it is used. */
export function addressRoutes(context: Context): Router {
  const routes = Router();
  const { pool, clock, site } = context;

  /** Sends a confirming message to an address of one's own. */
  routes.post('/me/addresses', async (request, response) => {
    const { me } = caller(response);
    const { channel, address } = take(addressSchema, request.body);
    const now = clock.now();
    const recent = await one<{ asked: number }>(pool, asksSentQuery(me.id, now - 3_600_000));
    if (Number(recent?.asked ?? 0) >= MOST_ASKED) throw new Refusal('tooMany');
    await askOwnAddress(pool, me, channel, address, site, now);
    context.wakeSender();
    response.status(204).end();
  });

  /** Confirms a number by the code that it was sent. */
  routes.post('/me/addresses/code', async (request, response) => {
    const { me } = caller(response);
    const { code } = take(codeSchema, request.body);
    const ask = (await rows(pool, asksOfQuery('person', me.id))).map(toAsk).find((row) => row.channel === 'text');
    const isOpen =
      ask !== undefined &&
      clock.now() <= ask.askedAt + 86_400_000 &&
      (await run(pool, tryCodeQuery(ask.id, MOST_TRIES))).affectedRows > 0;
    if (!isOpen)
      throw new Refusal('badRequest', { detail: 'There is no code that fits any more. Have a new one sent.' });
    if (ask.code !== code)
      throw new Refusal('badRequest', {
        detail: 'This is not the code that was sent. Look at the newest message on that telephone.',
      });
    await inTransaction(pool, (on) =>
      runAll(on, [savePhoneQuery(me.id, ask.address), dropAskQuery('person', me.id, 'text'), raiseWorldQuery()]),
    );
    response.status(204).end();
  });

  /** Takes a number or a second address away, one that waits to be confirmed too. */
  routes.delete('/me/addresses/:channel', async (request, response) => {
    const { me } = caller(response);
    const channel = take(channelSchema, param(request, 'channel'));
    await inTransaction(pool, (on) =>
      runAll(on, [
        channel === 'text' ? savePhoneQuery(me.id, null) : saveMailToQuery(me.id, null),
        dropAskQuery('person', me.id, channel),
        raiseWorldQuery(),
      ]),
    );
    response.status(204).end();
  });

  /** Sends a message by one channel, so that somebody sees how it reaches them. */
  routes.post('/me/trial/:channel', async (request, response) => {
    const { me } = caller(response);
    const name = param(request, 'channel');
    const channel = name === 'inApp' ? name : take(channelSchema, name);
    const address = addressOf(me, channel);
    if (address === null)
      throw new Refusal('badRequest', {
        detail: channel === 'text' ? 'There is no number to send to yet.' : 'There is no address to send to yet.',
      });
    const now = clock.now();
    const content = trialContent(channel, { ...me, emailFormat: me.plan?.emailFormat ?? 'html' }, now);
    await run(
      pool,
      directQuery(
        newId(now),
        { to: me.id, toKind: 'person', channel, address },
        content,
        now,
        channel === 'text' ? wordsOf(content, 'text', plainLinks(site)) : null,
      ),
    );
    context.wakeSender();
    response.json({ address });
  });

  /** The outside addresses there are, and those that rules reached but nobody knows. */
  routes.get('/contacts', async (_request, response) => {
    const { me, directory } = caller(response);
    if (me.role === 'member') throw new Refusal('notAllowed');
    const asks = new Map((await rows(pool, asksOfContactsQuery())).map(toAsk).map((ask) => [ask.owner, ask]));
    const withheld = new Map(
      (
        await rows<{ person_id: string; withheld: number }>(
          pool,
          withheldUnconfirmedQuery(clock.now() - 30 * 86_400_000),
        )
      ).map((row) => [row.person_id, Number(row.withheld)]),
    );
    const strangers = [...withheld.keys()]
      .filter((id) => id.includes('@') && !directory.contacts.has(id))
      .map((id) => contactOf(id, directory))
      .filter((contact) => !contact.confirmed);
    const row = (contact: Contact): ContactRow => {
      const ask = asks.get(contact.id);
      return {
        id: contact.id,
        name: contact.name,
        email: contact.email,
        isConfirmed: contact.confirmed,
        left: contact.unsubscribed === true ? 'all' : [...contact.unsubscribed],
        askedAt: whenOrNull(ask?.askedAt ?? null),
        times: ask?.times ?? 0,
        withheld: withheld.get(contact.id) ?? 0,
      };
    };
    response.json([...directory.contacts.values(), ...strangers].map(row));
  });

  /** Asks an outside address once more; one that said that it wants nothing is not asked. */
  routes.post('/contacts/:id/ask', async (request, response) => {
    const { me, directory } = caller(response);
    if (me.role === 'member') throw new Refusal('notAllowed');
    const contact = contactOf(param(request, 'id'), directory);
    const [ask] = (await rows(pool, asksOfQuery('contact', contact.id))).map(toAsk);
    // Only whom the house knows, or a rule reached: Ojo writes to no address that somebody makes up.
    const isKnown =
      directory.contacts.has(contact.id) ||
      ask !== undefined ||
      (await rows(pool, unconfirmedRulesQuery(contact.id))).length > 0;
    if (!isKnown || !contact.email?.includes('@')) throw new Refusal('notFound');
    if (ask && ask.times >= MOST_TIMES)
      throw new Refusal('badRequest', {
        detail: `${contact.name} has been asked ${ask.times} times. Ask them yourself.`,
      });
    if (contact.unsubscribed === true)
      throw new Refusal('badRequest', { detail: `${contact.name} has said that nothing may be sent there.` });
    if (!contact.confirmed) await askContact(pool, contact, me, site, clock.now(), directory);
    context.wakeSender();
    response.json({ askedAt: when(clock.now()) });
  });

  return routes;
}
