import type { Instant } from '../../core/time/index.ts';
import {
  flag,
  instant,
  json,
  number,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
  text,
} from './database/query.ts';

/** Keeps an email that the stand-in for a mail server took. */
export const keepMail = (
  mail: { address: string; sender: string; subject: string; messageId: string; source: string },
  at: Instant,
): Statement =>
  query('INSERT INTO standin_mail (address, sender, subject, message_id, received_at, source) VALUES (?)', [
    mail.address,
    mail.sender.slice(0, 300),
    mail.subject.slice(0, 500),
    mail.messageId.slice(0, 300),
    sqlTime(at),
    mail.source,
  ]);
/** The addresses that email came for, latest first. */
export const mailboxes = (): Query<{ address: string; mails: number; lastAt: Instant }> =>
  select(
    record({ address: text('address'), mails: number('mails'), lastAt: instant('last_at') }),
    'SELECT address, COUNT(*) AS mails, MAX(received_at) AS last_at FROM standin_mail GROUP BY address ORDER BY last_at DESC',
  );
/** The last 200 emails of one address, latest first. */
export const mailbox = (address: string): Query<{ id: number; sender: string; subject: string; receivedAt: Instant }> =>
  select(
    record({ id: number('id'), sender: text('sender'), subject: text('subject'), receivedAt: instant('received_at') }),
    'SELECT id, sender, subject, received_at FROM standin_mail WHERE address = ? ORDER BY received_at DESC, id DESC LIMIT 200',
    address,
  );
/** One email as it came. */
export const mail = (
  id: number,
): Query<{ id: number; address: string; sender: string; subject: string; receivedAt: Instant; source: string }> =>
  select(
    record({
      id: number('id'),
      address: text('address'),
      sender: text('sender'),
      subject: text('subject'),
      receivedAt: instant('received_at'),
      source: text('source'),
    }),
    'SELECT id, address, sender, subject, message_id, received_at, source FROM standin_mail WHERE id = ?',
    id,
  );

/** Keeps a text that the stand-in for a gateway took, or that was answered there. */
export const keepText = (
  sent: { number: string; body: string; reference: string; isAnswer?: boolean },
  at: Instant,
): Statement =>
  query(
    `INSERT INTO standin_texts (number, body, reference, received_at, is_answer)
      VALUES (?)
      ON DUPLICATE KEY UPDATE id = standin_texts.id`,
    [sent.number, sent.body, sent.reference, sqlTime(at), sent.isAnswer ? 1 : 0],
  );
/** The numbers that texts went to, latest first. */
export const phones = (): Query<{ number: string; texts: number; lastAt: Instant }> =>
  select(
    record({ number: text('number'), texts: number('texts'), lastAt: instant('last_at') }),
    'SELECT number, COUNT(*) AS texts, MAX(received_at) AS last_at FROM standin_texts GROUP BY number ORDER BY last_at DESC',
  );
/** The last 200 texts of one number with their answers, latest first. */
export const phone = (of: string): Query<{ id: number; body: string; receivedAt: Instant; isAnswer: boolean }> =>
  select(
    record({ id: number('id'), body: text('body'), receivedAt: instant('received_at'), isAnswer: flag('is_answer') }),
    'SELECT id, body, received_at, is_answer FROM standin_texts WHERE number = ? ORDER BY received_at DESC, id DESC LIMIT 200',
    of,
  );

/** Keeps what a stand-in for a webhook was sent; the same delivery once. */
export const keepHook = (hook: { path: string; key: string; body: string }, at: Instant): Statement =>
  query(
    `INSERT INTO standin_hooks (path, idempotency_key, body, received_at)
      VALUES (?)
      ON DUPLICATE KEY UPDATE id = standin_hooks.id`,
    [hook.path.slice(0, 200), hook.key.slice(0, 120), hook.body, sqlTime(at)],
  );
/** The last 200 deliveries that the stand-in for webhooks took, latest first. */
export const hooks = (): Query<{ id: number; path: string; body: string; receivedAt: Instant }> =>
  select(
    record({ id: number('id'), path: text('path'), body: text('body'), receivedAt: instant('received_at') }),
    'SELECT id, path, body, received_at FROM standin_hooks ORDER BY received_at DESC, id DESC LIMIT 200',
  );

/** How one stand-in behaves. */
export interface Mood {
  does: string;
  seconds: number;
  only: string;
}
/** How the stand-ins behave that do not behave well. */
export const moods = (): Query<{ name: string; mood: Mood }> =>
  select(record({ name: text('name'), mood: json<Mood>('mood') }), 'SELECT name, mood FROM standin_moods');
/** Has a stand-in behave otherwise from now on. */
export const setMood = (name: string, mood: Mood): Statement =>
  query('REPLACE INTO standin_moods (name, mood) VALUES (?, ?)', name, JSON.stringify(mood));
