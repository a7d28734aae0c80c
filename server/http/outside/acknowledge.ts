import { type Request, Router } from 'express';
import { type Entry, escapeHtml, type Phrases, phrasesFor } from '../../../core/messages/index.ts';
import { itemsOf, messageRow, readableAmong } from '../../access/index.ts';
import { acknowledge } from '../../acts/index.ts';
import { type Directory, one, type Profile, rows, type StoredMessage, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { openSignedLink } from './links.ts';
import { gonePage, paragraph, pressing, type Shown, shows } from './page.ts';

/** The page behind an email's link: it says what would be taken on, and only its button does so. */
export function acknowledgePages(context: Context): Router {
  const routes = Router();
  routes.get('/acknowledge/:token', shows(context, askPage));
  routes.post('/acknowledge/:token', shows(context, donePage));
  return routes;
}

async function askPage(context: Context, request: Request): Promise<Shown> {
  const found = await readLink(context, request);
  if ('page' in found) return found;
  const { message, phrases, directory, person } = found;
  const has = await whoHas(context, message);
  const readable = await readableAmong(context.pool, itemsOf([message]), person.id, directory);
  const shown = messageRow(message, readable);
  const names = has.map((id) => directory.people.get(id)?.name ?? id);
  const taken = phrases.say('page.has', { people: phrases.and(names), count: names.length });
  return {
    phrases,
    page: {
      title: shown.subject,
      parts: [
        `<ul>${shown.content.entries.map((entry) => itemHtml(entry, phrases)).join('')}</ul>`,
        paragraph(has.length === 0 ? phrases.say('page.nobodyYet') : taken),
        has.includes(person.id)
          ? ''
          : pressing([{ name: 'do', value: 'acknowledge', words: phrases.say('page.takeOn'), isFirst: true }]),
      ],
    },
  };
}

async function donePage(context: Context, request: Request): Promise<Shown> {
  const found = await readLink(context, request);
  if ('page' in found) return found;
  const { message, person, phrases, directory } = found;
  await acknowledge(context, [message.id], person.id);
  const readable = await readableAmong(context.pool, itemsOf([message]), person.id, directory);
  return {
    phrases,
    page: {
      title: phrases.say('page.youHave'),
      parts: [
        paragraph(messageRow(message, readable).subject),
        paragraph(phrases.say('page.youHaveLead'), true),
        `<p><a href="${context.site.base}/inbox">${escapeHtml(phrases.say('page.openInbox'))}</a></p>`,
      ],
    },
  };
}

/** An item with what happened to it, in a line. */
function itemHtml({ item, fields, headline }: Entry, phrases: Phrases): string {
  const side = (words: string) => escapeHtml(words || phrases.say('value.empty'));
  const changes = fields.map(
    ({ label, before, after }) => `${escapeHtml(label)} <s>${side(before)}</s> <mark>${side(after)}</mark>`,
  );
  return `<li><b>${escapeHtml(item.title)}</b><br>${changes.join(', ') || escapeHtml(headline)}</li>`;
}

interface Found {
  message: StoredMessage;
  person: Profile;
  directory: Directory;
  phrases: Phrases;
}

async function readLink(context: Context, request: Request): Promise<Found | Shown> {
  const opened = await openSignedLink(context, String(request.params.token), 'acknowledge');
  if ('page' in opened) return opened;
  const message = await one(context.pool, store.messages.byId(opened.message));
  const directory = await context.directory.current(context.pool);
  const person = directory.people.get(opened.person);
  const phrases = phrasesFor(person?.locale);
  return message && person?.active ? { message, person, directory, phrases } : gonePage(phrases);
}

async function whoHas({ pool }: Context, message: StoredMessage): Promise<string[]> {
  const alerts = (await rows(pool, store.messages.alertsBehind([message.id]))).map(({ alert }) => alert);
  if (alerts.length === 0) return [];
  return [...new Set((await rows(pool, store.messages.acknowledgements(alerts))).map(({ person }) => person))];
}
