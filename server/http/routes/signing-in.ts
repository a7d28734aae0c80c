import type { Request } from 'express';
import { type FaultAt, Refusal } from '../../../contract/problems.ts';
import type { Caller } from '../../access/index.ts';
import { whenOrNull } from '../../access/index.ts';
import { digestOfToken, hashOfPassword, originNow } from '../../kit/index.ts';
import { beginSecond, guessedCode, isOwnPassword, putOnSecond, secondOf, weakness } from '../../signing-in/index.ts';
import {
  type AskedOf,
  inTransaction,
  one,
  rows,
  runAll,
  type Session,
  type Statement,
  store,
} from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';
import { tokenOf } from '../session.ts';

/** So much of a session's hash says which it is. */
const NAMED = 16;
const idOf = ({ hash }: Pick<Session, 'hash'>): string => hash.slice(0, NAMED);

const faulty = (code: string, path: string): Refusal => {
  const fault: FaultAt = { code, path, params: {} };
  return new Refusal('badValues', { faults: [fault] });
};

/** Refuses whoever does not know the password of whom they are signed in as: an open page may be anybody's. */
async function expectOwn(context: Context, { me }: Caller, old: string): Promise<void> {
  if (!(await isOwnPassword(context, me.id, old))) throw faulty('notYourPassword', 'old');
}

const hashHere = (context: Context, request: Request): string => digestOfToken(tokenOf(request, context) ?? '');

const isAskedOf = (of: AskedOf, { me }: Caller): boolean =>
  of === 'everybody' || (of === 'stewards' && me.role === 'steward');

/** How one signs in oneself: the password, a second factor, and where one is signed in. */
export const signingInHandlers: Handlers<
  | 'signingIn.read'
  | 'signingIn.password'
  | 'signingIn.beginSecond'
  | 'signingIn.putOnSecond'
  | 'signingIn.dropSecond'
  | 'signingIn.end'
  | 'signingIn.endOthers'
  | 'signingIn.ask'
> = {
  async 'signingIn.read'(context, { asking, request }) {
    const { pool, clock } = context;
    const [second, sessions, askedOf = 'nobody'] = await Promise.all([
      secondOf(context, asking.me.id),
      rows(pool, store.sessions.ofPerson(asking.me.id, clock.now())),
      one(pool, store.secondFactors.askedOf()),
    ]);
    const here = hashHere(context, request);
    return {
      second: {
        since: whenOrNull(second?.since ?? null),
        spare: second?.spareCodes.length ?? 0,
        isAsked: isAskedOf(askedOf, asking),
        askedOf,
      },
      sessions: sessions.map((session) => ({
        id: idOf(session),
        openedAt: whenOrNull(session.openedAt),
        seenAt: whenOrNull(session.seenAt),
        agent: session.agent,
        origin: session.origin,
        isThis: session.hash === here,
      })),
    };
  },

  async 'signingIn.password'(context, { body: { old, password }, asking, request }) {
    await expectOwn(context, asking, old);
    const faults = await weakness(password, asking.me);
    if (faults.length > 0) throw new Refusal('badValues', { faults });
    const hash = await hashOfPassword(password);
    await endOthers(context, asking, request, 'passwordChosen', [store.accounts.changePassword(asking.me.id, hash)]);
  },

  async 'signingIn.beginSecond'(context, { body: { old }, asking: caller }) {
    await expectOwn(context, caller, old);
    const { id, email } = caller.me;
    return beginSecond(context, { id, label: email ?? id, site: context.site.name });
  },

  async 'signingIn.putOnSecond'(context, { body: { code }, asking }) {
    const codes = await guessedCode(context, asking.me.id, () => putOnSecond(context, asking.me.id, code));
    if (codes === null) throw faulty('notTheCode', 'code');
    await keep(context, asking, 'secondFactorChanged', { name: asking.me.name }, []);
    return { codes };
  },

  async 'signingIn.dropSecond'(context, { body: { old }, asking }) {
    await expectOwn(context, asking, old);
    await keep(context, asking, 'secondFactorChanged', { name: asking.me.name }, [
      store.secondFactors.drop(asking.me.id),
    ]);
  },

  async 'signingIn.end'(context, { params, asking }) {
    const { pool, clock } = context;
    const own = await rows(pool, store.sessions.ofPerson(asking.me.id, clock.now()));
    const ended = own.find((session) => idOf(session) === params.id);
    if (!ended) throw new Refusal('notFound');
    await keep(context, asking, 'sessionsEnded', {}, [store.sessions.close(ended.hash)]);
    context.hub.end(new Set([ended.hash]));
  },

  async 'signingIn.endOthers'(context, { asking, request }) {
    await endOthers(context, asking, request, 'sessionsEnded', []);
  },

  async 'signingIn.ask'(context, { body: { of }, asking }) {
    if (asking.me.role !== 'steward') throw new Refusal('notAllowed', { because: 'askedForStewards' });
    // Whoever asks it of themselves and has none would stand outside at once.
    if (isAskedOf(of, asking) && !(await secondOf(context, asking.me.id)))
      throw new Refusal('notAllowed', { because: 'putYoursOnFirst' });
    await keep(context, asking, 'secondFactorChanged', { of }, [store.secondFactors.ask(of)]);
  },
};

/** Ends all sessions of whoever asks but the one they ask in, together with what else is done; their open pages end at once. */
async function endOthers(
  context: Context,
  asking: Caller,
  request: Request,
  kind: 'passwordChosen' | 'sessionsEnded',
  statements: Statement[],
): Promise<void> {
  const here = hashHere(context, request);
  const own = await rows(context.pool, store.sessions.ofPerson(asking.me.id, context.clock.now()));
  await keep(context, asking, kind, {}, [...statements, store.sessions.closeOthers(asking.me.id, here)]);
  context.hub.end(new Set(own.map(({ hash }) => hash).filter((hash) => hash !== here)));
}

/** Keeps it, with an entry of the audit trail. */
const keep = (
  { pool, clock }: Context,
  { me }: Caller,
  kind: 'passwordChosen' | 'secondFactorChanged' | 'sessionsEnded',
  about: Record<string, string>,
  statements: Statement[],
): Promise<unknown> =>
  inTransaction(pool, (on) =>
    runAll(on, [...statements, store.audit.add({ at: clock.now(), kind, actor: me.id, origin: originNow(), about })]),
  );
