import { type Tongue, tongueOf } from '../../../core/messages/index.ts';
import type { Sealed } from '../../seals/index.ts';
import type { Context } from '../context.ts';
import { type OutsidePage, paragraph } from './page.ts';

/** A link that does not open, as the page that says why. */
export interface Closed {
  page: OutsidePage;
  tongue: Tongue;
}

/** What a signed link says, or the page to show where it is too old or not ours. */
export async function openSeal<D extends Sealed['do']>(
  { seals, clock }: Pick<Context, 'seals' | 'clock'>,
  token: string,
  purpose: D,
): Promise<Extract<Sealed, { do: D }> | Closed> {
  const sealed = await seals.open(token, purpose, clock.now());
  // Nobody is known yet: the page is in English.
  const tongue = tongueOf('en-GB');
  if (sealed === 'expired')
    return {
      tongue,
      page: { status: 410, title: tongue.say('page.expired'), parts: [paragraph(tongue.say('page.expiredLead'))] },
    };
  if (sealed === null)
    return {
      tongue,
      page: { status: 404, title: tongue.say('page.unknown'), parts: [paragraph(tongue.say('page.unknownLead'))] },
    };
  return sealed;
}
