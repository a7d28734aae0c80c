import { createHash } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';
import { Refusal } from '../../contract/problems.ts';
import { fromOrigin } from '../kit/index.ts';
import { one, run, store } from '../store/index.ts';
import type { Context } from './context.ts';

/** The cookie that holds a session; over TLS one that no other host can plant (RFC 6265bis, cookie name prefixes). */
export const cookieName = ({ isSecure }: Pick<Context, 'isSecure'>): string =>
  isSecure ? '__Host-ojo-session' : 'ojo-session';

/** How personal tokens begin. */
export const TOKEN = 'ojo-token-';

export const hashOfToken = (token: string): string => createHash('sha256').update(token).digest('hex');

/** The token that a request's cookie holds. */
export function tokenOf(request: Request, context: Pick<Context, 'isSecure'>): string | null {
  const cookies = (request.headers.cookie ?? '').split(/;\s*/);
  const found = cookies.find((cookie) => cookie.startsWith(`${cookieName(context)}=`));
  return /=([a-f0-9]{64})$/.exec(found ?? '')?.[1] ?? null;
}

/** Lets only requests of somebody signed in through. */
export function requireSession(context: Context) {
  return async (request: Request, response: Response, next: NextFunction) => {
    const asks = await whoAsks(context, request);
    const person = asks?.person;
    const directory = await context.directory.current(context.pool);
    const me = person === undefined ? undefined : directory.people.get(person);
    if (!me) throw new Refusal('notSignedIn');
    response.locals.caller = { me, directory };
    response.locals.isByToken = asks?.isByToken === true;
    fromOrigin(request.ip ?? '', next);
  };
}

/** Whoever is signed in, or whose token a program shows. */
async function whoAsks(
  context: Context,
  request: Request,
): Promise<{ person: string | undefined; isByToken: boolean } | undefined> {
  const { pool, clock } = context;
  const shown = /^Bearer (ojo-token-[0-9a-f]{48})$/.exec(request.get('authorization') ?? '')?.[1];
  if (shown === undefined) {
    const token = tokenOf(request, context);
    if (!token) return undefined;
    return { person: await one(pool, store.sessions.byToken(hashOfToken(token), clock.now())), isByToken: false };
  }
  const found = await one(pool, store.tokens.byHash(hashOfToken(shown), clock.now()));
  if (!found) return undefined;
  const isRead = request.method === 'GET' || request.method === 'HEAD';
  if (!isRead && found.scope === 'read') throw new Refusal('notAllowed', { because: 'tokenReadsAlone' });
  await run(pool, store.tokens.note(found.id, clock.now()));
  return { person: found.person, isByToken: true };
}

/** Refuses writes that another site's page sends with this browser's cookie. */
export function requireOwnPage(request: Request, _response: Response, next: NextFunction): void {
  const site = request.headers['sec-fetch-site'];
  const isRead = request.method === 'GET' || request.method === 'HEAD';
  if (!isRead && site !== undefined && site !== 'same-origin' && site !== 'none') throw new Refusal('notAllowed');
  next();
}
