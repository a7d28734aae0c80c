import { Router } from 'express';
import { simpleParser } from 'mailparser';
import type { Mail, Mailbox, MailRow, Phone, TextRow } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { mailboxesQuery, mailboxQuery, mailQuery, one, phoneQuery, phonesQuery, rows } from '../store/index.ts';
import { type Context, param, when } from './context.ts';

/** What the stand-ins received, to be looked at. Only a demo has them. */
export function standInRoutes({ pool }: Context): Router {
  const routes = Router();

  routes.get('/mail', async (_request, response) => {
    const found = await rows<{ address: string; mails: number; last_at: number }>(pool, mailboxesQuery());
    response.json(found.map((row): Mailbox => ({ address: row.address, mails: Number(row.mails), lastAt: when(row.last_at) })));
  });

  routes.get('/mail/:address', async (request, response) => {
    const found = await rows<{ id: number; sender: string; subject: string; received_at: number }>(pool, mailboxQuery(param(request, 'address')));
    response.json(found.map((row): MailRow => ({ id: row.id, sender: row.sender, subject: row.subject, receivedAt: when(row.received_at) })));
  });

  routes.get('/mail/:address/:id', async (request, response) => {
    const row = await one<{ id: number; address: string; sender: string; subject: string; received_at: number; source: string }>(pool, mailQuery(Number(param(request, 'id')) || 0));
    if (!row || row.address !== param(request, 'address')) throw new Refusal('notFound');
    const parsed = await simpleParser(row.source);
    response.json({
      id: row.id, address: row.address, sender: row.sender, subject: row.subject, receivedAt: when(row.received_at),
      html: parsed.html || null, text: parsed.text ?? '', source: row.source,
    } satisfies Mail);
  });

  routes.get('/phones', async (_request, response) => {
    const found = await rows<{ number: string; texts: number; last_at: number }>(pool, phonesQuery());
    response.json(found.map((row): Phone => ({ number: row.number, texts: Number(row.texts), lastAt: when(row.last_at) })));
  });

  routes.get('/phones/:number', async (request, response) => {
    const found = await rows<{ id: number; body: string; received_at: number }>(pool, phoneQuery(param(request, 'number')));
    response.json(found.map((row): TextRow => ({ id: row.id, body: row.body, receivedAt: when(row.received_at) })));
  });

  return routes;
}
