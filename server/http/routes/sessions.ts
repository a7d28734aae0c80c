import { randomBytes } from 'node:crypto';
import { verify } from '@node-rs/argon2';
import { rateLimit } from 'express-rate-limit';
import { Refusal } from '../../../contract/problems.ts';
import { DAY_MS, instantOf } from '../../../core/time/index.ts';
import { when } from '../../access/index.ts';
import { hashOfPassword, SettableClock } from '../../kit/index.ts';
import { inTransaction, one, rows, run, runAll, store } from '../../store/index.ts';
import type { Handlers } from '../register.ts';
import { cookieName, hashOfToken, tokenOf } from '../session.ts';
import { saveLocale } from '../../acts/index.ts';
import { localeIn } from '../../../core/locales/index.ts';

/** Somebody stays signed in for so many days where the house says nothing. */
const DAYS = 14;
/** The hash of a password that nobody has, verified where the name is unknown, so that the answer takes as long as for a known one. */
const nobodysHash = hashOfPassword(randomBytes(32));

/** Whoever tries passwords is slowed down. */
export const signInLimit = () =>
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

/** Signing in and out, and what a page knows before anybody has. */
export const openSessionHandlers: Handlers<'session.open' | 'session.close' | 'session.demo'> = {
  async 'session.open'({ pool, clock, isSecure }, { body: { name, password }, request, response }) {
    const person = await one(pool, store.sessions.person(name));
    const fits = await verify(person?.passwordHash ?? (await nobodysHash), password).catch(() => false);
    const now = clock.now();
    const origin = request.ip ?? null;
    if (!person?.isActive || !fits) {
      // A name that is nobody's may be a password typed in the wrong place: it is not written down.
      const actor = person?.id ?? '';
      await run(pool, store.audit.add({ at: now, kind: 'signInRefused', actor, origin, about: {} }));
      throw new Refusal('badSignIn');
    }
    const token = randomBytes(32).toString('hex');
    await run(pool, store.sessions.sweep(now));
    const days = (await rows(pool, store.keeping.days())).find(({ what }) => what === 'sessions')?.days ?? DAYS;
    await inTransaction(pool, (on) =>
      runAll(on, [
        store.sessions.open(hashOfToken(token), person.id, now + days * DAY_MS),
        store.audit.add({ at: now, kind: 'signedIn', actor: person.id, origin, about: {} }),
      ]),
    );
    response.cookie(cookieName({ isSecure }), token, {
      httpOnly: true,
      sameSite: 'lax',
      secure: isSecure,
      maxAge: days * DAY_MS,
      path: '/',
    });
  },

  async 'session.close'({ pool, clock, hub, isSecure }, { request, response }) {
    const token = tokenOf(request, { isSecure });
    const now = clock.now();
    const person = token ? await one(pool, store.sessions.byToken(hashOfToken(token), now)) : undefined;
    if (token && person !== undefined)
      await inTransaction(pool, (on) =>
        runAll(on, [
          store.sessions.close(hashOfToken(token)),
          store.audit.add({ at: now, kind: 'signedOut', actor: person, origin: request.ip ?? null, about: {} }),
        ]),
      );
    if (token) hub.end(new Set([hashOfToken(token)]));
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
  async 'session.me'({ pool, clock, demoPassword }, { asking: { me } }) {
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
