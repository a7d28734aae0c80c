import { createServer, type IncomingMessage } from 'node:http';
import type { StandIn } from './mail.ts';

/** An answer in JSON, with headers where it needs any; `hangs` is none at all, `drops` cuts the line. */
export type Answer = [status: number, body: unknown, headers?: Record<string, string>] | 'hangs' | 'drops';

/** A stand-in that speaks HTTP on loopback: it is handed each request with its whole body. */
export function startHttpStandIn(
  port: number,
  answer: (request: IncomingMessage, body: Buffer) => Promise<Answer>,
): Promise<StandIn> {
  const server = createServer((request, response) => {
    const parts: Buffer[] = [];
    request.on('data', (part: Buffer) => parts.push(part));
    request.on('end', () => {
      const done = (given: Answer) => {
        if (given === 'hangs') return;
        if (given === 'drops') return void request.socket.destroy();
        const [status, body, headers = {}] = given;
        response.writeHead(status, { 'content-type': 'application/json', ...headers }).end(JSON.stringify(body));
      };
      answer(request, Buffer.concat(parts)).then(done, () => done([500, { error: 'it could not be kept' }]));
    });
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () =>
      resolve({
        close: () =>
          new Promise((done) => {
            server.close(() => done());
            server.closeAllConnections();
          }),
      }),
    );
  });
}

/** JSON as it was sent; `null` for what is none. */
export function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
