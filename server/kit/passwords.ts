import { hash } from '@node-rs/argon2';

/** Argon2id (RFC 9106) with 19 MiB and two passes. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** The hash by which a password is known again. */
export const hashOfPassword = (password: string | Uint8Array): Promise<string> => hash(password, COST);
