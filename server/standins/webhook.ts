import { timingSafeEqual } from 'node:crypto';
import type { IncomingHttpHeaders } from 'node:http';
import type { Pool } from 'mysql2/promise';
import type { Moods } from '../../contract/wire/index.ts';
import type { Clock } from '../kit/index.ts';
import { signatureOf } from '../delivery/index.ts';
import { run, store } from '../store/index.ts';
import { type Answer, parseJson, startHttpStandIn } from './http.ts';
import type { StandIn } from './mail.ts';
import { moodFor, patiently } from './moods.ts';

/** What it answers in each mood in which it takes nothing; in the others it looks at what it was handed. */
const MOODY: Record<Moods['hook']['does'], Answer | null> = {
  takes: null,
  slow: null,
  busy: [503, { error: 'come again later' }],
  refuses: [410, { error: 'nobody is here any more' }],
  redirects: [302, { error: 'it is elsewhere' }, { location: '/elsewhere' }],
  drops: 'drops',
  hangs: 'hangs',
};

/** A machine that keeps what it is told at any path, once a key. It refuses what is not signed with the secret. */
export const startWebhookStandIn = (pool: Pool, clock: Clock, port: number, secret: string): Promise<StandIn> =>
  startHttpStandIn(port, async ({ method, url = '/', headers }, bytes) => {
    const { does, ms } = await moodFor(pool, 'hook', url);
    const moody = MOODY[does];
    if (moody) return moody;
    if (does === 'slow') await patiently(ms);
    if (method !== 'POST') return [405, { error: 'POST is all there is' }];
    const body = bytes.toString('utf8');
    if (!isSigned(headers, body, secret)) return [401, { error: 'the signature is not right' }];
    const isJson = /json/.test(String(headers['content-type'] ?? ''));
    if (isJson && parseJson(body) === null) return [422, { error: 'the body is no JSON' }];
    await run(pool, store.standins.keepHook({ path: url, key: String(headers['webhook-id']), body }, clock.now()));
    return [202, { kept: true }];
  });

/** Whether one of the signatures that it bears is right (Standard Webhooks 1.0). */
function isSigned(headers: IncomingHttpHeaders, body: string, secret: string): boolean {
  const [id, second] = [String(headers['webhook-id'] ?? ''), Number(headers['webhook-timestamp'])];
  const wanted = Buffer.from(signatureOf(id, second, body, [secret]));
  return String(headers['webhook-signature'] ?? '')
    .split(' ')
    .map((one) => Buffer.from(one))
    .some((given) => given.length === wanted.length && timingSafeEqual(given, wanted));
}
