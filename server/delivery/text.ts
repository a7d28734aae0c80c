import { type Carrier, DeliveryError, isTemporary } from './carrier.ts';

export interface TextSettings {
  /** Where messages are posted, as JSON `{to, text, reference}`. */
  url: string;
  token: string;
}

/** Sends text messages through a gateway over HTTP. The reference makes a repeat recognisable to the gateway. */
export function textCarrier({ url, token }: TextSettings): Carrier {
  return {
    async carry({ id, address, text }) {
      const response = await fetch(url, {
        method: 'POST', headers: { 'content-type': 'application/json', authorization: `Bearer ${token}` },
        body: JSON.stringify({ to: address, text, reference: id }), signal: AbortSignal.timeout(15_000),
      }).catch((error: Error) => {
        throw new DeliveryError(`the gateway cannot be reached: ${error.message}`, isTemporary('http', null));
      });
      const reply = (await response.text()).slice(0, 300);
      if (!response.ok) throw new DeliveryError(`${response.status} ${reply}`, isTemporary('http', response.status));
      return `${response.status} ${reply}`;
    },
    close: () => undefined,
  };
}
