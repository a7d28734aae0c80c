import { DeliveryError, isTemporary } from './carrier.ts';

/** Posts a body as JSON; gives the other side's reply in a line, or throws a {@link DeliveryError} that says whether it may succeed later. */
export async function postJson(url: string, body: string, headers: Record<string, string>, whom: string): Promise<string> {
  const response = await fetch(url, {
    method: 'POST', redirect: 'error', headers: { 'content-type': 'application/json', ...headers }, body, signal: AbortSignal.timeout(15_000),
  }).catch((error: Error) => {
    throw new DeliveryError(`${whom} cannot be reached: ${error.message}`, isTemporary('http', null));
  });
  const reply = (await response.text()).slice(0, 300);
  if (!response.ok) throw new DeliveryError(`${response.status} ${reply}`, isTemporary('http', response.status));
  return `${response.status} ${reply}`.trim();
}
