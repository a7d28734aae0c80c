import { Router } from 'express';
import { phrasesFor, SHORT_SIGNS } from '../../../core/messages/index.ts';
import { rows, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { paragraph, sendPage } from './page.ts';

/** The short addresses in text messages: each leads to its message, which opens for whoever it was sent to, signed in. */
export function shortLinks(context: Context): Router {
  const routes = Router();
  routes.get('/t/:signs', async (request, response) => {
    const { signs } = request.params;
    const isOne = signs.length === SHORT_SIGNS && /^[0-9a-z]+$/.test(signs);
    const [id, other] = isOne ? await rows(context.pool, store.messages.beginning(signs)) : [];
    if (id !== undefined && other === undefined) return response.redirect(302, `/inbox/${id}`);
    const phrases = phrasesFor('en-GB');
    const parts = [paragraph(phrases.say('page.unknownLead'))];
    sendPage(response, { status: 404, title: phrases.say('page.unknown'), parts }, context.site.name, phrases);
  });
  return routes;
}
