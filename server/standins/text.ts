import type { Pool } from 'mysql2/promise';
import { z } from 'zod';
import type { Clock } from '../kit/index.ts';
import { run, store } from '../store/index.ts';
import { type Answer, parseJson, startHttpStandIn } from './http.ts';
import type { StandIn } from './mail.ts';
import { moodFor, patiently } from './moods.ts';

const textSchema = z.object({
  to: z.string().regex(/^\+?[0-9 ]{6,20}$/),
  text: z.string().min(1).max(2000),
  reference: z.string().min(1).max(120),
});

export interface TextStandInParts {
  pool: Pool;
  clock: Clock;
  port: number;
  /** Whoever hands texts over shows it, and so does the gateway when it says what became of them. */
  token: string;
  /** Where it says what became of a text; `null`: nowhere. */
  receiptsUrl: string | null;
}

/**
 * A text gateway that keeps whatever it is handed, and says later what became of it. It takes JSON over HTTP with a bearer
 * token; a repeated reference is kept once.
 */
export function startTextStandIn({ pool, clock, port, token, receiptsUrl }: TextStandInParts): Promise<StandIn> {
  const tell = async (reference: string, status: string, reason?: string) => {
    if (receiptsUrl === null) return;
    await fetch(receiptsUrl, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${token}` },
      body: JSON.stringify({ reference, status, ...(reason ? { reason } : {}) }),
      signal: AbortSignal.timeout(5000),
    }).catch(() => undefined);
  };
  const soon = (ms: number, ...said: Parameters<typeof tell>) => {
    patiently(ms)
      .then(() => tell(...said))
      .catch(() => undefined);
  };

  async function take({ to, text, reference }: z.output<typeof textSchema>): Promise<Answer> {
    const { does, ms } = await moodFor(pool, 'text', to);
    if (does === 'hangs') return 'hangs';
    if (does === 'busy') return [503, { error: 'the gateway is busy' }];
    if (does === 'refuses') return [422, { error: `to: ${to} takes no texts` }];
    if (does === 'disordered') await tell(reference, 'delivered');
    if (does !== 'lost') await run(pool, store.standins.keepText({ number: to, body: text, reference }, clock.now()));
    if (does === 'lost') soon(0, reference, 'failed', 'the number is not in service');
    else if (does === 'disordered') soon(0, reference, 'underWay');
    else soon(does === 'late' ? ms : 0, reference, 'delivered');
    return [202, { accepted: reference }];
  }

  return startHttpStandIn(port, async ({ method, url, headers }, body) => {
    if (method !== 'POST' || url !== '/texts') return [404, { error: 'POST /texts is all there is' }];
    if (headers.authorization !== `Bearer ${token}`) return [401, { error: 'the token is not right' }];
    const parsed = textSchema.safeParse(parseJson(body.toString('utf8')));
    return parsed.success
      ? take(parsed.data)
      : [422, { error: parsed.error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`).join('; ') }];
  });
}
