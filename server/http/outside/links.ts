import { phrasesFor } from '../../../core/messages/index.ts';
import type { LinkPurpose } from '../../signed-links/index.ts';
import type { Context } from '../context.ts';
import { paragraph, type Shown } from './page.ts';

/** What a signed link says, or the page to show where it is too old or not ours. */
export async function openSignedLink<D extends LinkPurpose['do']>(
  { signedLinks, clock }: Pick<Context, 'signedLinks' | 'clock'>,
  token: string,
  purpose: D,
): Promise<Extract<LinkPurpose, { do: D }> | Shown> {
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
