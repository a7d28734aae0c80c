import type { Pool } from 'mysql2/promise';
import { z } from 'zod';
import type { Clock } from '../kit/index.ts';
import { run, store } from '../store/index.ts';
import { parseJson, startHttpStandIn } from './http.ts';
import type { StandIn } from './mail.ts';

const textSchema = z.object({
  to: z.string().regex(/^\+?[0-9 ]{6,20}$/),
  text: z.string().min(1).max(2000),
  reference: z.string().min(1).max(120),
});

/** A text gateway that keeps whatever it is handed. It takes JSON over HTTP with a bearer token; a repeated reference is kept once. */
export const startTextStandIn = (pool: Pool, clock: Clock, port: number, token: string): Promise<StandIn> =>
  startHttpStandIn(port, async ({ method, url, headers }, body) => {
    if (method !== 'POST' || url !== '/texts') return [404, { error: 'POST /texts is all there is' }];
    if (headers.authorization !== `Bearer ${token}`) return [401, { error: 'the token is not right' }];
    const parsed = textSchema.safeParse(parseJson(body.toString('utf8')));
    if (!parsed.success)
      return [
        422,
        { error: parsed.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join('; ') },
      ];
    await run(
      pool,
      store.standins.keepText(
        { number: parsed.data.to, body: parsed.data.text, reference: parsed.data.reference },
        clock.now(),
      ),
    );
    return [202, { accepted: parsed.data.reference }];
  });
