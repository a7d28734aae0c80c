import { createHash } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import type { WithheldReason } from '../../core/decide/index.ts';
import {
  asksFor,
  type BodyKind,
  htmlMail,
  machineBody,
  type MessageLinks,
  plainLinks,
  readableContent,
  type Site,
  wordsOf,
} from '../../core/messages/index.ts';
import { contactAt, hasLeft, mayRead } from '../../core/people/index.ts';
import { type Instant, printInstant } from '../../core/time/index.ts';
import type { ReportAddresses, SignedLinks } from '../signed-links/index.ts';
import {
  bareNumber,
  type Directory,
  type Machine,
  sealOf,
  secretOf,
  type StoredItem,
  type StoredMessage,
  toldOutside,
  worldOf,
} from '../store/index.ts';
import { DeliveryError, type Parcel, type Posted } from './carrier.ts';
import { reportFiles } from './report-files.ts';

export interface Wrapping {
  pool: Pool;
  site: Site;
  signedLinks: SignedLinks;
  reports: ReportAddresses | null;
}

/** A message as its carrier takes it, in the words and the form of its channel. */
export async function parcelOf(
  message: StoredMessage,
  world: Directory,
  wrapping: Wrapping,
  now: Instant,
): Promise<Parcel> {
  const { content, channel } = message;
  const links =
    channel === 'email'
      ? { ...(await linksOf(message, wrapping)), paper: world.house }
      : plainLinks(wrapping.site, message.id);
  const hook = channel === 'webhook' ? world.webhooks.get(message.address) : undefined;
  const files = channel === 'email' ? await reportFiles(wrapping.pool, message, world) : [];
  return {
    ...(files.length > 0 ? { files } : {}),
    id: message.id,
    channel,
    address: hook?.url ?? message.address,
    subject: message.subject,
    ...saidBy(message, links),
    at: message.at,
    sentAt: now,
    ...(content.sender ? { sender: content.sender } : {}),
    ...(hook ? { secrets: secretsOf(hook, now, wrapping) } : {}),
    ...(hook ? { posted: postedTo(hook, message, wrapping.site) } : {}),
    ...(channel === 'email' && wrapping.reports ? { reportsTo: await wrapping.reports.of(message.id) } : {}),
    ...threadOf(message),
    ...(await leaveOf(message, links, wrapping)),
  };
}

/** What a message says as it goes, in HTML too where it has that. */
function saidBy(message: StoredMessage, links: MessageLinks): { html: string | null; text: string } {
  const { content, channel } = message;
  return {
    html: channel === 'email' && !content.isPlain ? htmlMail(content, links) : null,
    text: message.body ?? wordsOf(content, channel, links),
  };
}

/** A message as it looked to its reader, for others to see: no link in it acts for anybody. */
export function asItLooked(
  message: StoredMessage,
  world: Directory,
  site: Site,
): { html: string | null; text: string } {
  const plain = { ...plainLinks(site, message.id), paper: world.house };
  const isOutside = message.recipient === 'contact';
  const links = isOutside ? { ...plain, leave: { rule: site.base, all: site.base } } : plain;
  if (message.channel !== 'webhook') return saidBy(message, links);
  const hook = world.webhooks.get(message.address);
  return { html: null, text: hook ? postedTo(hook, message, site).body : '' };
}

/** Emails about one item stand together in whoever's program. */
function threadOf({ channel, content }: Pick<StoredMessage, 'channel' | 'content'>): Pick<Parcel, 'thread'> {
  const [only, ...others] = content.entries;
  if (channel !== 'email' || !only || others.length > 0) return {};
  return { thread: `about-${createHash('sha256').update(only.item.id).digest('hex').slice(0, 26)}` };
}

/** Where email of this sort ends with one press: whoever is outside leaves the rule, whoever is here has it in Ojo alone. */
async function leaveOf(
  { id, channel, recipient, person, at, content }: StoredMessage,
  links: MessageLinks,
  { site, signedLinks }: Wrapping,
): Promise<Pick<Parcel, 'leave'>> {
  const isOfRules = content.entries.some(({ rules }) => rules.length > 0);
  if (channel !== 'email' || !isOfRules) return {};
  if (recipient !== 'person') return links.leave ? { leave: links.leave.rule } : {};
  return { leave: `${site.base}/quiet/${await signedLinks.sign({ do: 'quiet', message: id, person }, at)}` };
}

/** Whether alerts stand behind it, so that it can be told again. */
const comesFromRules = ({ entries, report }: StoredMessage['content']): boolean =>
  report !== undefined || entries.some(({ rules }) => rules.length > 0);

/** The links of one email: what it takes to act without signing in is signed, and is this reader's alone. */
async function linksOf(
  { id, person, recipient, at, content }: Pick<StoredMessage, 'id' | 'person' | 'recipient' | 'at' | 'content'>,
  { site, signedLinks }: Wrapping,
): Promise<MessageLinks> {
  const plain = plainLinks(site, id);
  if (content.form === 'confirm')
    return {
      ...plain,
      whole: `${site.base}/confirm/${await signedLinks.sign({ do: 'confirm', ask: content.ask ?? '' }, at)}`,
      leave: { rule: '', all: '' },
    };
  if (recipient === 'person') {
    const signed = async (purpose: 'acknowledge' | 'again') =>
      `${site.base}/${purpose}/${await signedLinks.sign({ do: purpose, message: id, person }, at)}`;
    return {
      ...plain,
      ...(asksFor(content) ? { acknowledge: await signed('acknowledge') } : {}),
      ...(comesFromRules(content) ? { again: await signed('again') } : {}),
    };
  }
  const leave = `${site.base}/leave/${await signedLinks.sign({ do: 'leave', message: id, contact: person }, at)}`;
  return {
    ...plain,
    whole: `${site.base}/message/${await signedLinks.sign({ do: 'look', message: id, contact: person }, at)}`,
    leave: { rule: leave, all: leave },
  };
}

/** The secrets by which a machine may know Ojo: the present one, and the one before for as long as that holds. */
const secretsOf = ({ id, secret, oldSecret, oldUntil }: Machine, now: Instant, { pool }: Wrapping): string[] =>
  (oldSecret !== null && oldUntil !== null && now < oldUntil ? [secret, oldSecret] : [secret]).map((kept) =>
    sealOf(pool).open(kept, secretOf(id)),
  );

const CONTENT_TYPES = {
  event: 'application/cloudevents+json',
  json: 'application/json',
  text: 'text/plain; charset=utf-8',
} as const satisfies Record<BodyKind, string>;

type Told = Pick<StoredMessage, 'id' | 'at' | 'form' | 'urgency' | 'subject' | 'content'>;

/** What a machine is posted: an event, or the house's own template filled in. */
export function postedTo({ kind, template }: Pick<Machine, 'kind' | 'template'>, message: Told, site: Site): Posted {
  const contentType = CONTENT_TYPES[kind];
  if (kind === 'event') return { contentType, body: JSON.stringify(eventOf(message, site)) };
  const body = machineBody(kind, template, message, site);
  if (body === null) throw new DeliveryError('Its template cannot be filled in with this message.', false);
  return { contentType, body };
}

/** A message as an event (CloudEvents 1.0): of its item, where it tells of one alone. */
function eventOf(message: Told, site: Site) {
  const [only, ...others] = message.content.entries;
  return {
    specversion: '1.0',
    id: message.id,
    source: site.base,
    type: `ojo.message.${message.form}`,
    time: printInstant(message.at),
    ...(only && others.length === 0 ? { subject: only.item.id } : {}),
    datacontenttype: 'application/json',
    data: dataOf(message),
  };
}

/** What a machine is told: the message's facts, without its looks. */
const dataOf = ({ id, at, form, urgency, subject, content }: Told) => ({
  id,
  at: printInstant(at),
  form,
  urgency,
  subject,
  items: content.entries.map(({ item, kind, notes, steps, rules }) => ({
    item,
    kind,
    notes,
    rules,
    steps: steps.map(({ change, at: when, kind: what, actor, fields }) => ({
      change,
      at: when,
      kind: what,
      actor,
      fields,
    })),
  })),
});

/** Judged at the moment of sending: the recipient is still here and may still read everything the message speaks of. */
export function reasonAgainst(
  message: StoredMessage,
  world: Directory,
  items: Map<string, StoredItem>,
): WithheldReason | null {
  // An address is asked for its yes before anything else may go to it.
  if (message.form === 'confirm') return null;
  if (
    message.channel === 'text' &&
    bareNumber(message.address) !== bareNumber(world.people.get(message.person)?.phone ?? '')
  )
    return 'noChannel';
  if (message.recipient === 'person' && !world.people.get(message.person)?.active) return 'inactive';
  if (message.recipient === 'contact') {
    const contact = contactAt(message.person, world);
    if (!contact?.confirmed) return 'unconfirmed';
    if (message.content.entries.some((entry) => entry.rules.some(({ id }) => hasLeft(contact, id))))
      return 'unsubscribed';
  }
  if (message.channel === 'email' && world.suspended.has(message.address.trim().toLowerCase())) return 'noChannel';
  if (message.recipient === 'webhook' && world.webhooks.get(message.address)?.isPaused) return 'noChannel';
  const mayReadIt = readingOf(message, world, items);
  return message.content.entries.every(({ item }) => mayReadIt(item.id)) ? null : 'noAccess';
}

/** Whether an item may be read by whoever answers for what a message tells: its person, or of outsiders those who answer for its rules. */
function readingOf(
  { recipient, person, content }: StoredMessage,
  world: Directory,
  items: ReadonlyMap<string, StoredItem>,
): (item: string) => boolean {
  if (recipient !== 'person') {
    const rules = content.entries.flatMap((entry) => entry.rules.map(({ id }) => id));
    return toldOutside(world, rules, items);
  }
  const known = worldOf(world, items);
  return (item) => {
    const stored = items.get(item);
    return stored === undefined || mayRead(person, stored, known);
  };
}

/** A message as it may be sent by now: items that it only names may have been closed since it was worded. */
export function asReadable(
  message: StoredMessage,
  world: Directory,
  items: ReadonlyMap<string, StoredItem>,
): StoredMessage {
  const { content, isWhole } = readableContent(message.content, readingOf(message, world, items));
  return isWhole ? message : { ...message, content, subject: content.headline };
}
