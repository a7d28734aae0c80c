import { type Request, Router } from 'express';
import { escapeHtml, type Phrases, phrasesFor } from '../../../core/messages/index.ts';
import { addDays, dateIn, type Instant, isCivilDate, laterChoices, laterOn } from '../../../core/time/index.ts';
import { formatInstant } from '../../../core/values/index.ts';
import { itemsOf, messageRow, readableAmong } from '../../access/index.ts';
import { askAgain } from '../../acts/index.ts';
import { type Directory, one, type Profile, type StoredMessage, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { openSignedLink } from './links.ts';
import { gonePage, paragraph, type Shown, shows } from './page.ts';

/** The page behind an email's link by which its reader is told of it again, later: it asks when, and its buttons say so. */
export function againPages(context: Context): Router {
  const routes = Router();
  routes.get('/again/:token', shows(context, askPage));
  routes.post('/again/:token', shows(context, donePage));
  return routes;
}

interface Found {
  message: StoredMessage;
  person: Profile;
  directory: Directory;
  phrases: Phrases;
}

async function readLink(context: Context, request: Request): Promise<Found | Shown> {
  const opened = await openSignedLink(context, String(request.params.token), 'again');
  if ('page' in opened) return opened;
  const message = await one(context.pool, store.messages.byId(opened.message));
  const directory = await context.directory.current(context.pool);
  const person = directory.people.get(opened.person);
  const phrases = phrasesFor(person?.locale);
  return message && person?.active ? { message, person, directory, phrases } : gonePage(phrases);
}

async function askPage(context: Context, request: Request): Promise<Shown> {
  const found = await readLink(context, request);
  return 'page' in found ? found : asking(context, found, null);
}

/** When to tell again, to be pressed; with what was wrong with what was asked, where something was. */
async function asking(
  { pool, clock }: Context,
  { message, person, directory, phrases }: Found,
  wrong: string | null,
): Promise<Shown> {
  const now = clock.now();
  const readable = await readableAmong(pool, itemsOf([message]), person.id, directory);
  const choices = laterChoices(now, person.zone).map(
    ({ choice, at }, nth) =>
      `<button${nth === 0 ? ' class="first"' : ''} name="do" value="${choice}">${escapeHtml(phrases.say(`again.${choice}`))}, ${escapeHtml(formatInstant(at, person))}</button>`,
  );
  const first = addDays(dateIn(now, person.zone), 1);
  const day = `<p><label>${escapeHtml(phrases.say('again.onADay'))} <input type="date" name="day" min="${first}"></label> <button name="do" value="day">${escapeHtml(phrases.say('again.day'))}</button></p>`;
  return {
    phrases,
    page: {
      ...(wrong === null ? {} : { status: 422 }),
      title: phrases.say('again.when'),
      parts: [
        paragraph(messageRow(message, readable).subject),
        ...(wrong === null ? [] : [`<p role="alert"><b>${escapeHtml(wrong)}</b></p>`]),
        `<form method="post"><p>${choices.join(' ')}</p>${day}</form>`,
      ],
    },
  };
}

/** The instant that was asked for; `null` where it is none, or not later. */
function whenOf(body: Record<string, unknown>, now: Instant, zone: string): Instant | null {
  if (body.do === 'day') {
    const day = String(body.day ?? '');
    const at = isCivilDate(day) ? laterOn(day, zone) : null;
    return at !== null && at > now ? at : null;
  }
  return laterChoices(now, zone).find(({ choice }) => choice === body.do)?.at ?? null;
}

async function donePage(context: Context, request: Request): Promise<Shown> {
  const found = await readLink(context, request);
  if ('page' in found) return found;
  const { message, person, phrases } = found;
  const body = typeof request.body === 'object' && request.body !== null ? request.body : {};
  const when = whenOf(body, context.clock.now(), person.zone);
  if (when === null) return asking(context, found, phrases.say('again.sayWhen'));
  await askAgain(context, [message.id], person.id, when);
  return {
    phrases,
    page: {
      title: phrases.say('again.asked', { when: formatInstant(when, person) }),
      parts: [paragraph(phrases.say('again.askedLead'), true)],
    },
  };
}
