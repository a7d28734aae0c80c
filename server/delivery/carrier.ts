import type { Channel } from '../../core/people/index.ts';

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
  /** What a machine is told, and the secrets it may know the sender by. */
  data?: unknown;
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
