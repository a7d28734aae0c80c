import { DAY_MS } from '../../../core/time/index.ts';
import { createHash, timingSafeEqual } from 'node:crypto';
import { type Request, Router } from 'express';
import { incomingTextSchema, receiptSchema } from '../../../contract/wire/index.ts';
import { Refusal } from '../../../contract/problems.ts';
import { phrasesFor } from '../../../core/messages/index.ts';
import { answerCode, bareNumber, inTransaction, one, type Profile, rows, runAll, store } from '../../store/index.ts';
import { acknowledge, takeReport } from '../../acts/index.ts';
import { type Context, take } from '../context.ts';

const STOP = /^\s*(stop|stopall|unsubscribe|cancel|end|quit|baja|alto|parar)\W*$/i;
const START = /^\s*(start|unstop|alta)\W*$/i;
/** What a gateway's word for it comes to. */
const RECEIPTS = { delivered: 'arrived', failed: 'cameBack', underWay: 'delayed' } as const;
/** For so long a code answers the text that it came in. */
const CODE_MS = 7 * DAY_MS;

/**
 * What comes back through the text gateway: it posts `{from, text, reference}` with the token that both know, and sends
 * the answer's `reply` to whoever wrote. A code takes on what it came with, STOP silences the number.
 */
export function incomingTexts(context: Context): Router {
  const routes = Router();
  const { pool, clock, site } = context;

  routes.post('/gateway/texts', async (request, response) => {
    expectGateway(request);
    const { from, text } = take(incomingTextSchema, request.body);
    const directory = await context.directory.current(pool);
    const owner = [...directory.people.values()].find(
      (person) => bareNumber(person.phone ?? person.silenced ?? '') === bareNumber(from),
    );
    response.json({ reply: await answer(from, text, owner) });
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

  async function answer(from: string, text: string, owner: Profile | undefined): Promise<string | null> {
    const phrases = phrasesFor(owner?.locale);
    if (STOP.test(text)) {
      await inTransaction(pool, (on) => runAll(on, [store.addresses.silence(from, clock.now()), store.world.raise()]));
      return phrases.say('reply.stopped', { site: site.name });
    }
    if (START.test(text)) {
      await inTransaction(pool, (on) => runAll(on, [store.addresses.unsilence(from), store.world.raise()]));
      return phrases.say('reply.started', { site: site.name });
    }
    if (!owner?.active) return null;
    const words = new Set(text.toUpperCase().split(/[^0-9A-Z]+/));
    const sent = await rows(pool, store.addresses.textsTo(from, clock.now() - CODE_MS));
    const meant = sent.find((row) => row.person === owner.id && words.has(answerCode(row.id)));
    const row = meant && (await one(pool, store.messages.byId(meant.id)));
    if (!row) return phrases.say('reply.unknown');
    await acknowledge(context, [meant.id], owner.id);
    return phrases.say('reply.have', {
      titles: phrases.and(row.content.entries.slice(0, 3).map((entry) => entry.item.title)),
    });
  }

  return routes;
}

const digestOf = (text: string) => createHash('sha256').update(text).digest();
const sameSecret = (a: string, b: string): boolean => timingSafeEqual(digestOf(a), digestOf(b));
