import { Router } from 'express';
import { escapeHtml, type Phrases, phrasesFor } from '../../../core/messages/index.ts';
import {
  acknowledgedQuery,
  type Directory,
  messageAlertsQuery,
  messageQuery,
  one,
  type Profile,
  rows,
  type StoredMessage,
  toMessage,
} from '../../store/index.ts';
import { acknowledge } from '../acknowledging.ts';
import { type Context, param, readableAmong } from '../context.ts';
import { itemsOf, messageRow } from '../inbox.ts';
import { openSignedLink } from './links.ts';
import { paragraph, pressing, sendPage } from './page.ts';

/** The page behind an email's link: it says what would be taken on, and only its button does so. */
export function acknowledgePages(context: Context): Router {
  const routes = Router();
  const { pool, site } = context;

  routes.get('/acknowledge/:token', async (request, response) => {
    const found = await readLink(param(request, 'token'));
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
    const found = await readLink(param(request, 'token'));
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
    const row = await one(pool, messageQuery(opened.message));
    const directory = await context.directory.current(pool);
    const person = directory.people.get(opened.person);
    if (!row || !person?.active) return goneLink(phrasesFor(person?.locale));
    return { message: toMessage(row), person, directory, phrases: phrasesFor(person.locale) } satisfies {
      message: StoredMessage;
      person: Profile;
      directory: Directory;
      phrases: Phrases;
    };
  }

  async function whoHas(message: StoredMessage): Promise<string[]> {
    const alerts = (await rows<{ alert_id: string }>(pool, messageAlertsQuery([message.id]))).map(
      (one) => one.alert_id,
    );
    return alerts.length === 0
      ? []
      : [...new Set((await rows<{ person_id: string }>(pool, acknowledgedQuery(alerts))).map((one) => one.person_id))];
  }

  return routes;
}

const goneLink = (phrases: Phrases) => ({ page: { status: 410, title: phrases.say('page.gone'), parts: [] }, phrases });
