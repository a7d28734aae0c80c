import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { type NextFunction, type Request, type Response, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { type Demo, type Me, signInSchema } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import {
  closeSessionQuery,
  one,
  openSessionQuery,
  personForSignInQuery,
  run,
  sessionQuery,
  sweepSessionsQuery,
  unreadQuery,
} from '../store/index.ts';
import { caller, type Context, take, when } from './context.ts';

const COOKIE = 'ojo-session';
const DAYS = 14;
/** The hash of a password that nobody has, verified where the name is unknown, so that the answer takes as long as for a known one. */
const nobodysHash = hash(randomBytes(32), { memoryCost: 19_456, timeCost: 2, parallelism: 1 });

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

function tokenOf(request: Request): string | null {
  const found = /(?:^|;\s*)ojo-session=([a-f0-9]{64})/.exec(request.headers.cookie ?? '');
  return found?.[1] ?? null;
}

/** Lets only requests of somebody signed in through; writes must come from Ojo's own pages. */
export function requireSession(context: Context) {
  return async (request: Request, response: Response, next: NextFunction) => {
    const token = tokenOf(request);
    const session = token
      ? await one<{ person_id: string }>(context.pool, sessionQuery(hashOf(token), context.clock.now()))
      : undefined;
    const directory = await context.directory.current(context.pool);
    const me = session && directory.people.get(session.person_id);
    if (!me) throw new Refusal('notSignedIn');
    response.locals.caller = { me, directory };
    next();
  };
}

/** Refuses writes that another site's page sends with this browser's cookie. */
export function requireOwnPage(request: Request, _response: Response, next: NextFunction): void {
  const site = request.headers['sec-fetch-site'];
  const isRead = request.method === 'GET' || request.method === 'HEAD';
  if (!isRead && site !== undefined && site !== 'same-origin' && site !== 'none') throw new Refusal('notAllowed');
  next();
}

export function sessionRoutes(context: Context): Router {
  const routes = Router();
  const limit = rateLimit({
    windowMs: 60_000,
    limit: 30,
    standardHeaders: true,
    legacyHeaders: false,
    skipSuccessfulRequests: true,
    handler: () => {
      throw new Refusal('tooMany');
    },
  });

  routes.post('/session', limit, async (request, response) => {
    const { name, password } = take(signInSchema, request.body);
    const person = await one<{ id: string; password_hash: string; is_active: number }>(
      context.pool,
      personForSignInQuery(name),
    );
    const fits = await verify(person?.password_hash ?? (await nobodysHash), password).catch(() => false);
    if (!person || !fits || person.is_active !== 1) throw new Refusal('badSignIn');
    const token = randomBytes(32).toString('hex');
    const now = context.clock.now();
    await run(context.pool, sweepSessionsQuery(now));
    await run(context.pool, openSessionQuery(hashOf(token), person.id, now + DAYS * 86_400_000));
    response.cookie(COOKIE, token, {
      httpOnly: true,
      sameSite: 'lax',
      secure: context.isSecure,
      maxAge: DAYS * 86_400_000,
      path: '/',
    });
    response.status(204).end();
  });

  routes.delete('/session', async (request, response) => {
    const token = tokenOf(request);
    if (token) await run(context.pool, closeSessionQuery(hashOf(token)));
    response.clearCookie(COOKIE, { path: '/' }).status(204).end();
  });

  routes.get('/session', requireSession(context), async (_request, response) => {
    const { me } = caller(response);
    const count = await one<{ unread: number }>(context.pool, unreadQuery(me.id));
    const { id, name, title, role, zone, locale } = me;
    response.json({
      id,
      name,
      title,
      role,
      zone,
      locale,
      unread: count?.unread ?? 0,
      isDemo: context.demoPassword !== null,
      now: when(context.clock.now()),
    } satisfies Me);
  });

  routes.get('/demo', async (_request, response) => {
    if (context.demoPassword === null) throw new Refusal('notFound');
    const { people } = await context.directory.current(context.pool);
    const shown = [...people.values()]
      .filter((person) => person.active)
      .map(({ id, name, title, role }) => ({ id, name, title, role }));
    response.json({ password: context.demoPassword, people: shown } satisfies Demo);
  });

  return routes;
}
