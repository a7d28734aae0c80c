import { randomBytes } from 'node:crypto';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import type { Request, Response } from 'express';
import { Refusal } from '../../../contract/problems.ts';
import { DAY_MS, instantOf } from '../../../core/time/index.ts';
import { when } from '../../access/index.ts';
import { digestOfToken, SettableClock } from '../../kit/index.ts';
import { inTransaction, one, run, runAll, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';
import { cookieName, cookieOf, knownName, tokenOf } from '../session.ts';
import { saveLocale } from '../../acts/index.ts';
import { localeIn } from '../../../core/locales/index.ts';
import { openSession, secondOf, takesSecond, whoSignsIn } from '../../signing-in/index.ts';

/** Whoever opens pages on which passwords are chosen is slowed down. */
export const welcomeLimit = () =>
  rateLimit({
    windowMs: 60_000,
    limit: 30,
    standardHeaders: true,
    legacyHeaders: false,
    skipSuccessfulRequests: true,
    skip: (request) => request.method !== 'POST',
    handler: () => {
      throw new Refusal('tooMany');
    },
  });

/** A browser in which somebody has signed in is known for so long, in ms. */
const KNOWN_MS = 365 * DAY_MS;

/** Signs somebody in, in the browser that asks: a cookie for the session, and one by which the browser is known. */
export async function signInHere(
  context: Context,
  person: string,
  { request, response, isByHouse = false }: { request: Request; response: Response; isByHouse?: boolean },
): Promise<void> {
  const { clock, signedLinks, isSecure } = context;
  const from = { agent: request.get('user-agent') ?? '', origin: request.ip ?? null, isByHouse };
  const { token, lasts } = await openSession(context, person, from);
  const kept = { httpOnly: true, sameSite: 'lax', secure: isSecure, path: '/' } as const;
  response.cookie(cookieName(context), token, { ...kept, maxAge: lasts });
  const browser = (await knownBrowser(context, request))?.browser ?? randomBytes(16).toString('hex');
  const known = await signedLinks.sign({ do: 'known', person, browser }, clock.now());
  response.cookie(knownName(context), known, { ...kept, maxAge: KNOWN_MS });
}

/** The browser that asks, where somebody has signed in there before, and who that was. */
async function knownBrowser(context: Context, request: Request): Promise<{ person: string; browser: string } | null> {
  const held = cookieOf(request, knownName(context));
  const known = held === '' ? null : await context.signedLinks.open(held, 'known', context.clock.now());
  return known === 'expired' ? null : known;
}

/** Signing in and out, and what a page knows before anybody has. */
export const openSessionHandlers: Handlers<'session.open' | 'session.close' | 'session.demo' | 'session.ways'> = {
  'session.ways': ({ login }) => ({ house: login?.name ?? null }),

  async 'session.open'(context, { body: { name, password, code }, request, response }) {
    const { pool, clock } = context;
    const further = async (id: string): Promise<boolean> => {
      const second = await secondOf({ pool }, id);
      if (!second) return true;
      if (code === undefined) throw new Refusal('codeNeeded');
      return takesSecond({ pool, clock }, id, second, code);
    };
    const network = ipKeyGenerator(request.ip ?? '');
    const known = await knownBrowser(context, request);
    const { person, named } = await whoSignsIn(context, { name, password, network, known }, further);
    if (person !== null) {
      await signInHere(context, person, { request, response });
      return;
    }
    // A name that is nobody's may be a password typed in the wrong place: it is not written down.
    const refused = { kind: 'signInRefused', actor: named ?? '', origin: request.ip ?? null, about: {} } as const;
    await run(pool, store.audit.add({ at: clock.now(), ...refused }));
    throw new Refusal(code === undefined ? 'badSignIn' : 'badCode');
  },

  async 'session.close'({ pool, clock, hub, isSecure }, { request, response }) {
    const token = tokenOf(request, { isSecure });
    const now = clock.now();
    const session = token ? await one(pool, store.sessions.byToken(digestOfToken(token), now)) : undefined;
    if (token && session)
      await inTransaction(pool, (on) =>
        runAll(on, [
          store.sessions.close(digestOfToken(token)),
          store.audit.add({ at: now, kind: 'signedOut', actor: session.person, origin: request.ip ?? null, about: {} }),
        ]),
      );
    if (token) hub.end(new Set([digestOfToken(token)]));
    response.clearCookie(cookieName({ isSecure }), { path: '/', secure: isSecure });
  },

  async 'session.demo'({ pool, directory, demoPassword }) {
    if (demoPassword === null) throw new Refusal('notFound');
    const { people } = await directory.current(pool);
    const shown = [...people.values()].filter((person) => person.active);
    return { password: demoPassword, people: shown.map(({ id, name, title, role }) => ({ id, name, title, role })) };
  },
};

export const sessionHandlers: Handlers<'session.me' | 'session.speak'> = {
  async 'session.me'({ pool, clock, demoPassword }, { asking: { me }, response }) {
    const { id, name, title, role, zone, locale } = me;
    return {
      id,
      name,
      title,
      role,
      zone,
      locale,
      unread: (await one(pool, store.messages.unread(id))) ?? 0,
      isDemo: demoPassword !== null,
      owesSecond: response.locals.owesSecond === true,
      now: when(clock.now()),
    };
  },

  async 'session.speak'(context, { body: { language }, asking: { me } }) {
    await saveLocale(context, me.id, localeIn(language, me.locale));
  },
};

/** Only a server started with a clock that can be set has this. */
export const testHandlers: Handlers<'test.clock'> = {
  'test.clock'({ clock, wake }, { body }) {
    if (!(clock instanceof SettableClock)) throw new Refusal('notFound');
    clock.set(instantOf(body.now));
    wake();
    return { now: when(clock.now()) };
  },
};
