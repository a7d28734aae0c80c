import { parsePhoneNumberFromString } from 'libphonenumber-js/min';

/**
 * A telephone number as gateways take it (E.164), of one as people write it: with its country's, behind a plus sign or two
 * noughts, and with whatever they put between the figures. `null` where there can be no such number.
 */
export function e164(text: string): string | null {
  const number = parsePhoneNumberFromString(text.trim().replace(/^00/, '+'));
  return number?.isPossible() ? number.number : null;
}
