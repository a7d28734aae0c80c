import { createHash } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';
import { Refusal } from '../../contract/problems.ts';
import { fromOrigin } from '../kit/index.ts';
import { one, store } from '../store/index.ts';
import type { Context } from './context.ts';

export const COOKIE = 'ojo-session';

export const hashOfToken = (token: string): string => createHash('sha256').update(token).digest('hex');

/** The token that a request's cookie holds. */
export function tokenOf(request: Request): string | null {
  const found = /(?:^|;\s*)ojo-session=([a-f0-9]{64})/.exec(request.headers.cookie ?? '');
  return found?.[1] ?? null;
}

/** Lets only requests of somebody signed in through. */
export function requireSession(context: Context) {
  return async (request: Request, response: Response, next: NextFunction) => {
    const token = tokenOf(request);
    const person = token
      ? await one(context.pool, store.sessions.byToken(hashOfToken(token), context.clock.now()))
      : undefined;
    const directory = await context.directory.current(context.pool);
    const me = person === undefined ? undefined : directory.people.get(person);
    if (!me) throw new Refusal('notSignedIn');
    response.locals.caller = { me, directory };
    fromOrigin(request.ip ?? '', next);
  };
}

/** Refuses writes that another site's page sends with this browser's cookie. */
export function requireOwnPage(request: Request, _response: Response, next: NextFunction): void {
  const site = request.headers['sec-fetch-site'];
  const isRead = request.method === 'GET' || request.method === 'HEAD';
  if (!isRead && site !== undefined && site !== 'same-origin' && site !== 'none') throw new Refusal('notAllowed');
  next();
}
