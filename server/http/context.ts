import type { z } from 'zod';
import type { Logger } from 'pino';
import { schemaFaults, shapeFault } from '../../contract/documents/index.ts';
import { Refusal } from '../../contract/problems.ts';
import type { ActContext } from '../acts/index.ts';
import type { Counter } from '../replay/index.ts';
import type { HouseLogin } from '../signing-in/index.ts';
import type { SignedLinks } from '../signed-links/index.ts';
import type { DirectoryCache, StoredChange } from '../store/index.ts';
import type { WebhookSettings } from '../delivery/index.ts';
import type { Meters } from '../running/index.ts';
import type { Hub } from '../live/index.ts';

/** What every route works with. */
export interface Context extends ActContext {
  directory: DirectoryCache;
  log: Logger;
  signedLinks: SignedLinks;
  /** What the text gateway shows when it hands texts over; the empty string where none may. */
  textToken: string;
  hub: Hub;
  meters: Meters;
  /** What is shown by whoever measures; `null`: whoever is on this machine may. */
  metricsToken: string | null;
  /** Where webhooks may lead. */
  webhooks: WebhookSettings;
  counter: Counter;
  /** A proxy on this machine says from where a request comes; otherwise whoever connects is who asks. */
  isBehindProxy: boolean;
  /** The house's own identity provider; `null` where there is none. */
  login: HouseLogin | null;
  /** The password that the demo's people share; `null` where this is no demo. */
  demoPassword: string | null;
  isSecure: boolean;
  /** Answers and refusals are held against the contract. */
  isChecking: boolean;
  /** The server is stopping: nothing new is taken. */
  isClosing: boolean;
  /** Lets whoever decides changes prepare, while this one is being committed. */
  foresee(change: StoredChange): void;
}

/** Reads a request's part by its schema, or refuses it with every fault. */
export function take<S extends z.ZodType>(schema: S, value: unknown, isTyped = true): z.output<S> {
  const fault = shapeFault(value, isTyped);
  if (fault) throw new Refusal('badRequest', { faults: [fault] });
  const result = schema.safeParse(value ?? {});
  if (!result.success) throw new Refusal('badRequest', { faults: schemaFaults(result.error, schema) });
  return result.data;
}
