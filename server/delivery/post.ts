import { DeliveryError, isTemporary } from './carrier.ts';

/** The other side has so long to answer whole, in ms. */
const PATIENCE_MS = 8000;
/** So much of a reply is kept, in signs. */
const REPLY = 300;

/** Posts a body as JSON; gives the other side's reply in a line, or throws a {@link DeliveryError} that says whether it may succeed later. */
export async function postJson(
  url: string,
  body: string,
  headers: Record<string, string>,
  whom: string,
): Promise<string> {
  const { status, ok, reply } = await answerOf(url, body, headers).catch((error: Error) => {
    throw new DeliveryError(`${whom} cannot be reached: ${error.message}`, isTemporary('http', null));
  });
  if (!ok) throw new DeliveryError(`${status} ${reply}`, isTemporary('http', status));
  return `${status} ${reply}`.trim();
}

async function answerOf(
  url: string,
  body: string,
  headers: Record<string, string>,
): Promise<{ status: number; ok: boolean; reply: string }> {
  const response = await fetch(url, {
    method: 'POST',
    redirect: 'error',
    headers: { 'content-type': 'application/json', ...headers },
    body,
    signal: AbortSignal.timeout(PATIENCE_MS),
  });
  let reply = '';
  const decoder = new TextDecoder();
  // However much the other side says, a few words of it are read.
  const reader = response.body?.getReader();
  while (reader && reply.length < REPLY) {
    const { done, value } = await reader.read();
    if (done) break;
    reply += decoder.decode(value, { stream: true });
  }
  await reader?.cancel().catch(() => undefined);
  return { status: response.status, ok: response.ok, reply: reply.slice(0, REPLY) };
}
