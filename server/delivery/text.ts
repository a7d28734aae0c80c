import type { Carrier } from './carrier.ts';
import { postJson } from './post.ts';

export interface TextSettings {
  /** Where messages are posted, as JSON `{to, text, reference}`. */
  url: string;
  token: string;
}

/** Sends text messages through a gateway over HTTP. The reference makes a repeat recognisable to the gateway. */
export function textCarrier({ url, token }: TextSettings): Carrier {
  return {
    carry: ({ id, address, text }) =>
      postJson(
        url,
        JSON.stringify({ to: address, text, reference: id }),
        { authorization: `Bearer ${token}` },
        'the gateway',
      ),
    close: () => undefined,
  };
}
