import { DAY_MS, HOUR_MS } from '../../../core/time/index.ts';
import { Refusal } from '../../../contract/problems.ts';
import { ownChannelSchema } from '../../../contract/wire/index.ts';
import { trialContent } from '../../../core/messages/index.ts';
import type { Contact } from '../../../core/people/index.ts';
import { type Caller, cameBackOf, when, whenOrNull } from '../../access/index.ts';
import {
  addContact,
  askContact,
  askOwnAddress,
  contactOf,
  dropContact,
  renameContact,
  resumeAddresses,
  sendTrial,
} from '../../acts/index.ts';
import { e164 } from '../../kit/index.ts';
import { type AddressAsk, inTransaction, one, rows, run, runAll, store } from '../../store/index.ts';
import { type Context, take } from '../context.ts';
import type { Handlers } from '../register.ts';

/** A number's code may be tried so often; then it has to be asked for anew. */
const MOST_TRIES = 5;
/** For so long a code confirms its number. */
const CODE_MS = DAY_MS;
/** An outside address is asked so often at most, by whomever. */
const MOST_TIMES = 10;
/** Somebody may ask for so many confirming messages in an hour, whatever they type in. */
const MOST_ASKED = 6;
/** What was withheld from addresses outside is counted over so long. */
const MONTH_MS = 30 * DAY_MS;

/** Where somebody is reached: each address confirmed before it is used. */
export const addressHandlers: Handlers<
  | 'addresses.ask'
  | 'addresses.confirm'
  | 'addresses.forget'
  | 'addresses.remove'
  | 'addresses.removeFurther'
  | 'addresses.trial'
> = {
  /** Sends a confirming message to an address of one's own. */
  async 'addresses.ask'(context, { body, asking: { me } }) {
    const { pool, clock, site } = context;
    const now = clock.now();
    const recent = (await one(pool, store.addresses.asksSent(me.id, now - HOUR_MS))) ?? 0;
    if (recent >= MOST_ASKED) throw new Refusal('tooMany');
    const address = body.channel === 'text' ? e164(body.address) : body.address;
    if (address === null)
      throw new Refusal('badValues', { faults: [{ code: 'noTelephone', path: 'address', params: {} }] });
    await askOwnAddress(pool, me, { isFurther: false, ...body, address }, site, now);
    context.wakeSender();
  },

  /** Confirms a number by the code that it was sent. */
  async 'addresses.confirm'(context, { body: { code }, asking: { me } }) {
    const { pool } = context;
    const ask = await openAsk(context, me.id);
    if (!ask) throw new Refusal('badRequest', { because: 'noCodeFits' });
    if (ask.code !== code)
      throw new Refusal('badRequest', {
        because: 'anotherCode',
      });
    await inTransaction(pool, (on) =>
      runAll(on, [
        store.addresses.savePhone(me.id, ask.address),
        store.addresses.dropAsk('person', me.id, 'text'),
        store.world.raise(),
      ]),
    );
  },

  /** Takes a number or a second address away, one that waits to be confirmed too. */
  async 'addresses.forget'({ pool }, { params, asking: { me } }) {
    await run(pool, store.addresses.dropAsk('person', me.id, take(ownChannelSchema, params.channel)));
  },

  async 'addresses.remove'({ pool }, { params, asking: { me } }) {
    const channel = take(ownChannelSchema, params.channel);
    await inTransaction(pool, (on) =>
      runAll(on, [
        channel === 'text' ? store.addresses.savePhone(me.id, null) : store.addresses.saveMailTo(me.id, null),
        store.addresses.dropAsk('person', me.id, channel),
        store.world.raise(),
      ]),
    );
  },

  /** Takes a further address away; what the plan named it for goes to the usual one from then on. */
  async 'addresses.removeFurther'({ pool }, { params, asking: { me } }) {
    await inTransaction(pool, (on) =>
      runAll(on, [store.addresses.dropFurther(me.id, params.address), store.world.raise()]),
    );
  },

  /** Sends a message by one channel, so that somebody sees how it reaches them. */
  async 'addresses.trial'(context, { params, asking: { me } }) {
    const channel = params.channel === 'inApp' ? params.channel : take(ownChannelSchema, params.channel);
    // Whoever tries an address that mail came back from wants it tried again.
    const { suspended = [], ...trying } = me;
    if (params.channel === 'email' && suspended.length > 0) await resumeAddresses(context.pool, suspended);
    const reader = { ...me, emailFormat: me.plan?.emailFormat ?? ('html' as const) };
    return { address: await sendTrial(context, trying, channel, (now) => trialContent(channel, reader, now)) };
  },
};

/** The number that waits for its code, as long as that may be tried: this counts as a try. */
async function openAsk({ pool, clock }: Context, person: string): Promise<AddressAsk | null> {
  const ask = (await rows(pool, store.addresses.asksOf('person', person))).find(({ channel }) => channel === 'text');
  if (!ask || clock.now() > ask.askedAt + CODE_MS) return null;
  const tried = await run(pool, store.addresses.tryCode(ask.id, MOST_TRIES));
  return tried.affectedRows > 0 ? ask : null;
}

/** The outside addresses of a house, for those who make rules for others. */
export const contactHandlers: Handlers<
  'contacts.list' | 'contacts.add' | 'contacts.rename' | 'contacts.drop' | 'contacts.ask'
> = {
  /** The outside addresses there are, and those that rules reached but nobody knows. */
  async 'contacts.list'({ pool, clock }, { asking }) {
    expectNoMember(asking);
    const { contacts } = asking.directory;
    const asks = new Map((await rows(pool, store.addresses.asksOfContacts())).map((ask) => [ask.owner, ask]));
    const withheld = new Map(
      (await rows(pool, store.addresses.withheldUnconfirmed(clock.now() - MONTH_MS))).map((row) => [
        row.person,
        row.withheld,
      ]),
    );
    const strangers = [...withheld.keys()]
      .filter((id) => id.includes('@') && !contacts.has(id))
      .map((id) => contactOf(id, asking.directory))
      .filter((contact) => !contact.confirmed);
    return [...contacts.values(), ...strangers].map(({ id, name, email, confirmed, unsubscribed }) => ({
      id,
      name,
      email,
      isConfirmed: confirmed,
      left: unsubscribed === true ? ('all' as const) : [...unsubscribed],
      askedAt: whenOrNull(asks.get(id)?.askedAt ?? null),
      times: asks.get(id)?.times ?? 0,
      withheld: withheld.get(id) ?? 0,
      cameBack: cameBackOf(email ?? id, asking.directory),
    }));
  },

  /** Keeps an outside address, and asks it whether it may be written to. */
  async 'contacts.add'(context, { body, asking }) {
    expectNoMember(asking);
    const id = await addContact(context, body, asking);
    const contact: Contact = { id, ...body, confirmed: false, unsubscribed: [] };
    await askContact(context.pool, contact, asking.me, context.site, context.clock.now(), asking.directory);
    context.wakeSender();
    return { id };
  },

  async 'contacts.rename'(context, { params, body: { name }, asking }) {
    expectNoMember(asking);
    await renameContact(context, params.id, name, asking);
  },

  async 'contacts.drop'(context, { params, asking }) {
    expectNoMember(asking);
    await dropContact(context, params.id, asking);
  },

  /** Asks an outside address once more; one that said that it wants nothing is not asked. */
  async 'contacts.ask'(context, { params, asking }) {
    expectNoMember(asking);
    const { pool, clock, site } = context;
    const contact = contactOf(params.id, asking.directory);
    await expectAskable(context, contact, asking);
    if (contact.email) await resumeAddresses(pool, [contact.email]);
    if (!contact.confirmed) await askContact(pool, contact, asking.me, site, clock.now(), asking.directory);
    context.wakeSender();
    return { askedAt: when(clock.now()) };
  },
};

function expectNoMember({ me }: Caller): void {
  if (me.role === 'member') throw new Refusal('notAllowed');
}

/** Only whom the house knows, or a rule reached, is asked: Ojo writes to no address that somebody makes up. */
async function expectAskable({ pool }: Context, contact: Contact, { directory }: Caller): Promise<void> {
  const [ask] = await rows(pool, store.addresses.asksOf('contact', contact.id));
  const isKnown =
    directory.contacts.has(contact.id) ||
    ask !== undefined ||
    (await rows(pool, store.addresses.rulesUnconfirmed(contact.id))).length > 0;
  if (!isKnown || !contact.email?.includes('@')) throw new Refusal('notFound');
  if (ask && ask.times >= MOST_TIMES)
    throw new Refusal('badRequest', {
      because: { code: 'askedOften', params: { name: contact.name, times: ask.times } },
    });
  if (contact.unsubscribed === true)
    throw new Refusal('badRequest', { because: { code: 'contactRefused', params: { name: contact.name } } });
}
