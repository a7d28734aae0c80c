import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto';
import type { Pool } from 'mysql2/promise';

/** How what is sealed begins, so that it is told from what was kept before anything was. */
const SEALED = 'sealed:1:';
const IV_BYTES = 12;
const TAG_BYTES = 16;

/** What is sealed was sealed by another key, or has been changed since. */
export class NotOpened extends Error {}

/**
 * Seals secrets before they go into the database, by a key that is not in it: AES-256-GCM (NIST SP 800-38D), the key by
 * HKDF (RFC 5869). A secret opens only as what it was sealed as, so that none can be put in another's place.
 */
export class Seal {
  private readonly key: Uint8Array;

  constructor(secret: string) {
    this.key = new Uint8Array(hkdfSync('sha256', secret, '', 'ojo secrets at rest', 32));
  }

  /** @param as what it is, such as `machine/desk` */
  close(secret: string, as: string): string {
    const iv = randomBytes(IV_BYTES);
    const cipher = createCipheriv('aes-256-gcm', this.key, iv).setAAD(Buffer.from(as));
    const closed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
    return SEALED + Buffer.concat([iv, cipher.getAuthTag(), closed]).toString('base64url');
  }

  /** What was sealed as this; what was never sealed is as it is. Throws NotOpened. */
  open(kept: string, as: string): string {
    if (!isSealed(kept)) return kept;
    const bytes = Buffer.from(kept.slice(SEALED.length), 'base64url');
    try {
      const cipher = createDecipheriv('aes-256-gcm', this.key, bytes.subarray(0, IV_BYTES), {
        authTagLength: TAG_BYTES,
      })
        .setAAD(Buffer.from(as))
        .setAuthTag(bytes.subarray(IV_BYTES, IV_BYTES + TAG_BYTES));
      return Buffer.concat([cipher.update(bytes.subarray(IV_BYTES + TAG_BYTES)), cipher.final()]).toString('utf8');
    } catch {
      throw new NotOpened(`${as} does not open by this key`);
    }
  }
}

/** Whether it was sealed before it was kept. */
export const isSealed = (kept: string): boolean => kept.startsWith(SEALED);

const seals = new WeakMap<Pool, Seal>();
/** Has secrets in a pool's database sealed by a key. */
export function sealWith(pool: Pool, secret: string): void {
  seals.set(pool, new Seal(secret));
}
/** By what the secrets in a pool's database are sealed. */
export function sealOf(pool: Pool): Seal {
  const seal = seals.get(pool);
  if (!seal) throw new Error('this pool was not opened by openPool');
  return seal;
}
