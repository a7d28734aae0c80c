import { type Phrases, phrasesFor } from '../../../core/messages/index.ts';
import type { LinkPurpose } from '../../signed-links/index.ts';
import type { Context } from '../context.ts';
import { type OutsidePage, paragraph } from './page.ts';

/** A link that does not open, as the page that says why. */
export interface Closed {
  page: OutsidePage;
  phrases: Phrases;
}

/** What a signed link says, or the page to show where it is too old or not ours. */
export async function openSignedLink<D extends LinkPurpose['do']>(
  { signedLinks, clock }: Pick<Context, 'signedLinks' | 'clock'>,
  token: string,
  purpose: D,
): Promise<Extract<LinkPurpose, { do: D }> | Closed> {
  const opened = await signedLinks.open(token, purpose, clock.now());
  // Nobody is known yet: the page is in English.
  const phrases = phrasesFor('en-GB');
  if (opened === 'expired')
    return {
      phrases,
      page: { status: 410, title: phrases.say('page.expired'), parts: [paragraph(phrases.say('page.expiredLead'))] },
    };
  if (opened === null)
    return {
      phrases,
      page: { status: 404, title: phrases.say('page.unknown'), parts: [paragraph(phrases.say('page.unknownLead'))] },
    };
  return opened;
}
