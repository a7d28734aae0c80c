import type { Instant } from '../../core/time/index.ts';
import { type Query, query, sqlTime } from './connection.ts';

export const keepMailQuery = (
  mail: { address: string; sender: string; subject: string; messageId: string; source: string },
  at: Instant,
): Query =>
  query('INSERT INTO standin_mail (address, sender, subject, message_id, received_at, source) VALUES (?)', [
    mail.address,
    mail.sender.slice(0, 300),
    mail.subject.slice(0, 500),
    mail.messageId.slice(0, 300),
    sqlTime(at),
    mail.source,
  ]);
export const mailboxesQuery = (): Query =>
  query(
    'SELECT address, COUNT(*) AS mails, MAX(received_at) AS last_at FROM standin_mail GROUP BY address ORDER BY last_at DESC',
  );
export const mailboxQuery = (address: string): Query =>
  query(
    'SELECT id, sender, subject, received_at FROM standin_mail WHERE address = ? ORDER BY received_at DESC, id DESC LIMIT 200',
    address,
  );
export const mailQuery = (id: number): Query =>
  query('SELECT id, address, sender, subject, message_id, received_at, source FROM standin_mail WHERE id = ?', id);

export const keepTextQuery = (
  text: { number: string; body: string; reference: string; isAnswer?: boolean },
  at: Instant,
): Query =>
  query(
    'INSERT INTO standin_texts (number, body, reference, received_at, is_answer) VALUES (?) ON DUPLICATE KEY UPDATE id = standin_texts.id',
    [text.number, text.body, text.reference, sqlTime(at), text.isAnswer ? 1 : 0],
  );
export const phonesQuery = (): Query =>
  query(
    'SELECT number, COUNT(*) AS texts, MAX(received_at) AS last_at FROM standin_texts GROUP BY number ORDER BY last_at DESC',
  );
export const phoneQuery = (number: string): Query =>
  query(
    'SELECT id, body, received_at, is_answer FROM standin_texts WHERE number = ? ORDER BY received_at DESC, id DESC LIMIT 200',
    number,
  );

export const keepHookQuery = (hook: { path: string; key: string; body: string }, at: Instant): Query =>
  query(
    'INSERT INTO standin_hooks (path, idempotency_key, body, received_at) VALUES (?) ON DUPLICATE KEY UPDATE id = standin_hooks.id',
    [hook.path.slice(0, 200), hook.key.slice(0, 120), hook.body, sqlTime(at)],
  );
