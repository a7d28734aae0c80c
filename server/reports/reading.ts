import { simpleParser } from 'mailparser';
import { saysNobody } from '../delivery/index.ts';

/** What a mail server reports of a message that it had taken. */
export interface Report {
  outcome: 'arrived' | 'delayed' | 'cameBack';
  /** The receiving server's own words, or its status. */
  reply: string;
  /** Nobody is behind the address. */
  isNobodyThere: boolean;
}

/** So many signs of a server's own words are kept. */
const REPLY = 400;
/** What became of it by the report's `Action` (RFC 3464, section 2.3.3): relayed and expanded say that it goes on. */
const OUTCOMES: Record<string, Report['outcome']> = { failed: 'cameBack', delayed: 'delayed', delivered: 'arrived' };

/**
 * Reads a delivery status notification (RFC 3464): of several recipients the first that failed, else the first. `null` where
 * the mail is none, such as an answer that somebody's program wrote.
 */
export async function readReport(source: Buffer): Promise<Report | null> {
  const mail = await simpleParser(source, { keepDeliveryStatus: true, skipHtmlToText: true, skipTextToHtml: true });
  const part = mail.attachments.find(({ contentType }) => contentType === 'message/delivery-status');
  if (!part) return null;
  // The first block is about the message, each further one about one of its recipients.
  const [, ...recipients] = blocksOf(part.content.toString('utf8'));
  const reports = recipients.flatMap((fields) => reportOf(fields) ?? []);
  return reports.find(({ outcome }) => outcome === 'cameBack') ?? reports[0] ?? null;
}

/** Blocks of fields, parted by empty lines, their folded lines joined (RFC 5322, section 2.2.3). */
const blocksOf = (text: string): Map<string, string>[] =>
  text
    .replace(/\r\n?/g, '\n')
    .trim()
    .split(/\n[ \t]*\n+/)
    .map(
      (block) =>
        new Map(
          block
            .replace(/\n[ \t]+/g, ' ')
            .split('\n')
            .flatMap((line): [string, string][] => {
              const at = line.indexOf(':');
              return at > 0 ? [[line.slice(0, at).trim().toLowerCase(), line.slice(at + 1).trim()]] : [];
            }),
        ),
    );

function reportOf(fields: Map<string, string>): Report | null {
  const action = (fields.get('action') ?? '').toLowerCase();
  const outcome = Object.hasOwn(OUTCOMES, action) ? OUTCOMES[action] : undefined;
  if (!outcome) return null;
  const status = /^[245]\.\d{1,3}\.\d{1,3}/.exec(fields.get('status') ?? '')?.[0] ?? null;
  // `smtp; 550 5.1.1 no such mailbox`: the server's own words stand behind the semicolon.
  const words = (fields.get('diagnostic-code') ?? '').replace(/^[^;]*;\s*/, '').slice(0, REPLY);
  const replyCode = /^(\d{3})\b/.exec(words)?.[1];
  return {
    outcome,
    reply: words || status || action,
    isNobodyThere: outcome === 'cameBack' && saysNobody(status, replyCode ? Number(replyCode) : null),
  };
}
