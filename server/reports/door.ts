import { SMTPServer } from 'smtp-server';
import type { ReportAddresses } from '../signed-links/index.ts';
import { type Report, readReport } from './reading.ts';

/** A report is a few kilobytes; some servers send the whole message back with it. */
const MOST_BYTES = 2 * 1024 * 1024;
/** A caller that says nothing for so long is let go, in ms. */
const PATIENCE_MS = 30_000;
/** So many callers are spoken with at once. */
const MOST_CALLERS = 20;

export interface ReportDoorParts {
  port: number;
  host: string;
  addresses: ReportAddresses;
  /** Writes down what is reported of a message. Fails where it could not be: the caller keeps the report and comes again. */
  onReport(message: string, report: Report): Promise<void>;
}

/**
 * Takes mail for the addresses of messages by SMTP, and for no other. What is no report, such as an automatic answer, is
 * taken and let go.
 */
export function startReportDoor({
  port,
  host,
  addresses,
  onReport,
}: ReportDoorParts): Promise<{ close(): Promise<void> }> {
  const refuse = (code: number, text: string) => Object.assign(new Error(text), { responseCode: code });
  const take = async (source: Buffer, recipients: readonly string[]) => {
    const report = await readReport(source).catch(() => null);
    for (const address of report ? recipients : []) {
      const message = await addresses.messageOf(address);
      if (message && report) await onReport(message, report);
    }
  };
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    banner: 'Ojo takes delivery reports',
    size: MOST_BYTES,
    socketTimeout: PATIENCE_MS,
    maxClients: MOST_CALLERS,
    disableReverseLookup: true,
    onRcptTo({ address }, _session, callback) {
      addresses.messageOf(address).then(
        (message) => callback(message ? null : refuse(550, 'There is no such mailbox')),
        () => callback(refuse(451, 'It cannot be looked up just now')),
      );
    },
    onData(stream, session, callback) {
      const parts: Buffer[] = [];
      let size = 0;
      stream.on('data', (part: Buffer) => {
        size += part.length;
        if (size <= MOST_BYTES) parts.push(part);
      });
      stream.on('end', () => {
        if (size > MOST_BYTES) return callback(refuse(552, 'It is too large'));
        const recipients = session.envelope.rcptTo.map(({ address }) => address);
        take(Buffer.concat(parts), recipients).then(
          () => callback(),
          () => callback(refuse(451, 'It cannot be kept just now')),
        );
      });
    },
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      server.off('error', reject);
      // A caller that went away in the middle of a sentence: the others go on.
      server.on('error', () => undefined);
      resolve({ close: () => new Promise((done) => server.close(() => done())) });
    });
  });
}
