import { type Carrier, DeliveryError, isTemporary } from './carrier.ts';
import { PrivateAddress, postOutside } from './guarded.ts';
import { signedHeaders } from './signing.ts';

/** Where webhooks may lead. */
export interface WebhookSettings {
  /** Addresses of the house's own net are posted to as well. */
  isInsideAllowed: boolean;
}

/**
 * Posts messages to machines as events (CloudEvents 1.0, structured), signed as Standard Webhooks 1.0 has it. The id
 * makes a repeat recognisable. A redirect is followed nowhere.
 */
export function webhookCarrier({ isInsideAllowed }: WebhookSettings): Carrier {
  return {
    async carry({ id, address, at, sentAt = at, posted, secrets = [] }) {
      if (secrets.length === 0 || !posted) throw new DeliveryError(`there is no webhook ${address}`, false);
      const { body, contentType } = posted;
      const headers = { 'content-type': contentType, ...signedHeaders(id, sentAt, body, secrets) };
      const { status, reply } = await postOutside(address, body, headers, isInsideAllowed).catch((error: Error) => {
        const isInside = error instanceof PrivateAddress;
        throw new DeliveryError(
          `the webhook cannot be reached: ${error.message}`,
          !isInside && isTemporary('http', null),
        );
      });
      if (status < 200 || status >= 300) throw new DeliveryError(`${status} ${reply}`, isTemporary('http', status));
      return `${status} ${reply}`.trim();
    },
    close: () => undefined,
  };
}
