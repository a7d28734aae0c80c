import { createTransport } from 'nodemailer';
import type { Pool } from 'mysql2/promise';
import { simpleParser } from 'mailparser';
import { SMTPServer, type SMTPServerSession } from 'smtp-server';
import type { Clock } from '../kit/index.ts';
import { run, store } from '../store/index.ts';
import { moodFor, patiently } from './moods.ts';

export interface StandIn {
  close(): Promise<void>;
}

export interface MailStandInParts {
  pool: Pool;
  clock: Clock;
  port: number;
  /** Where it takes reports of what it could not deliver; `null`: it keeps them to itself. */
  reportsPort: number | null;
}

const HOST = 'mail.marisma.example';
const refusal = (code: number, text: string) => Object.assign(new Error(text), { responseCode: code });

/**
 * A mail server that keeps whatever it is handed, to be looked at. It speaks SMTP and refuses an address whose
 * name begins with `refuse` for good, with `busy` for now, so that failing can be tried; and does worse where it is asked to.
 */
export function startMailStandIn({ pool, clock, port, reportsPort }: MailStandInParts): Promise<StandIn> {
  const take = async (source: Buffer, session: SMTPServerSession): Promise<void> => {
    for (const { address } of session.envelope.rcptTo) {
      const { does, ms } = await moodFor(pool, 'mail', address);
      if (does === 'slow') await patiently(ms);
      if (does !== 'comesBack') await keep(pool, clock, source.toString('utf8'), address);
      else if (session.envelope.mailFrom && reportsPort !== null)
        sendBack(reportsPort, session.envelope.mailFrom.address, address, source).catch(() => undefined);
    }
  };
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    banner: 'Marisma Museum mail stand-in',
    size: 10 * 1024 * 1024,
    hideENHANCEDSTATUSCODES: false,
    hideDSN: false,
    closeTimeout: 1000,
    onRcptTo({ address }, _session, callback) {
      moodFor(pool, 'mail', address).then(({ does }) => {
        if (does === 'refuses' || address.startsWith('refuse'))
          return callback(refusal(550, '5.1.1 There is no such mailbox'));
        if (does === 'busy' || address.startsWith('busy'))
          return callback(refusal(451, '4.2.1 The mailbox is busy, try again later'));
        callback();
      }, callback);
    },
    onData(stream, session, callback) {
      const parts: Buffer[] = [];
      let isCut = false;
      const first = session.envelope.rcptTo[0]?.address ?? '';
      const mood = moodFor(pool, 'mail', first);
      stream.on('data', (part: Buffer) => parts.push(part));
      mood.then(
        ({ does }) => {
          isCut = does === 'drops' || does === 'hangs';
          if (does === 'drops') cutLine(server, session);
        },
        () => undefined,
      );
      stream.on('end', () => {
        mood
          .then(() => (isCut ? undefined : take(Buffer.concat(parts), session).then(() => callback())))
          .catch(() => callback(refusal(451, '4.3.0 It cannot be kept just now')));
      });
    },
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => {
      server.off('error', reject);
      // A caller that went away in the middle of a sentence: the others go on.
      server.on('error', () => undefined);
      resolve({ close: () => new Promise((done) => server.close(() => done())) });
    });
  });
}

/** Cuts the line to one caller, in the middle of whatever is said. */
function cutLine(server: SMTPServer, session: SMTPServerSession): void {
  const lines = server.connections as unknown as Set<{ id: string; _socket: { destroy(): void } }>;
  for (const line of lines) if (line.id === session.id) line._socket.destroy();
}

/** Reports that there is nobody at an address, as RFC 3464 has it, to whoever the envelope says the mail came from. */
async function sendBack(port: number, to: string, recipient: string, source: Buffer): Promise<void> {
  const [headers = ''] = source.toString('utf8').split(/\r?\n\r?\n/, 1);
  const boundary = 'what-became-of-it';
  const raw = [
    `From: Mail <postmaster@${HOST}>`,
    `To: <${to}>`,
    'Subject: Undelivered mail',
    'Auto-Submitted: auto-replied',
    'MIME-Version: 1.0',
    `Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
    '',
    `--${boundary}`,
    'Content-Type: text/plain; charset=utf-8',
    '',
    `Nobody is at ${recipient}.`,
    `--${boundary}`,
    'Content-Type: message/delivery-status',
    '',
    `Reporting-MTA: dns; ${HOST}`,
    '',
    `Final-Recipient: rfc822; ${recipient}`,
    'Action: failed',
    'Status: 5.1.1',
    'Diagnostic-Code: smtp; 550 5.1.1 There is no such mailbox',
    '',
    `--${boundary}`,
    'Content-Type: text/rfc822-headers',
    '',
    headers,
    `--${boundary}--`,
    '',
  ].join('\r\n');
  const transport = createTransport({
    host: '127.0.0.1',
    port,
    secure: false,
    ignoreTLS: true,
    connectionTimeout: 5000,
  });
  // A report bears no sender, so that nobody reports of reports (RFC 5321, section 4.5.5).
  await transport.sendMail({ envelope: { from: '', to }, raw }).finally(() => transport.close());
}

async function keep(pool: Pool, clock: Clock, source: string, address: string): Promise<void> {
  const mail = await simpleParser(source);
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
