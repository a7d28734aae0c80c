import { createServer } from 'node:http';
import type { Pool } from 'mysql2/promise';
import { z } from 'zod';
import type { Clock } from '../runner/index.ts';
import { keepTextQuery, run } from '../store/index.ts';
import type { StandIn } from './mail.ts';

const textSchema = z.object({ to: z.string().regex(/^\+?[0-9 ]{6,20}$/), text: z.string().min(1).max(2000), reference: z.string().min(1).max(120) });

/** A text gateway that keeps whatever it is handed. It takes JSON over HTTP with a bearer token; a repeated reference is kept once. */
export function startTextStandIn(pool: Pool, clock: Clock, port: number, token: string): Promise<StandIn> {
  const server = createServer((request, response) => {
    const answer = (status: number, body: unknown) => response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
    if (request.method !== 'POST' || request.url !== '/texts') return answer(404, { error: 'POST /texts is all there is' });
    if (request.headers.authorization !== `Bearer ${token}`) return answer(401, { error: 'the token is not right' });
    const parts: Buffer[] = [];
    request.on('data', (part: Buffer) => parts.push(part));
    request.on('end', () => {
      take(Buffer.concat(parts).toString('utf8')).then(([status, body]) => answer(status, body), () => answer(500, { error: 'the text could not be kept' }));
    });
  });
  const take = async (body: string): Promise<[number, unknown]> => {
    const parsed = textSchema.safeParse(parseJson(body));
    if (!parsed.success) return [422, { error: parsed.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join('; ') }];
    await run(pool, keepTextQuery({ number: parsed.data.to, body: parsed.data.text, reference: parsed.data.reference }, clock.now()));
    return [202, { accepted: parsed.data.reference }];
  };
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve({ close: () => new Promise((done) => { server.close(() => done()); server.closeAllConnections(); }) }));
  });
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
