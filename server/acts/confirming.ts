import { randomInt } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import {
  contactAskContent,
  numberAskContent,
  ownAskContent,
  plainLinks,
  type Site,
  wordsOf,
} from '../../core/messages/index.ts';
import { asKind, type Contact, contactAt, strangerAt } from '../../core/people/index.ts';
import { DAY_MS, type Instant } from '../../core/time/index.ts';
import {
  newestRule,
  bareNumber,
  type Directory,
  inTransaction,
  livePhases,
  newId,
  type Profile,
  rows,
  runAll,
  shortKey,
  store,
} from '../store/index.ts';

/** A contact whose messages are withheld is asked again by itself after a week, three times in all. */
const AGAIN_AFTER = 7 * DAY_MS;
const MOST_TIMES = 3;

/** The contact of an id, or the one that an address stands for. */
export const contactOf = (id: string, directory: Directory): Contact => contactAt(id, directory) ?? strangerAt(id);

/**
 * Asks an outside contact whether they may be written to, by a link in the one message that goes out before they say
 * yes. `by` is who wants to know; with `null` it is the owner of the rule that would tell them. Of two asks with the same
 * `key` one goes out.
 */
export async function askContact(
  pool: Pool,
  contact: Contact,
  by: Profile | null,
  site: Site,
  now: Instant,
  directory: Directory,
  key: string = newId(now),
): Promise<boolean> {
  const email = contact.email?.trim();
  if (!email) return false;
  const withheld = await rows(pool, store.addresses.rulesUnconfirmed(contact.id));
  const naming = [...directory.versions.keys()]
    .flatMap((id) => newestRule(directory, id) ?? [])
    .filter(
      (rule) =>
        withheld.includes(rule.id) || rule.to.some((selector) => asKind(selector, 'contact')?.contact === contact.id),
    );
  const owner = by ?? directory.people.get(naming[0]?.owner ?? '');
  const id = shortKey(`ask|${key}`);
  const reader = {
    id: contact.id,
    name: contact.name,
    locale: owner?.locale ?? 'en-GB',
    zone: naming[0]?.zone ?? 'UTC',
  };
  const content = contactAskContent(
    id,
    { by: owner?.name ?? site.name, rules: naming.slice(0, 3).map((rule) => rule.name), site: site.name },
    reader,
    now,
  );
  await inTransaction(pool, (on) =>
    runAll(on, [
      store.addresses.keepAsk({
        id,
        ownerKind: 'contact',
        owner: contact.id,
        channel: 'email',
        address: email,
        code: null,
        askedAt: now,
        isFurther: false,
      }),
      store.messages.sendDirect(
        shortKey(`asked|${key}`),
        { to: contact.id, toKind: 'contact', channel: 'email', address: email },
        content,
        now,
      ),
    ]),
  );
  return true;
}

/**
 * Asks those outside who have not confirmed: whom a live rule names, so that they can say yes before there is anything
 * to tell, and from whom something was withheld for it. Says whether there was anybody.
 */
export async function askTheUnasked(pool: Pool, site: Site, now: Instant, directory: Directory): Promise<boolean> {
  const withheld = await rows(pool, store.addresses.unasked(now - 30 * DAY_MS, now - AGAIN_AFTER, MOST_TIMES));
  const known = new Set((await rows(pool, store.addresses.asksOfContacts())).map((row) => row.owner));
  const named = livePhases(directory, now)
    .flatMap(({ compiled }) =>
      compiled.rule.to.flatMap((selector) => {
        const contact = asKind(selector, 'contact')?.contact;
        return contact === undefined ? [] : [contactOf(contact, directory).id];
      }),
    )
    .filter((id) => !known.has(id));
  const asked = await Promise.all(
    [...new Set([...withheld, ...named])].map((id) => {
      const contact = contactOf(id, directory);
      // Of several servers that find the same, one's words are kept: the key is the same for all of them.
      return (
        !contact.confirmed &&
        contact.unsubscribed !== true &&
        askContact(pool, contact, null, site, now, directory, `${contact.id}|${Math.floor(now / DAY_MS)}`)
      );
    }),
  );
  return asked.some(Boolean);
}

/** Asks somebody to confirm an address or a number of their own; it is used once they have, a further one where their plan names it. */
export async function askOwnAddress(
  pool: Pool,
  person: Profile,
  { channel, address, isFurther }: { channel: 'email' | 'text'; address: string; isFurther: boolean },
  site: Site,
  now: Instant,
): Promise<void> {
  const id = newId(now);
  const code = channel === 'text' ? String(randomInt(1_000_000)).padStart(6, '0') : null;
  const content =
    code === null
      ? ownAskContent({ ask: id, isFurther }, site.name, person, now)
      : numberAskContent(code, site.name, person, now);
  const body = channel === 'text' ? wordsOf(content, 'text', plainLinks(site)) : null;
  const to = channel === 'text' ? bareNumber(address) : address.trim();
  await inTransaction(pool, (on) =>
    runAll(on, [
      store.addresses.keepAsk({
        id,
        ownerKind: 'person',
        owner: person.id,
        channel,
        address: to,
        code,
        askedAt: now,
        isFurther,
      }),
      // The code is for whoever holds the telephone, not for everybody who may look at the Outbox.
      store.messages.sendDirect(
        newId(now),
        { to: person.id, toKind: 'person', channel, address: to, ...(code ? { subject: site.name } : {}) },
        content,
        now,
        body,
      ),
    ]),
  );
}
