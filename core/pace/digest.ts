import type { DigestPace } from '../people/index.ts';
import { type Instant, nextOf } from '../time/index.ts';

/** The instant of the digest that an alert belongs to: the first later than it, in the pace's zone or else the recipient's own. */
export function digestInstant(pace: DigestPace, alertAt: Instant, recipientZone: string): Instant {
  return nextOf(pace, alertAt, pace.zone ?? recipientZone);
}
