import { Router } from 'express';
import { escapeHtml, type Phrases, phrasesFor } from '../../../core/messages/index.ts';
import { type Directory, one, type Profile, rows, type StoredMessage, store } from '../../store/index.ts';
import { acknowledge } from '../../acts/index.ts';
import type { Context } from '../context.ts';
import { itemsOf, messageRow, readableAmong } from '../../access/index.ts';
import { openSignedLink } from './links.ts';
import { paragraph, pressing, sendPage } from './page.ts';

/** The page behind an email's link: it says what would be taken on, and only its button does so. */
export function acknowledgePages(context: Context): Router {
  const routes = Router();
  const { pool, site } = context;

  routes.get('/acknowledge/:token', async (request, response) => {
    const found = await readLink(String(request.params.token));
    if ('page' in found) return sendPage(response, found.page, site.name, found.phrases);
    const { message, phrases, directory, person } = found;
    const has = await whoHas(message);
    const names = has.map((id) => directory.people.get(id)?.name ?? id);
    const shown = messageRow(message, await readableAmong(pool, itemsOf([message]), person.id, directory));
    const items = shown.content.entries.map((entry) => {
      const fields = entry.fields
        .map(
          (field) =>
            `${escapeHtml(field.label)} <s>${escapeHtml(field.before || phrases.say('value.empty'))}</s> <mark>${escapeHtml(field.after || phrases.say('value.empty'))}</mark>`,
        )
        .join(', ');
      return `<li><b>${escapeHtml(entry.item.title)}</b><br>${fields || escapeHtml(entry.headline)}</li>`;
    });
    sendPage(
      response,
      {
        title: shown.subject,
        parts: [
          `<ul>${items.join('')}</ul>`,
          paragraph(
            has.length === 0
              ? phrases.say('page.nobodyYet')
              : phrases.say('page.has', { people: phrases.and(names), count: names.length }),
          ),
          has.includes(person.id)
            ? ''
            : pressing([{ name: 'do', value: 'acknowledge', words: phrases.say('page.takeOn'), isFirst: true }]),
        ],
      },
      site.name,
      phrases,
    );
  });

  routes.post('/acknowledge/:token', async (request, response) => {
    const found = await readLink(String(request.params.token));
    if ('page' in found) return sendPage(response, found.page, site.name, found.phrases);
    const { message, person, phrases } = found;
    await acknowledge(context, [message.id], person.id);
    sendPage(
      response,
      {
        title: phrases.say('page.youHave'),
        parts: [
          paragraph(message.subject),
          paragraph(phrases.say('page.youHaveLead'), true),
          `<p><a href="${site.base}/inbox">${escapeHtml(phrases.say('page.openInbox'))}</a></p>`,
        ],
      },
      site.name,
      phrases,
    );
  });

  async function readLink(token: string) {
    const opened = await openSignedLink(context, token, 'acknowledge');
    if ('page' in opened) return opened;
    const row = await one(pool, store.messages.byId(opened.message));
    const directory = await context.directory.current(pool);
    const person = directory.people.get(opened.person);
    if (!row || !person?.active) return goneLink(phrasesFor(person?.locale));
    return { message: row, person, directory, phrases: phrasesFor(person.locale) } satisfies {
      message: StoredMessage;
      person: Profile;
      directory: Directory;
      phrases: Phrases;
    };
  }

  async function whoHas(message: StoredMessage): Promise<string[]> {
    const alerts = (await rows(pool, store.messages.alertsBehind([message.id]))).map((one) => one.alert);
    return alerts.length === 0
      ? []
      : [...new Set((await rows(pool, store.messages.acknowledgements(alerts))).map((one) => one.person))];
  }

  return routes;
}

const goneLink = (phrases: Phrases) => ({ page: { status: 410, title: phrases.say('page.gone'), parts: [] }, phrases });
