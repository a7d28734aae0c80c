import { randomBytes } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import { one, run, store } from '../store/index.ts';

/** A key of the house, kept in the database, so that what one server signed another knows. */
export class HouseKey {
  private key: Promise<Uint8Array> | null = null;

  constructor(
    private readonly pool: Pool,
    private readonly name: string,
  ) {}

  /** The key's 32 bytes. */
  bytes(): Promise<Uint8Array> {
    this.key ??= this.read().catch((error: unknown) => {
      this.key = null;
      throw error;
    });
    return this.key;
  }

  /** The first server to come makes the key; whoever comes at the same time takes that one. */
  private async read(): Promise<Uint8Array> {
    await run(this.pool, store.secrets.keep(this.name, randomBytes(32).toString('base64')));
    const row = await one(this.pool, store.secrets.byName(this.name));
    return Buffer.from(row ?? '', 'base64');
  }
}
