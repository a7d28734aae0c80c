import { createHmac, randomBytes } from 'node:crypto';

/** Before a secret stands what it is (Standard Webhooks 1.0); the key is what follows, in base 64. */
const PREFIX = 'whsec_';

/** A secret of 32 random bytes, as both sides keep it. */
export const newSecret = (): string => PREFIX + randomBytes(32).toString('base64');

const keyOf = (secret: string): Buffer =>
  secret.startsWith(PREFIX) ? Buffer.from(secret.slice(PREFIX.length), 'base64') : Buffer.from(secret);

/**
 * The signature of a message (Standard Webhooks 1.0): HMAC-SHA-256 over its id, its second and its body, one for each
 * secret, so that the other side may know it by the old one or the new one.
 */
export const signatureOf = (id: string, second: number, body: string, secrets: readonly string[]): string =>
  secrets
    .map((secret) => `v1,${createHmac('sha256', keyOf(secret)).update(`${id}.${second}.${body}`).digest('base64')}`)
    .join(' ');

/** The headers that go with a signed body: its id, its second, and its signatures. */
export const signedHeaders = (
  id: string,
  at: number,
  body: string,
  secrets: readonly string[],
): Record<string, string> => {
  const second = Math.floor(at / 1000);
  return {
    'webhook-id': id,
    'webhook-timestamp': String(second),
    'webhook-signature': signatureOf(id, second, body, secrets),
  };
};
