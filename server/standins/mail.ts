import type { Pool } from 'mysql2/promise';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import type { Clock } from '../kit/index.ts';
import { run, store } from '../store/index.ts';

export interface StandIn {
  close(): Promise<void>;
}

/**
 * A mail server that keeps whatever it is handed, to be looked at. It speaks SMTP and refuses an address whose
 * name begins with `refuse` for good, with `busy` for now, so that failing can be tried.
 */
export function startMailStandIn(pool: Pool, clock: Clock, port: number): Promise<StandIn> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    banner: 'Marisma Museum mail stand-in',
    size: 10 * 1024 * 1024,
    onRcptTo({ address }, _session, callback) {
      const refuse = (code: number, text: string) => callback(Object.assign(new Error(text), { responseCode: code }));
      if (address.startsWith('refuse')) return refuse(550, 'There is no such mailbox');
      if (address.startsWith('busy')) return refuse(451, 'The mailbox is busy, try again later');
      callback();
    },
    onData(stream, session, callback) {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('end', () => {
        const source = Buffer.concat(parts).toString('utf8');
        keep(
          pool,
          clock,
          source,
          session.envelope.rcptTo.map((one) => one.address),
        ).then(() => callback(), callback);
      });
    },
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => {
      server.off('error', reject);
      // A caller that went away in the middle of a sentence: the others go on.
      server.on('error', () => undefined);
      resolve({
        close: () =>
          new Promise((done) => {
            server.close(() => done());
          }),
      });
    });
  });
}

async function keep(pool: Pool, clock: Clock, source: string, addresses: string[]): Promise<void> {
  const mail = await simpleParser(source);
  for (const address of addresses) {
    await run(
      pool,
      store.standins.keepMail(
        {
          address: address.toLowerCase(),
          sender: mail.from?.text ?? '',
          subject: mail.subject ?? '',
          messageId: mail.messageId ?? '',
          source,
        },
        clock.now(),
      ),
    );
  }
}
