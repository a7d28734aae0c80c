import { type Request, Router } from 'express';
import { htmlMail, plainLinks, type Phrases, phrasesFor } from '../../../core/messages/index.ts';
import { hasLeft } from '../../../core/people/index.ts';
import { contactOf } from '../../acts/index.ts';
import {
  type AddressAsk,
  type Directory,
  inTransaction,
  one,
  rows,
  runAll,
  type StoredMessage,
  store,
} from '../../store/index.ts';
import type { Context } from '../context.ts';
import { itemsOf, messageRow, readableAmong } from '../../access/index.ts';
import { type Closed, openSignedLink } from './links.ts';
import { paragraph, pressing, sendPage } from './page.ts';

/** The pages of those without an account: saying yes or no to an address, looking at a message, leaving. */
export function contactPages(context: Context): Router {
  const routes = Router();
  const { pool, site } = context;

  routes.get('/confirm/:token', async (request, response) => {
    const found = await readAsk(request);
    if ('page' in found) return sendPage(response, found.page, site.name, found.phrases);
    const { ask, phrases } = found;
    const never =
      ask.ownerKind === 'contact' ? [{ name: 'answer', value: 'never', words: phrases.say('page.never') }] : [];
    sendPage(
      response,
      {
        title: phrases.say('page.confirmHeadline', { site: site.name, address: ask.address }),
        parts: [
          paragraph(
            ask.ownerKind === 'contact'
              ? phrases.say('page.confirmContact', { site: site.name })
              : phrases.say('page.confirmOwn'),
          ),
          pressing([{ name: 'answer', value: 'yes', words: phrases.say('page.yes'), isFirst: true }, ...never]),
        ],
      },
      site.name,
      phrases,
    );
  });

  routes.post('/confirm/:token', async (request, response) => {
    const found = await readAsk(request);
    if ('page' in found) return sendPage(response, found.page, site.name, found.phrases);
    const { ask, phrases } = found;
    const isNo = bodyOf(request).answer === 'never' && ask.ownerKind === 'contact';
    const statements =
      ask.ownerKind === 'person'
        ? [store.addresses.saveMailTo(ask.owner, ask.address)]
        : isNo
          ? store.addresses.leave(ask.owner, ask.address, null)
          : [store.addresses.confirmContact(ask.owner, ask.address)];
    await inTransaction(pool, (on) =>
      runAll(on, [...statements, store.addresses.dropAsk(ask.ownerKind, ask.owner, ask.channel), store.world.raise()]),
    );
    const said = isNo
      ? (['page.refused', 'page.refusedLead'] as const)
      : (['page.confirmed', 'page.confirmedLead'] as const);
    sendPage(
      response,
      { title: phrases.say(said[0], { address: ask.address }), parts: [paragraph(phrases.say(said[1]))] },
      site.name,
      phrases,
    );
  });

  routes.get('/message/:token', async (request, response) => {
    const found = await readMessage(request, 'look');
    if ('page' in found) return sendPage(response, found.page, site.name, found.phrases);
    const { message, contact, directory } = found;
    // Somebody outside is told what the rule's owner may read; that is asked anew each time.
    const owners = [
      ...new Set(
        message.content.entries.flatMap((entry) =>
          entry.rules.flatMap(({ id }) => [...(directory.versions.get(id)?.values() ?? [])].at(-1)?.rule.owner ?? []),
        ),
      ),
    ];
    const readable = await Promise.all(
      owners.map((owner) => readableAmong(pool, itemsOf([message]), owner, directory)),
    );
    const shown = messageRow(
      message,
      new Map([...(readable[0] ?? [])].filter(([id]) => readable.every((one) => one.has(id)))),
    );
    const leave = `${site.base}/leave/${await context.signedLinks.sign({ do: 'leave', message: message.id, contact }, context.clock.now())}`;
    response
      .set('cache-control', 'no-store')
      .set('x-robots-tag', 'noindex')
      .type('html')
      .send(htmlMail(shown.content, { ...plainLinks(site), whole: null, leave: { rule: leave, all: leave } }));
  });

  routes.get('/leave/:token', async (request, response) => {
    const found = await readMessage(request, 'leave');
    if ('page' in found) return sendPage(response, found.page, site.name, found.phrases);
    const { contact, directory, phrases, rules } = found;
    const left = rules.filter((rule) => !hasLeft(contactOf(contact, directory), rule.id));
    sendPage(
      response,
      {
        title: phrases.say('page.leaveHeadline', { site: site.name }),
        parts: [
          pressing([
            ...left.map((rule, at) => ({
              name: 'rule',
              value: rule.id,
              words: phrases.say('page.leaveOne', { rule: rule.name }),
              isFirst: at === 0,
            })),
            { name: 'all', value: 'yes', words: phrases.say('page.leaveAll') },
          ]),
        ],
      },
      site.name,
      phrases,
    );
  });

  /** By the page's buttons, or by a mail program's one click (RFC 8058), which leaves the rules that the message came by. */
  routes.post('/leave/:token', async (request, response) => {
    const found = await readMessage(request, 'leave');
    if ('page' in found) return sendPage(response, found.page, site.name, found.phrases);
    const { contact: id, directory, phrases, rules } = found;
    const body = bodyOf(request);
    const contact = contactOf(id, directory);
    const wanted =
      body.all === 'yes'
        ? null
        : rules.filter((rule) => body['List-Unsubscribe'] === 'One-Click' || rule.id === body.rule);
    const statements =
      wanted === null
        ? store.addresses.leave(contact.id, contact.email ?? contact.id, null)
        : wanted.flatMap((rule) => store.addresses.leave(contact.id, contact.email ?? contact.id, rule.id));
    if (statements.length > 0) await inTransaction(pool, (on) => runAll(on, [...statements, store.world.raise()]));
    const title =
      wanted === null
        ? phrases.say('page.leftAll', { site: site.name })
        : phrases.say('page.left', { rules: phrases.and(wanted.map((rule) => rule.name)) });
    sendPage(response, { title, parts: [paragraph(phrases.say('page.leftLead'))] }, site.name, phrases);
  });

  async function readAsk(request: Request): Promise<{ ask: AddressAsk; phrases: Phrases } | Closed> {
    const opened = await openSignedLink(context, String(request.params.token), 'confirm');
    if ('page' in opened) return opened;
    const row = await one(pool, store.addresses.ask(opened.ask));
    const directory = await context.directory.current(pool);
    const ask = row;
    const phrases = phrasesFor(ask?.ownerKind === 'person' ? directory.people.get(ask.owner)?.locale : 'en-GB');
    return ask ? { ask, phrases } : { phrases, page: { status: 410, title: phrases.say('page.gone'), parts: [] } };
  }

  async function readMessage(
    request: Request,
    purpose: 'look' | 'leave',
  ): Promise<
    | {
        message: StoredMessage;
        contact: string;
        directory: Directory;
        phrases: Phrases;
        rules: { id: string; name: string }[];
      }
    | Closed
  > {
    const opened = await openSignedLink(context, String(request.params.token), purpose);
    if ('page' in opened) return opened;
    const row = await one(pool, store.messages.byId(opened.message));
    const directory = await context.directory.current(pool);
    const message = row;
    const phrases = phrasesFor(message?.content.language);
    if (!message || message.person !== opened.contact)
      return { phrases, page: { status: 410, title: phrases.say('page.gone'), parts: [] } };
    const behind = [...new Set((await rows(pool, store.messages.alertsBehind([message.id]))).map((one) => one.rule))];
    return {
      message,
      contact: opened.contact,
      directory,
      phrases,
      rules: behind.map((id) => ({
        id,
        name: [...(directory.versions.get(id)?.values() ?? [])].at(-1)?.rule.name ?? id,
      })),
    };
  }

  return routes;
}

/** What a form sent. A mail program's one click may come in parts (RFC 8058, section 3.2), and says nothing else. */
function bodyOf(request: Request): Record<string, unknown> {
  const body = request.body as unknown;
  if (typeof body === 'string')
    return /name="?List-Unsubscribe"?[\s\S]*One-Click/i.test(body) ? { 'List-Unsubscribe': 'One-Click' } : {};
  return (body ?? {}) as Record<string, unknown>;
}
