import { createHmac } from 'node:crypto';
import { type Carrier, DeliveryError } from './carrier.ts';
import { postJson } from './post.ts';

/**
 * Posts messages to machines as JSON over HTTP. The body is signed with HMAC-SHA-256 (RFC 2104) under the secret
 * that both sides know; the `Idempotency-Key` header makes a repeat recognisable.
 */
export function webhookCarrier(): Carrier {
  return {
    async carry({ id, address, data, secret }) {
      if (secret === undefined) throw new DeliveryError(`there is no webhook ${address}`, false);
      const body = JSON.stringify(data);
      const signature = createHmac('sha256', secret).update(body).digest('hex');
      return postJson(address, body, { 'idempotency-key': id, 'ojo-signature': `sha256=${signature}` }, 'the webhook');
    },
    close: () => undefined,
  };
}
