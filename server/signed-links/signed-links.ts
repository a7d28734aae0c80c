import { errors, jwtVerify, SignJWT } from 'jose';
import type { Pool } from 'mysql2/promise';
import { DAY_MS, type Instant } from '../../core/time/index.ts';
import { HouseKey } from './house-key.ts';

/** What a link that opens by itself is for. */
export type LinkPurpose =
  | { do: 'acknowledge'; message: string; person: string }
  | { do: 'again'; message: string; person: string }
  | { do: 'look'; message: string; contact: string }
  | { do: 'leave'; message: string; contact: string }
  | { do: 'quiet'; message: string; person: string }
  | { do: 'confirm'; ask: string }
  | { do: 'welcome'; person: string; number: number }
  | { do: 'known'; person: string; browser: string };

/** For how many days each sort of link opens. Whoever wants to leave may want so long after the last message. */
const LINK_DAYS: Record<LinkPurpose['do'], number> = {
  acknowledge: 7,
  again: 30,
  look: 30,
  leave: 730,
  quiet: 730,
  confirm: 14,
  welcome: 7,
  known: 365,
};

/**
 * Signs what links say, as JSON Web Tokens (RFC 7519) with HMAC-SHA-256. The key is kept in the database, so that a
 * link which one server wrote opens at another.
 */
export class SignedLinks {
  private readonly key: HouseKey;

  constructor(pool: Pool) {
    this.key = new HouseKey(pool, 'links');
  }

  /** A token that says this until its days are over, counted from `from`. */
  async sign(purpose: LinkPurpose, from: Instant): Promise<string> {
    return new SignJWT({ ...purpose })
      .setProtectedHeader({ alg: 'HS256' })
      .setExpirationTime(Math.floor((from + LINK_DAYS[purpose.do] * DAY_MS) / 1000))
      .sign(await this.key.bytes());
  }

  /** What a token says; `expired` once its days are over, `null` where it was not signed here or is for something else. */
  async open<D extends LinkPurpose['do']>(
    token: string,
    purpose: D,
    now: Instant,
  ): Promise<Extract<LinkPurpose, { do: D }> | 'expired' | null> {
    try {
      const { payload } = await jwtVerify(token, await this.key.bytes(), {
        algorithms: ['HS256'],
        currentDate: new Date(now),
      });
      return payload.do === purpose ? (payload as unknown as Extract<LinkPurpose, { do: D }>) : null;
    } catch (error) {
      return error instanceof errors.JWTExpired ? 'expired' : null;
    }
  }
}
