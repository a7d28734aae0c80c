import { AsyncLocalStorage } from 'node:async_hooks';

const origins = new AsyncLocalStorage<string>();

/** Does something on behalf of whoever asked from an address. */
export const fromOrigin = <T>(address: string, act: () => T): T => origins.run(address, act);
/** From which address what is being done now was asked for; `null` where nobody asked. */
export const originNow = (): string | null => origins.getStore() ?? null;
