import { createHmac, timingSafeEqual } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import { HouseKey } from './house-key.ts';

/** So much of the signature an address bears, in hexadecimal signs: 64 bits, which nobody guesses by mail. */
const SIGNS = 16;

/**
 * The addresses to which mail servers report what became of each message: a message's own, by its id and a signature, behind
 * the plus sign of an address that leads to Ojo (a subaddress, RFC 5233). Nobody can report of a message they were not sent.
 */
export class ReportAddresses {
  private readonly key: HouseKey;
  private readonly local: string;
  private readonly domain: string;

  /** @param address where reports go, such as `ojo@museum.example` */
  constructor(pool: Pool, address: string) {
    this.key = new HouseKey(pool, 'reports');
    const at = address.lastIndexOf('@');
    [this.local, this.domain] = [address.slice(0, at).toLowerCase(), address.slice(at + 1).toLowerCase()];
  }

  /** The address of one message. */
  of = async (message: string): Promise<string> =>
    `${this.local}+${message}.${await this.signature(message)}@${this.domain}`;

  /** The message that an address is of; `null` where it is of none. */
  async messageOf(address: string): Promise<string | null> {
    const [, local, message, signature, domain] =
      /^([^+@]*)\+([0-9a-z]{1,26})\.([0-9a-f]+)@([^@]+)$/.exec(address.trim().toLowerCase()) ?? [];
    if (!message || local !== this.local || domain !== this.domain) return null;
    const [given, right] = [Buffer.from(signature ?? ''), Buffer.from(await this.signature(message))];
    return given.length === right.length && timingSafeEqual(given, right) ? message : null;
  }

  private signature = async (message: string): Promise<string> =>
    createHmac('sha256', await this.key.bytes())
      .update(message)
      .digest('hex')
      .slice(0, SIGNS);
}
