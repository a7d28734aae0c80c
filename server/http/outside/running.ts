import { timingSafeEqual } from 'node:crypto';
import { type Request, Router } from 'express';
import { readiness } from '../../running/index.ts';
import type { Context } from '../context.ts';

/** What those who run Ojo ask of it: whether it lives, whether it can serve, and how it does. */
export function runningRoutes(context: Context): Router {
  const routes = Router();
  routes.get('/health', (_request, response) => {
    response.json({ isAlive: true });
  });
  routes.get('/ready', async (_request, response) => {
    const { isReady, against } = await readiness(context.pool, context.isClosing);
    response.status(isReady ? 200 : 503).json({ isReady, against });
  });
  routes.get('/metrics', async (request, response) => {
    if (!mayMeasure(request, context.metricsToken)) return void response.status(404).end();
    const { mediaType, text } = await context.meters.text();
    response.set('content-type', mediaType).send(text);
  });
  return routes;
}

/** Whoever shows the token; without one, whoever asks from this machine itself and not for somebody behind it. */
function mayMeasure(request: Request, token: string | null): boolean {
  if (token === null) {
    const from = request.socket.remoteAddress ?? '';
    const isHere = ['127.0.0.1', '::1', '::ffff:127.0.0.1'].includes(from);
    return isHere && request.headers['x-forwarded-for'] === undefined && request.headers.forwarded === undefined;
  }
  const [given, wanted] = [Buffer.from(request.headers.authorization ?? ''), Buffer.from(`Bearer ${token}`)];
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}
