import { createHash, randomBytes } from 'node:crypto';

const ALPHABET = '0123456789abcdefghjkmnpqrstvwxyz';

function base32(bytes: Uint8Array): string {
  let text = '';
  let bits = 0;
  let held = 0;
  for (const byte of bytes) {
    held = (held << 8) | byte;
    bits += 8;
    while (bits >= 5) {
      bits -= 5;
      text += ALPHABET[(held >> bits) & 31];
    }
    held &= (1 << bits) - 1;
  }
  return bits > 0 ? text + ALPHABET[(held << (5 - bits)) & 31] : text;
}

/** 26 signs that stand for a longer key: the first 128 bits of its SHA-256. */
export const shortKey = (key: string): string => base32(createHash('sha256').update(key).digest().subarray(0, 16));

/** An id that nobody else makes, ordered by the millisecond in which it was made: 48 bits of time, 64 of chance. */
export function newId(now: number): string {
  const bytes = Buffer.alloc(14);
  bytes.writeUIntBE(now, 0, 6);
  randomBytes(8).copy(bytes, 6);
  return base32(bytes);
}

/** What a text message is answered with to take on what it tells of: the first signs of its id, in capitals. */
export const answerCode = (message: string): string => message.slice(0, 4).toUpperCase();
