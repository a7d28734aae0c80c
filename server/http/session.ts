import type { NextFunction, Request, Response } from 'express';
import { Refusal } from '../../contract/problems.ts';
import { MINUTE_MS } from '../../core/time/index.ts';
import { digestOfToken, fromOrigin } from '../kit/index.ts';
import { one, run, store } from '../store/index.ts';
import type { Context } from './context.ts';

/** A cookie's name; over TLS one that no other host can plant (RFC 6265bis, cookie name prefixes). */
export const ownName = (name: string, { isSecure }: Pick<Context, 'isSecure'>): string =>
  isSecure ? `__Host-${name}` : name;

/** The cookie that holds a session. */
export const cookieName = (context: Pick<Context, 'isSecure'>): string => ownName('ojo-session', context);
/** The cookie by which a browser is known in which somebody has signed in before. */
export const knownName = (context: Pick<Context, 'isSecure'>): string => ownName('ojo-known', context);

/** How personal tokens begin. */
export const TOKEN = 'ojo-token-';

/** What a cookie of that name holds; the empty string where there is none. */
export function cookieOf(request: Request, name: string): string {
  const cookies = (request.headers.cookie ?? '').split(/;\s*/);
  const found = cookies.find((cookie) => cookie.startsWith(`${name}=`));
  return found?.slice(name.length + 1) ?? '';
}

/** The token that a request's cookie holds. */
export const tokenOf = (request: Request, context: Pick<Context, 'isSecure'>): string | null =>
  /^[a-f0-9]{64}$/.exec(cookieOf(request, cookieName(context)))?.[0] ?? null;

/** Who asks, by what, and what they owe first. */
interface Asking {
  person: string | undefined;
  isByToken: boolean;
  owesSecond: boolean;
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
    response.locals.owesSecond = asks?.owesSecond === true;
    fromOrigin(request.ip ?? '', next);
  };
}

/** Whoever is signed in, or whose token a program shows. */
async function whoAsks(context: Context, request: Request): Promise<Asking | undefined> {
  const { pool, clock } = context;
  const now = clock.now();
  const shown = /^Bearer (ojo-token-[0-9a-f]{48})$/.exec(request.get('authorization') ?? '')?.[1];
  if (shown === undefined) {
    const token = tokenOf(request, context);
    const hash = token && digestOfToken(token);
    const session = hash ? await one(pool, store.sessions.byToken(hash, now)) : undefined;
    // Somebody who sees when a session was used last needs no more than the minute.
    if (hash && session && session.seenAt < now - MINUTE_MS) await run(pool, store.sessions.note(hash, now));
    return session && { ...session, isByToken: false };
  }
  const found = await one(pool, store.tokens.byHash(digestOfToken(shown), now));
  if (!found) return undefined;
  const isRead = request.method === 'GET' || request.method === 'HEAD';
  if (!isRead && found.scope === 'read') throw new Refusal('notAllowed', { because: 'tokenReadsAlone' });
  await run(pool, store.tokens.note(found.id, now));
  return { person: found.person, isByToken: true, owesSecond: false };
}

/** Refuses writes that another site's page sends with this browser's cookie. */
export function requireOwnPage(request: Request, _response: Response, next: NextFunction): void {
  const site = request.headers['sec-fetch-site'];
  const isRead = request.method === 'GET' || request.method === 'HEAD';
  if (!isRead && site !== undefined && site !== 'same-origin' && site !== 'none') throw new Refusal('notAllowed');
  next();
}
