import { Router } from 'express';
import { simpleParser } from 'mailparser';
import { type Mail, type Mailbox, type MailRow, type Phone, saySchema, type TextRow } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import {
  keepTextQuery,
  mailboxesQuery,
  mailboxQuery,
  mailQuery,
  newId,
  one,
  phoneQuery,
  phonesQuery,
  rows,
  run,
} from '../store/index.ts';
import { type Context, param, take, when } from './context.ts';

/** What the stand-ins received, to be looked at. Only a demo has them. */
export function standInRoutes({ pool, clock, textToken }: Context): Router {
  const routes = Router();

  routes.get('/mail', async (_request, response) => {
    const found = await rows<{ address: string; mails: number; last_at: number }>(pool, mailboxesQuery());
    response.json(
      found.map((row): Mailbox => ({ address: row.address, mails: Number(row.mails), lastAt: when(row.last_at) })),
    );
  });

  routes.get('/mail/:address', async (request, response) => {
    const found = await rows<{ id: number; sender: string; subject: string; received_at: number }>(
      pool,
      mailboxQuery(param(request, 'address')),
    );
    response.json(
      found.map(
        (row): MailRow => ({ id: row.id, sender: row.sender, subject: row.subject, receivedAt: when(row.received_at) }),
      ),
    );
  });

  routes.get('/mail/:address/:id', async (request, response) => {
    const row = await one<{
      id: number;
      address: string;
      sender: string;
      subject: string;
      received_at: number;
      source: string;
    }>(pool, mailQuery(Number(param(request, 'id')) || 0));
    if (!row || row.address !== param(request, 'address')) throw new Refusal('notFound');
    const parsed = await simpleParser(row.source);
    response.json({
      id: row.id,
      address: row.address,
      sender: row.sender,
      subject: row.subject,
      receivedAt: when(row.received_at),
      html: parsed.html || null,
      text: parsed.text ?? '',
      source: row.source,
    } satisfies Mail);
  });

  routes.get('/phones', async (_request, response) => {
    const found = await rows<{ number: string; texts: number; last_at: number }>(pool, phonesQuery());
    response.json(
      found.map((row): Phone => ({ number: row.number, texts: Number(row.texts), lastAt: when(row.last_at) })),
    );
  });

  routes.get('/phones/:number', async (request, response) => {
    const found = await rows<{ id: number; body: string; received_at: number; is_answer: number }>(
      pool,
      phoneQuery(param(request, 'number')),
    );
    response.json(
      found.map(
        (row): TextRow => ({
          id: row.id,
          body: row.body,
          receivedAt: when(row.received_at),
          isAnswer: row.is_answer === 1,
        }),
      ),
    );
  });

  /** Answers from a telephone: the gateway hands it to Ojo as a real one would, and sends back what Ojo replies. */
  routes.post('/phones/:number', async (request, response) => {
    const number = param(request, 'number');
    const { words } = take(saySchema, request.body);
    const reference = newId(clock.now());
    await run(pool, keepTextQuery({ number, body: words, reference, isAnswer: true }, clock.now()));
    const handed = await fetch(`http://127.0.0.1:${request.socket.localPort}/gateway/texts`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${textToken}` },
      body: JSON.stringify({ from: number, text: words, reference }),
    });
    const { reply } = (await handed.json()) as { reply?: string | null };
    if (reply)
      await run(pool, keepTextQuery({ number, body: reply, reference: `${reference}-reply` }, clock.now() + 1));
    response.status(204).end();
  });

  return routes;
}
