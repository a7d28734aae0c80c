import { DAY_MS, HOUR_MS } from '../../../core/time/index.ts';
import { createHash, timingSafeEqual } from 'node:crypto';
import { type Request, Router } from 'express';
import { incomingTextSchema, receiptSchema } from '../../../contract/wire/index.ts';
import { Refusal } from '../../../contract/problems.ts';
import { codesNotice, phrasesFor } from '../../../core/messages/index.ts';
import {
  answerCode,
  bareNumber,
  inTransaction,
  one,
  type Profile,
  rows,
  run,
  runAll,
  shortKey,
  type StoredMessage,
  store,
} from '../../store/index.ts';
import { e164 } from '../../kit/index.ts';
import { guarded } from '../../signing-in/index.ts';
import { codeIn, wishIn } from './text-words.ts';
import { itemsOf, messageRow, readableAmong } from '../../access/index.ts';
import { acknowledge, takeReport } from '../../acts/index.ts';
import { type Context, take } from '../context.ts';

/** What a gateway's word for it comes to. */
const RECEIPTS = { delivered: 'arrived', failed: 'cameBack', underWay: 'delayed' } as const;
/** So many wrong codes, and none more is looked at for an hour. */
const WRONG_CODES = { most: 5, within: HOUR_MS };
/** For so long a code answers the text that it came in. */
const CODE_MS = 7 * DAY_MS;

/**
 * What comes back through the text gateway: it posts `{from, text, reference}` with the token that both know, and sends
 * the answer's `reply` to whoever wrote. A code takes on what it came with, STOP silences the number.
 */
export function incomingTexts(context: Context): Router {
  const routes = Router();
  const { pool, clock } = context;

  routes.post('/gateway/texts', async (request, response) => {
    expectGateway(request);
    const { from: written, text } = take(incomingTextSchema, request.body);
    const from = e164(written) ?? written;
    const directory = await context.directory.current(pool);
    const owner = [...directory.people.values()].find(
      (person) => bareNumber(person.phone ?? person.silenced ?? '') === bareNumber(from),
    );
    response.json({ reply: await answer(context, from, text, owner) });
  });

  /** What became of a text that the gateway had taken. One that it does not know is none of Ojo's, and said so. */
  routes.post('/gateway/receipts', async (request, response) => {
    expectGateway(request);
    const { reference, status, reason } = take(receiptSchema, request.body);
    const outcome = RECEIPTS[status];
    const directory = await context.directory.current(pool);
    const isKnown = await takeReport(pool, {
      message: reference,
      channel: 'text',
      report: { outcome, reply: reason || status, isNobodyThere: false },
      now: clock.now(),
      directory,
    });
    if (!isKnown) throw new Refusal('notFound');
    context.hub.announce({ event: 'outbox' });
    response.status(204).end();
  });

  function expectGateway({ headers }: Request): void {
    if (context.textToken === '' || !sameSecret(headers.authorization ?? '', `Bearer ${context.textToken}`))
      throw new Refusal('notSignedIn');
  }

  return routes;
}

/** Does what a text asks; what is answered to it, or `null` for nothing. */
async function answer(
  context: Context,
  from: string,
  text: string,
  owner: Profile | undefined,
): Promise<string | null> {
  const { pool, clock, site } = context;
  const phrases = phrasesFor(owner?.locale);
  const wish = wishIn(text);
  if (wish === 'stop') {
    await inTransaction(pool, (on) => runAll(on, [store.addresses.silence(from, clock.now()), store.world.raise()]));
    return phrases.say('reply.stopped', { site: site.name });
  }
  if (wish === 'start') {
    await inTransaction(pool, (on) => runAll(on, [store.addresses.unsilence(from), store.world.raise()]));
    return phrases.say('reply.started', { site: site.name });
  }
  if (!owner?.active) return null;
  const code = codeIn(text);
  if (code === null) return phrases.say('reply.unknown');
  const number = { subject: ['number', bareNumber(from)], ...WRONG_CODES };
  let row: StoredMessage | null;
  try {
    row = await guarded(context, [number], () => sentWith(context, code, from, owner));
  } catch (error) {
    if (!(error instanceof Refusal && error.code === 'tooMany')) throw error;
    await tellOfGuessing(context, from, owner);
    return phrases.say('reply.tooMany');
  }
  if (!row) return phrases.say('reply.unknown');
  await acknowledge(context, [row.id], owner.id);
  const directory = await context.directory.current(pool);
  const readable = await readableAmong(pool, itemsOf([row]), owner.id, directory);
  const { entries } = messageRow(row, readable).content;
  return entries.length === 0
    ? phrases.say('reply.haveIt')
    : phrases.say('reply.have', { titles: phrases.and(entries.slice(0, 3).map((entry) => entry.item.title)) });
}

/** What a code came with, of what was sent to that number lately. */
async function sentWith(
  { pool, clock }: Context,
  code: string,
  from: string,
  owner: Profile,
): Promise<StoredMessage | null> {
  const sent = await rows(pool, store.addresses.textsTo(from, clock.now() - CODE_MS));
  const meant = sent.find((row) => row.person === owner.id && answerCode(row.id) === code);
  return (meant && (await one(pool, store.messages.byId(meant.id)))) ?? null;
}

/** Whoever's number it is hears, once in an hour, that somebody tries codes from it. */
async function tellOfGuessing({ pool, clock }: Context, from: string, owner: Profile): Promise<void> {
  const now = clock.now();
  const key = shortKey(`codes|${bareNumber(from)}|${Math.floor(now / HOUR_MS)}|${owner.id}`);
  await run(pool, store.messages.notice(key, owner.id, codesNotice(from, now, owner), now));
}

const digestOf = (text: string) => createHash('sha256').update(text).digest();
const sameSecret = (a: string, b: string): boolean => timingSafeEqual(digestOf(a), digestOf(b));
