import { mkdirSync } from 'node:fs';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import type { TestProject } from 'vitest/node';
import { type Database, startMariaDb } from '../boot/index.ts';
import type { Connecting } from '../store/index.ts';

declare module 'vitest' {
  interface ProvidedContext {
    connecting: Connecting;
  }
}

/** One MariaDB for all of the server's tests, in a folder of its own; each test file makes its own database in it. */
export default async function setUp(project: TestProject): Promise<() => Promise<void>> {
  const folder = fileURLToPath(new URL('../../.data-test', import.meta.url));
  mkdirSync(folder, { recursive: true });
  const database: Database = await startMariaDb(folder, await freePort(), 'only-for-tests');
  project.provide('connecting', database.connecting);
  return () => database.stop();
}

export function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
}
