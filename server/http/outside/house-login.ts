import { type Request, type Response, Router } from 'express';
import { escapeHtml, phrasesFor } from '../../../core/messages/index.ts';
import { LANGUAGES } from '../../../core/locales/index.ts';
import type { NotIn } from '../../signing-in/index.ts';
import type { Context } from '../context.ts';
import { signInHere } from '../routes/sessions.ts';
import { cookieOf, ownName } from '../session.ts';
import { paragraph, sendPage } from './page.ts';

/** Whoever goes to the provider has so long to come back, in ms. */
const AWAY_MS = 10 * 60_000;

/** Signing in by the house's own identity provider: there and back. */
export function houseLogin(context: Context): Router {
  const routes = Router();
  const { login, isSecure } = context;
  if (!login) return routes;
  const cookie = ownName('ojo-login', context);
  const kept = { httpOnly: true, sameSite: 'lax', secure: isSecure, path: '/' } as const;

  routes.get('/sign-in/house', async (request, response) => {
    const begun = await login.begin();
    if ('why' in begun) return sayNotIn(context, request, response, begun);
    response.cookie(cookie, begun.kept, { ...kept, maxAge: AWAY_MS, encode: String });
    response.set('cache-control', 'no-store').redirect(302, begun.to);
  });

  routes.get('/sign-in/house/back', async (request, response) => {
    const at = request.originalUrl.indexOf('?');
    const query = at < 0 ? '' : request.originalUrl.slice(at);
    response.clearCookie(cookie, kept);
    const directory = await context.directory.current(context.pool);
    const found = await login.end(query, cookieOf(request, cookie), directory);
    if ('why' in found) return sayNotIn(context, request, response, found);
    await signInHere(context, found.id, { request, response, isByHouse: true });
    response.set('cache-control', 'no-store').redirect(302, '/today');
  });
  return routes;
}

function sayNotIn(context: Context, request: Request, response: Response, notIn: NotIn): void {
  const phrases = phrasesFor(request.acceptsLanguages([...LANGUAGES]) || undefined);
  const words = {
    refused: () => phrases.say('login.refused', { said: notIn.why === 'refused' ? notIn.said.slice(0, 200) : '' }),
    noAddress: () => phrases.say('login.noAddress'),
    nobody: () => phrases.say('login.nobody', { email: notIn.why === 'nobody' ? notIn.email.slice(0, 254) : '' }),
    begunElsewhere: () => phrases.say('login.begunElsewhere'),
    away: () => phrases.say('login.away'),
  };
  if (notIn.why === 'away') context.log.warn({ said: notIn.said }, 'the house’s own sign-in could not be reached');
  const again = `<p><a href="/">${escapeHtml(phrases.say('login.toSignIn'))}</a></p>`;
  const page = {
    status: notIn.why === 'away' ? 503 : 403,
    title: phrases.say('login.notIn'),
    parts: [paragraph(words[notIn.why]()), again],
  };
  sendPage(response, page, context.site.name, phrases);
}
