import { randomBytes } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import { houseSecretOf, one, run, sealOf, store } from '../store/index.ts';

/** A key of the house, kept in the database and sealed there, so that what one server signed another knows. */
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
    const seal = sealOf(this.pool);
    const as = houseSecretOf(this.name);
    await run(this.pool, store.secrets.keep(this.name, seal.close(randomBytes(32).toString('base64'), as)));
    const kept = await one(this.pool, store.secrets.byName(this.name));
    return Buffer.from(seal.open(kept ?? '', as), 'base64');
  }
}
