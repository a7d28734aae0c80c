import { createHash } from 'node:crypto';

/** By what a token is known again; the token itself is not kept. */
export const digestOfToken = (token: string): string => createHash('sha256').update(token).digest('hex');
