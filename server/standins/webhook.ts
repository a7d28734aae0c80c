import { timingSafeEqual } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import type { Clock } from '../kit/index.ts';
import { signatureOf } from '../delivery/index.ts';
import { run, store } from '../store/index.ts';
import { parseJson, startHttpStandIn } from './http.ts';
import type { StandIn } from './mail.ts';
import { moodFor, patiently } from './moods.ts';

/** A machine that keeps what it is told at any path, once a key. It refuses what is not signed with the secret. */
export const startWebhookStandIn = (pool: Pool, clock: Clock, port: number, secret: string): Promise<StandIn> =>
  startHttpStandIn(port, async ({ method, url = '/', headers }, body) => {
    const { does, ms } = await moodFor(pool, 'hook', url);
    if (does === 'hangs' || does === 'drops') return does;
    if (does === 'busy') return [503, { error: 'come again later' }];
    if (does === 'refuses') return [410, { error: 'nobody is here any more' }];
    if (does === 'redirects') return [302, { error: 'it is elsewhere' }, { location: '/elsewhere' }];
    if (does === 'slow') await patiently(ms);
    if (method !== 'POST') return [405, { error: 'POST is all there is' }];
    const [id, second] = [String(headers['webhook-id'] ?? ''), Number(headers['webhook-timestamp'])];
    const wanted = Buffer.from(signatureOf(id, second, body.toString('utf8'), [secret]));
    const isSigned = String(headers['webhook-signature'] ?? '')
      .split(' ')
      .map((one) => Buffer.from(one))
      .some((given) => given.length === wanted.length && timingSafeEqual(given, wanted));
    if (!isSigned) return [401, { error: 'the signature is not right' }];
    const text = body.toString('utf8');
    if (parseJson(text) === null) return [422, { error: 'the body is no JSON' }];
    await run(pool, store.standins.keepHook({ path: url, key: id, body: text }, clock.now()));
    return [202, { kept: true }];
  });
