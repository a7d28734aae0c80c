import { createServer, type Server } from 'node:http';
import { setTimeout as delay } from 'node:timers/promises';
import type { AddressInfo } from 'node:net';
import type { Pool } from 'mysql2/promise';
import type { Logger } from 'pino';
import type { Site } from '../../core/messages/index.ts';
import { sweepContents } from '../contents/index.ts';
import {
  mailCarrier,
  Sender,
  type SenderParts,
  textCarrier,
  webhookCarrier,
  type WebhookSettings,
} from '../delivery/index.ts';
import { indexItems } from '../finding/index.ts';
import { type Context, makeApp } from '../http/index.ts';
import { Hub, Relay } from '../live/index.ts';
import { Counter } from '../replay/index.ts';
import { clean, Meters } from '../running/index.ts';
import { startReportDoor } from '../reports/index.ts';
import { HouseLogin, type LoginSettings } from '../signing-in/index.ts';
import { ReportAddresses, SignedLinks } from '../signed-links/index.ts';
import { askTheUnasked, nobodyThere, pauseFailing, takeReport, tellTroubles } from '../acts/index.ts';
import { type Clock, Complaints, inBackground, Loop } from '../kit/index.ts';
import { Runner } from '../runner/index.ts';
import { DirectoryCache } from '../store/index.ts';

export interface OjoParts {
  pool: Pool;
  clock: Clock;
  log: Logger;
  site: Site;
  mail: { url: string; from: { name: string; address: string } };
  /** Where mail servers report what became of messages, and the door that takes it; `null` where Ojo reads no reports. */
  reports: { address: string; port: number; host: string; isDoorHere: boolean } | null;
  text: { url: string; token: string };
  webhooks: WebhookSettings;
  metricsToken?: string | null;
  isBehindProxy?: boolean;
  login?: LoginSettings | null;
  demoPassword: string | null;
  pages: string | null;
  port: number;
  /** Answers and refusals are held against the contract, which tests do. */
  isChecking?: boolean;
  /** Stand in for the real carriers where a test says so. */
  carriers?: SenderParts['carriers'];
}

export interface Ojo {
  port: number;
  runner: Runner;
  sender: Sender;
  stop(): Promise<void>;
}

/** How often that is looked after which nobody waits for. */
const BACKGROUND_MS = 5000;
/** What has changed is found by its new words about so soon. */
const INDEXING_MS = 3000;
/** What is old is taken away at leisure. */
const CLEANING_MS = 60_000;
/** Pages are told of what became of messages at most so often. */
const OUTBOX_MS = 1000;
/** How long requests under way may take to end when the server stops. */
const PATIENCE_MS = 10_000;

/** Puts one server process together and starts it on loopback: the web application, the runner, the senders, the relay. */
export async function startOjo(parts: OjoParts): Promise<Ojo> {
  const { pool, clock, log, site } = parts;
  const directory = new DirectoryCache();
  const hub = new Hub(pool, clock);
  const counter = new Counter();
  const signedLinks = new SignedLinks(pool);
  const reports = parts.reports && new ReportAddresses(pool, parts.reports.address);
  const complaints = new Complaints(log);
  const relay = new Relay({ pool, clock, hub, directory, complaints });
  const house = { pool, directory, site, clock, log };
  const meters = new Meters({ pool, clock, openPages: () => hub.present().length });
  const tellOutbox = outboxTeller(hub);
  const sender = new Sender({
    ...house,
    signedLinks,
    reports,
    onNobodyThere: async (message, reply) => nobodyThere(message, reply, clock.now(), await directory.current(pool)),
    carriers: parts.carriers ?? carriersOf(parts),
    onFate: (message, fate) => {
      meters.countFate(message.channel, fate);
      tellOutbox();
    },
  });
  const runner = new Runner({
    ...house,
    onArrivals: (messages) => relay.tell(messages),
    onOutgoing: () => sender.wake(),
    onDecided: (changes) => {
      meters.countDecided(changes.length);
      inBackground(relay.tellItems(changes), 'open pages could not be told of items', complaints);
    },
  });
  const loops = backgroundLoops(parts, directory, sender, complaints);
  const context: Context = {
    ...house,
    signedLinks,
    hub,
    counter,
    webhooks: parts.webhooks,
    meters,
    metricsToken: parts.metricsToken ?? null,
    ...settingsOf(parts),
    isClosing: false,
    ...wakersOf(runner, sender),
  };
  const server = createServer(makeApp(context, parts.pages));
  const door =
    parts.reports?.isDoorHere && reports ? await openReportDoor(parts.reports, reports, context, tellOutbox) : null;
  await relay.start();
  runner.start();
  sender.start();
  await listen(server, parts.port);
  // Tests have no pages; most of them count nothing, and ask whom they want asked.
  if (parts.pages) {
    counter.warm();
    for (const loop of loops) loop.start();
  }
  return {
    port: (server.address() as AddressInfo).port,
    runner,
    sender,
    async stop() {
      // Nothing new is taken; what is under way is finished, or has had its time.
      context.isClosing = true;
      hub.close();
      await Promise.all([closeServer(server), door?.close()]);
      await Promise.all([runner, sender, ...loops, relay, counter].map((part) => part.stop()));
    },
  };
}

/** Takes what mail servers report. */
const openReportDoor = (
  { port, host }: { port: number; host: string },
  addresses: ReportAddresses,
  { pool, clock, directory }: Context,
  tellOutbox: () => void,
): Promise<{ close(): Promise<void> }> =>
  startReportDoor({
    port,
    host,
    addresses,
    async onReport(message, report) {
      const now = clock.now();
      const people = await directory.current(pool);
      await takeReport(pool, { message, channel: 'email', report, now, directory: people });
      tellOutbox();
    },
  });

const settingsOf = ({
  pool,
  text,
  demoPassword,
  site,
  isChecking = false,
  isBehindProxy = false,
  login,
}: OjoParts) => ({
  login: login ? new HouseLogin(pool, login, `${site.base}/sign-in/house/back`) : null,
  isBehindProxy,
  textToken: text.token,
  demoPassword,
  isSecure: site.base.startsWith('https:'),
  isChecking,
});

const wakersOf = (runner: Runner, sender: Sender) => ({
  foresee: runner.foresee,
  wake: runner.wake,
  wakeSender: sender.wake,
});

const carriersOf = ({ mail, text, webhooks }: OjoParts): SenderParts['carriers'] => ({
  email: mailCarrier(mail),
  text: textCarrier(text),
  webhook: webhookCarrier(webhooks),
});

/** What is looked after from time to time: addresses that have not been asked, troubles of which nobody knows. */
function backgroundLoops(
  { pool, site, clock }: OjoParts,
  directory: DirectoryCache,
  sender: Sender,
  complaints: Complaints,
): Loop[] {
  const ask = async () => {
    const asked = await askTheUnasked(pool, site, clock.now(), await directory.current(pool));
    if (asked) sender.wake();
    return asked;
  };
  const pause = async () => pauseFailing(pool, clock.now(), await directory.current(pool));
  const tell = async () => tellTroubles(pool, clock.now(), await directory.current(pool));
  return [
    new Loop('asking outside addresses', ask, BACKGROUND_MS, complaints),
    new Loop('telling of troubles', tell, BACKGROUND_MS, complaints),
    new Loop('pausing machines', pause, BACKGROUND_MS, complaints),
    new Loop('indexing', async () => indexItems(pool, await directory.current(pool)), INDEXING_MS, complaints),
    new Loop('taking away what is old', () => clean(pool, clock.now()), CLEANING_MS, complaints),
    new Loop('sweeping contents away', () => sweepContents(pool, clock.now()), BACKGROUND_MS, complaints),
  ];
}

/** Takes no new requests, and waits a while for those under way. */
async function closeServer(server: Server): Promise<void> {
  const closed = new Promise<void>((resolve) => {
    server.close(() => resolve());
  });
  server.closeIdleConnections();
  await Promise.race([closed, delay(PATIENCE_MS, undefined, { ref: false })]);
  server.closeAllConnections();
  await closed;
}

function listen(server: Server, port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve());
  });
}

/** Pages that show the Outbox look again when a message has met its fate; however many have, once in a while. */
function outboxTeller(hub: Hub): () => void {
  let isTold = false;
  return () => {
    if (isTold) return;
    isTold = true;
    hub.announce({ event: 'outbox' });
    setTimeout(() => {
      isTold = false;
    }, OUTBOX_MS).unref();
  };
}
