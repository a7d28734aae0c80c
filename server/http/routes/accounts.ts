import { Refusal } from '../../../contract/problems.ts';
import type { Caller } from '../../access/index.ts';
import {
  accountPage,
  addAccount,
  addGroup,
  dropGroup,
  groupRows,
  previewAccount,
  previewGroup,
  saveAccount,
  saveGroup,
  saveStarts,
  startsPage,
  welcomeLink,
} from '../../acts/index.ts';
import { hashOfPassword, originNow } from '../../kit/index.ts';
import { secondOf, weakness } from '../../signing-in/index.ts';
import { inTransaction, one, type Profile, run, runAll, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';

/** Accounts, as stewards set them up. */
export const accountHandlers: Handlers<
  'accounts.add' | 'accounts.read' | 'accounts.preview' | 'accounts.save' | 'accounts.welcome' | 'accounts.dropSecond'
> = {
  async 'accounts.add'(context, { body, asking }) {
    expectSteward(asking);
    const id = await addAccount(context, body, asking);
    return { id, link: await welcomeLink({ ...context, base: context.site.base }, id) };
  },

  async 'accounts.read'(context, { params, asking }) {
    expectSteward(asking);
    const person = knownPerson(params.id, asking);
    const hasSecond = (await secondOf(context, person.id)) !== null;
    return { ...accountPage(person, asking.directory, context.clock.now()), hasSecond };
  },

  async 'accounts.preview'(context, { params, body, asking }) {
    expectSteward(asking);
    return previewAccount(context, knownPerson(params.id, asking), body, asking);
  },

  async 'accounts.save'(context, { params, body, asking }) {
    expectSteward(asking);
    await saveAccount(context, knownPerson(params.id, asking), body, asking);
  },

  /** A new page to choose a password on; those before it open no more. */
  async 'accounts.welcome'(context, { params, asking }) {
    expectSteward(asking);
    const { id, active } = knownPerson(params.id, asking);
    if (!active) throw new Refusal('badRequest', { because: 'hasLeft' });
    return { id, link: await welcomeLink({ ...context, base: context.site.base }, id) };
  },

  /** Somebody signs in by their password alone, until they put one on anew. */
  async 'accounts.dropSecond'({ pool, clock }, { params, asking }) {
    expectSteward(asking);
    const { id, name } = knownPerson(params.id, asking);
    const said = { kind: 'secondFactorChanged', actor: asking.me.id, origin: originNow(), about: { name } } as const;
    await inTransaction(pool, (on) =>
      runAll(on, [store.secondFactors.drop(id), store.audit.add({ at: clock.now(), ...said })]),
    );
  },
};

function expectSteward({ me }: Caller): void {
  if (me.role !== 'steward') throw new Refusal('notAllowed', { because: 'peopleAreForStewards' });
}

function knownPerson(id: string, { directory }: Caller): Profile {
  const person = directory.people.get(id);
  if (!person) throw new Refusal('notFound');
  return person;
}

/** The page on which somebody chooses their password: it opens once, for whoever has its address. */
export const welcomeHandlers: Handlers<'welcome.read' | 'welcome.choose'> = {
  async 'welcome.read'(context, { params }) {
    const { person } = await welcomed(context, params.token);
    return { name: person.name, signsInAs: person.email ?? person.id };
  },

  async 'welcome.choose'(context, { params, body: { password }, request }) {
    const { pool, clock } = context;
    const { person, number } = await welcomed(context, params.token);
    const faults = await weakness(password, person);
    if (faults.length > 0) throw new Refusal('badValues', { faults });
    const hash = await hashOfPassword(password);
    await inTransaction(pool, async (on) => {
      const chosen = await run(on, store.accounts.choosePassword(person.id, number, hash));
      if (chosen.affectedRows === 0) throw new Refusal('badRequest', { because: 'welcomeUsed' });
      await runAll(on, [
        // Whoever signed in by the password before has to know the new one.
        store.accounts.endSessions(person.id),
        store.audit.add({
          at: clock.now(),
          kind: 'passwordChosen',
          actor: person.id,
          origin: request.ip ?? null,
          about: {},
        }),
      ]);
    });
  },
};

async function welcomed(
  { pool, clock, signedLinks, directory }: Context,
  token: string,
): Promise<{ person: Profile; number: number }> {
  const opened = await signedLinks.open(token, 'welcome', clock.now());
  if (opened === null) throw new Refusal('notFound');
  if (opened === 'expired') throw new Refusal('badRequest', { because: 'welcomeExpired' });
  const person = (await directory.current(pool)).people.get(opened.person);
  if (!person?.active) throw new Refusal('notFound');
  if ((await one(pool, store.accounts.welcomeNumber(person.id))) !== opened.number)
    throw new Refusal('badRequest', { because: 'welcomeUsed' });
  return { person, number: opened.number };
}

/** Groups of people, and the plans that people start with, as stewards set them up. */
export const groupHandlers: Handlers<
  'groups.list' | 'groups.add' | 'groups.preview' | 'groups.save' | 'groups.drop' | 'starts.read' | 'starts.save'
> = {
  async 'groups.list'({ clock }, { asking }) {
    expectSteward(asking);
    return groupRows(asking.directory, clock.now());
  },

  async 'groups.add'(context, { body, asking }) {
    expectSteward(asking);
    return { id: await addGroup(context, body, asking) };
  },

  async 'groups.preview'(context, { params, body, asking }) {
    expectSteward(asking);
    return previewGroup(context, params.id, body, asking);
  },

  async 'groups.save'(context, { params, body, asking }) {
    expectSteward(asking);
    await saveGroup(context, params.id, body, asking);
  },

  async 'groups.drop'(context, { params, asking }) {
    expectSteward(asking);
    await dropGroup(context, params.id, asking);
  },

  async 'starts.read'(_context, { asking }) {
    expectSteward(asking);
    return startsPage(asking.directory);
  },

  async 'starts.save'(context, { body, asking }) {
    expectSteward(asking);
    await saveStarts(context, body, asking);
  },
};
