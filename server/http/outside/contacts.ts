import { type Request, type Response, Router } from 'express';
import { htmlMail, type Phrases, phrasesFor, plainLinks } from '../../../core/messages/index.ts';
import { hasLeft, type Step, stepsFor } from '../../../core/people/index.ts';
import { itemsOf, messageRow } from '../../access/index.ts';
import { contactOf, savePreferences } from '../../acts/index.ts';
import {
  newestRule,
  type AddressAsk,
  type Directory,
  inTransaction,
  one,
  rows,
  runAll,
  type StoredMessage,
  store,
  toldOutside,
} from '../../store/index.ts';
import type { Context } from '../context.ts';
import { openSignedLink } from './links.ts';
import { gonePage, paragraph, pressing, type Shown, sendPage, shows } from './page.ts';

/** The pages of those without an account: saying yes or no to an address, looking at a message, leaving. */
export function contactPages(context: Context): Router {
  const routes = Router();
  routes.get('/confirm/:token', shows(context, confirmPage));
  routes.post('/confirm/:token', shows(context, confirmedPage));
  routes.get('/message/:token', (request, response) => sendMessage(context, request, response));
  routes.get('/leave/:token', shows(context, leavePage));
  routes.post('/leave/:token', shows(context, leftPage));
  routes.get('/quiet/:token', shows(context, quietPage));
  routes.post('/quiet/:token', shows(context, quietenedPage));
  return routes;
}

async function confirmPage(context: Context, request: Request): Promise<Shown> {
  const found = await readAsk(context, request);
  if ('page' in found) return found;
  const { ask, phrases } = found;
  const site = context.site.name;
  const isContact = ask.ownerKind === 'contact';
  const ofOwn = ask.isFurther ? phrases.say('page.confirmFurther') : phrases.say('page.confirmOwn');
  const lead = isContact ? phrases.say('page.confirmContact', { site }) : ofOwn;
  const buttons = [
    { name: 'answer', value: 'yes', words: phrases.say('page.yes'), isFirst: true },
    ...(isContact ? [{ name: 'answer', value: 'never', words: phrases.say('page.never') }] : []),
  ];
  const title = phrases.say('page.confirmHeadline', { site, address: ask.address });
  return { phrases, page: { title, parts: [paragraph(lead), pressing(buttons)] } };
}

/** An address of one's own takes the place of the usual one, or stands beside it. */
const ownAddress = ({ owner, address, isFurther }: AddressAsk) =>
  isFurther ? store.addresses.addFurther(owner, address) : store.addresses.saveMailTo(owner, address);

async function confirmedPage(context: Context, request: Request): Promise<Shown> {
  const found = await readAsk(context, request);
  if ('page' in found) return found;
  const { ask, phrases } = found;
  const isNo = bodyOf(request).answer === 'never' && ask.ownerKind === 'contact';
  const ofContact = isNo
    ? store.addresses.leave(ask.owner, ask.address, null)
    : [store.addresses.confirmContact(ask.owner, ask.address)];
  const statements = ask.ownerKind === 'person' ? [ownAddress(ask)] : ofContact;
  await inTransaction(context.pool, (on) =>
    runAll(on, [
      ...statements,
      store.addresses.resume(ask.address),
      store.addresses.dropAsk(ask.ownerKind, ask.owner, ask.channel),
      store.world.raise(),
    ]),
  );
  const title = phrases.say(isNo ? 'page.refused' : 'page.confirmed', { address: ask.address });
  const lead = phrases.say(isNo ? 'page.refusedLead' : 'page.confirmedLead');
  return { phrases, page: { title, parts: [paragraph(lead)] } };
}

/** A whole message, as its email would show it. */
async function sendMessage(context: Context, request: Request, response: Response): Promise<void> {
  const { site, clock, signedLinks } = context;
  const found = await readMessage(context, request, 'look');
  if ('page' in found) return sendPage(response, found.page, site.name, found.phrases);
  const { message, contact } = found;
  const shown = messageRow(message, await readableOutside(context, found));
  const leave = `${site.base}/leave/${await signedLinks.sign({ do: 'leave', message: message.id, contact }, clock.now())}`;
  response
    .set('cache-control', 'no-store')
    .set('x-robots-tag', 'noindex')
    .type('html')
    .send(
      htmlMail(shown.content, {
        ...plainLinks(site, undefined, null, found.directory.house),
        whole: null,
        leave: { rule: leave, all: leave },
      }),
    );
}

/** Somebody outside is told what those may read who answer for the message's rules; that is asked anew each time. */
async function readableOutside({ pool }: Context, { message, directory }: Found) {
  const rules = message.content.entries.flatMap((entry) => entry.rules.map(({ id }) => id));
  const ids = itemsOf([message]);
  const found = ids.length === 0 ? [] : await rows(pool, store.items.byIds(ids));
  const items = new Map(found.map((item) => [item.id, item]));
  const isTold = toldOutside(directory, rules, items);
  return new Map([...items].filter(([id]) => isTold(id)));
}

async function leavePage(context: Context, request: Request): Promise<Shown> {
  const found = await readMessage(context, request, 'leave');
  if ('page' in found) return found;
  const { contact, directory, phrases, rules } = found;
  const left = rules.filter((rule) => !hasLeft(contactOf(contact, directory), rule.id));
  const ofRules = left.map((rule, at) => ({
    name: 'rule',
    value: rule.id,
    words: phrases.say('page.leaveOne', { rule: rule.name }),
    isFirst: at === 0,
  }));
  const title = phrases.say('page.leaveHeadline', { site: context.site.name });
  const all = { name: 'all', value: 'yes', words: phrases.say('page.leaveAll') };
  return { phrases, page: { title, parts: [pressing([...ofRules, all])] } };
}

/** By the page's buttons, or by a mail program's one click (RFC 8058), which leaves the rules that the message came by. */
async function leftPage(context: Context, request: Request): Promise<Shown> {
  const found = await readMessage(context, request, 'leave');
  if ('page' in found) return found;
  const { directory, phrases, rules } = found;
  const { id, email } = contactOf(found.contact, directory);
  const body = bodyOf(request);
  const isAll = body.all === 'yes';
  const isOneClick = body['List-Unsubscribe'] === 'One-Click';
  const wanted = rules.filter((rule) => isOneClick || rule.id === body.rule);
  const leave = (rule: string | null) => store.addresses.leave(id, email ?? id, rule);
  const statements = isAll ? leave(null) : wanted.flatMap((rule) => leave(rule.id));
  if (statements.length > 0)
    await inTransaction(context.pool, (on) => runAll(on, [...statements, store.world.raise()]));
  const title = isAll
    ? phrases.say('page.leftAll', { site: context.site.name })
    : phrases.say('page.left', { rules: phrases.and(wanted.map((rule) => rule.name)) });
  return { phrases, page: { title, parts: [paragraph(phrases.say('page.leftLead'))] } };
}

/** Asks whoever is here whether email of these rules shall end. */
async function quietPage(context: Context, request: Request): Promise<Shown> {
  const found = await readMessage(context, request, 'quiet');
  if ('page' in found) return found;
  const { phrases, rules } = found;
  const names = phrases.and(rules.map(({ name }) => name));
  const buttons = [{ name: 'answer', value: 'yes', words: phrases.say('page.quietYes'), isFirst: true }];
  const parts = [paragraph(phrases.say('page.quietLead', { rules: names })), pressing(buttons)];
  return { phrases, page: { title: phrases.say('page.quietHeadline', { site: context.site.name }), parts } };
}

/** Email of the message's rules ends, by the page or by a mail program's one click; they go on standing in Ojo. */
async function quietenedPage(context: Context, request: Request): Promise<Shown> {
  const found = await readMessage(context, request, 'quiet');
  if ('page' in found) return found;
  const { directory, phrases, rules } = found;
  const person = directory.people.get(found.contact);
  if (!person?.active) return gonePage(phrases);
  const names = (ids: readonly { name: string }[]) => phrases.and(ids.map(({ name }) => name));
  const own = Object.fromEntries(rules.map(({ id }): [string, Step[]] => [id, [{ channel: 'inApp' }]]));
  const plan = { ...person.chosen, own: { ...person.chosen?.own, ...own } };
  await savePreferences(context, person, { plan, mutes: person.mutes ?? [] }, directory);
  // A critical rule's own ways stay, whatever a plan says.
  const goesOn = rules.filter(({ id }) => {
    const rule = newestRule(directory, id);
    return rule && stepsFor({ ...person, plan }, rule).some(({ channel }) => channel === 'email');
  });
  const parts = [
    paragraph(phrases.say('page.quietenedLead')),
    ...(goesOn.length > 0 ? [paragraph(phrases.say('page.quietGoesOn', { rules: names(goesOn) }))] : []),
  ];
  const title = phrases.say('page.quietened', { rules: names(rules) });
  return { phrases, page: { title, parts } };
}

async function readAsk(context: Context, request: Request): Promise<{ ask: AddressAsk; phrases: Phrases } | Shown> {
  const opened = await openSignedLink(context, String(request.params.token), 'confirm');
  if ('page' in opened) return opened;
  const ask = await one(context.pool, store.addresses.ask(opened.ask));
  const { people } = await context.directory.current(context.pool);
  const phrases = phrasesFor(ask?.ownerKind === 'person' ? people.get(ask.owner)?.locale : 'en-GB');
  return ask ? { ask, phrases } : gonePage(phrases);
}

interface Found {
  message: StoredMessage;
  contact: string;
  directory: Directory;
  phrases: Phrases;
  /** The rules that it came by. */
  rules: { id: string; name: string }[];
}

async function readMessage(
  context: Context,
  request: Request,
  purpose: 'look' | 'leave' | 'quiet',
): Promise<Found | Shown> {
  const { pool } = context;
  const opened = await openSignedLink(context, String(request.params.token), purpose);
  if ('page' in opened) return opened;
  const contact = opened.do === 'quiet' ? opened.person : opened.contact;
  const message = await one(pool, store.messages.byId(opened.message));
  const directory = await context.directory.current(pool);
  const phrases = phrasesFor(message?.content.language);
  if (!message || message.person !== contact) return gonePage(phrases);
  const behind = [...new Set((await rows(pool, store.messages.alertsBehind([message.id]))).map(({ rule }) => rule))];
  const nameOf = (id: string) => newestRule(directory, id)?.name ?? id;
  return { message, contact, directory, phrases, rules: behind.map((id) => ({ id, name: nameOf(id) })) };
}

/** What a form sent. A mail program's one click may come in parts (RFC 8058, section 3.2), and says nothing else. */
function bodyOf(request: Request): Record<string, unknown> {
  const body = request.body as unknown;
  if (typeof body === 'string')
    return /name="?List-Unsubscribe"?[\s\S]*One-Click/i.test(body) ? { 'List-Unsubscribe': 'One-Click' } : {};
  return (body ?? {}) as Record<string, unknown>;
}
