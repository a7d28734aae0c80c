import { z } from 'zod';

/** An email address (RFC 5321: at most 254 octets). */
export const emailSchema = z.string().trim().min(1).max(254).pipe(z.email());

/** An address on the web that something may be posted to. */
export const webAddressSchema = z
  .string()
  .trim()
  .max(500)
  .refine((text) => URL.canParse(text) && /^https?:$/.test(new URL(text).protocol), {
    params: { code: 'noWebAddress', params: {} },
  });

/** What somebody is called where a message comes from them; one line. */
export const senderNameSchema = z
  .string()
  .trim()
  .max(120)
  .refine((text) => !/[\r\n\t]/.test(text), { params: { code: 'strangeSigns', params: {} } });
