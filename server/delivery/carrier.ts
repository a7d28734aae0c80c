import type { Channel } from '../../core/people/index.ts';

/** The body that a machine is posted, and what it is. */
export interface Posted {
  contentType: string;
  body: string;
}

/** A file that goes with a message. */
export interface Enclosed {
  name: string;
  mediaType: string;
  bytes: Buffer;
}

/** A message as a carrier takes it to its address. */
export interface Parcel {
  id: string;
  channel: Channel;
  address: string;
  subject: string;
  text: string;
  html: string | null;
  at: number;
  /** When it is carried, where that is not when it was written. */
  sentAt?: number;
  /** Whose name stands as the sender's, with their address where the house has given one, and where replies go; left out where that is Ojo. */
  sender?: { name: string | null; address?: string; replyTo: string | null };
  /** What it stands together with: the same for all that tells of one thing. */
  thread?: string;
  /** Where the reader can leave with one press, for mail programs too. */
  leave?: string;
  /** Files that go with it. */
  files?: readonly Enclosed[];
  /** What a mail server's report of it comes back under. */
  reportsTo?: string;
  /** What a machine is posted, and the secrets it may know the sender by. */
  posted?: Posted;
  secrets?: readonly string[];
}

/** Takes messages of one channel out of the house; answers with the other side's reply. Throws a {@link DeliveryError}. */
export interface Carrier {
  carry(parcel: Parcel): Promise<string>;
  close(): void;
}

/** The other side did not take a message. */
export class DeliveryError extends Error {
  constructor(
    message: string,
    readonly isTemporary: boolean,
    /** Nobody is behind the address: nothing will ever arrive there. */
    readonly isNobodyThere = false,
  ) {
    super(message);
  }
}

/**
 * The one place that tells what may succeed later from what never will. SMTP (RFC 5321): 4xx is temporary, 5xx
 * for good. HTTP: 408, 425, 429 and 5xx are temporary, other 4xx for good. No answer at all is temporary.
 */
export function isTemporary(protocol: 'smtp' | 'http', status: number | null): boolean {
  if (status === null) return true;
  if (protocol === 'smtp') return status < 500;
  return status >= 500 || status === 408 || status === 425 || status === 429;
}

/** The enhanced status code in a reply (RFC 3463), such as `5.1.1`; `null` where it has none. */
export const statusIn = (reply: string): string | null =>
  /(?:^|[\s-])([245]\.\d{1,3}\.\d{1,3})(?=$|\s)/.exec(reply)?.[1] ?? null;

/**
 * Whether a refusal for good says that nobody is behind the address (RFC 3463: a bad address, `5.1.x`, or a mailbox that is
 * disabled, `5.2.1`), and not that this one message was unwanted or the mailbox full. Without such a code the reply's own
 * counts (RFC 5321): 550, 551 and 553 are of mailboxes.
 */
export function saysNobody(status: string | null, replyCode: number | null = null): boolean {
  if (status !== null && status !== '5.0.0') return /^5\.1\.(?!7$|8$)|^5\.2\.1$/.test(status);
  return replyCode === 550 || replyCode === 551 || replyCode === 553;
}
