import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Pool } from 'mysql2/promise';
import { pino } from 'pino';
import { instantOf } from '../../core/time/index.ts';
import { welcomeFirstSteward } from '../acts/index.ts';
import { type Clock, SettableClock, systemClock } from '../kit/index.ts';
import {
  startFeedStandIn,
  startIdentityStandIn,
  startMailStandIn,
  startTextStandIn,
  startWebhookStandIn,
  type StandIn,
} from '../standins/index.ts';
import { SignedLinks } from '../signed-links/index.ts';
import { NewerDataError, openPool, rows, store } from '../store/index.ts';
import { openDatabase } from './database.ts';
import { type Database, refuseBusyPort, refuseUnwritable } from './mariadb.ts';
import { startOjo } from './ojo.ts';
import { prepare } from './prepare.ts';
import { feedKeyOf, ownSecret, readSettings, type Settings } from './settings.ts';
import { StartError } from './start-error.ts';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
/** How a start ends that would end so again: whoever brings the server back need not try (sysexits, EX_CONFIG). */
const CANNOT_START = 78;

const say = (text: string) => process.stdout.write(`${text}\n`);
const line = (name: string, what: string) => say(`${name.padEnd(15)} ${what}`);

/** What has to be ended, the last begun first. */
class Ending {
  private readonly stops: (() => Promise<void>)[] = [];
  private isUnderWay = false;

  add(stop: () => Promise<void>): void {
    this.stops.push(stop);
  }

  async end(code: number): Promise<void> {
    if (this.isUnderWay) return;
    this.isUnderWay = true;
    for (const stop of this.stops.reverse()) await stop().catch((error: Error) => say(error.message));
    process.exit(code);
  }

  /** A first signal ends everything in its order, a second one at once. */
  listen(): void {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
      process.on(signal, () => {
        if (this.isUnderWay) process.exit(1);
        say('Ending.');
        this.end(0).catch(() => process.exit(1));
      });
    }
  }
}

async function main(ending: Ending): Promise<void> {
  const settings = readSettings(process.env, ROOT);
  for (const name of settings.unknown)
    line('Settings', `there is no setting ${name}; the README names those there are`);
  refuseUnwritable(settings.data);
  await refuseBusyPort(settings.port, 'Ojo', 'OJO_PORT');
  if (settings.reports && settings.isFirst)
    await refuseBusyPort(settings.reports.port, 'the door for delivery reports', 'OJO_REPORTS_PORT');
  const log = pino({ level: settings.log }, pino.destination({ fd: 2, sync: false }));
  const clock: Clock = settings.testClock ? new SettableClock(instantOf(settings.testClock)) : systemClock;

  const began = performance.now();
  const database = await openDatabase(settings, (what) => line('MariaDB', what));
  ending.add(database.stop);
  ending.listen();
  line('MariaDB', whereOf(settings, database));
  const { isDemo, said } = await prepare({
    settings,
    connecting: database.connecting,
    database: database.name,
    now: clock.now(),
    root: ROOT,
    words: process.argv.slice(2),
  });
  for (const [name, what] of said) line(name, what);
  const pool = openPool({ ...database.connecting, database: database.name });
  ending.add(() => pool.end());
  const textToken = settings.textToken || ownSecret(settings.data, 'text-token');
  if (settings.isFirst)
    for (const standIn of await startStandIns(settings, isDemo, pool, clock, textToken))
      ending.add(() => standIn.close());
  const ojo = await startOjo({
    pool,
    clock,
    log,
    site: { base: settings.base, name: settings.from.name },
    port: settings.port,
    pages: join(ROOT, 'dist'),
    mail: { url: settings.smtpUrl ?? `smtp://127.0.0.1:${settings.mailPort}`, from: settings.from },
    reports: settings.reports && { ...settings.reports, isDoorHere: settings.isFirst },
    text: { url: settings.textUrl ?? `http://127.0.0.1:${settings.textPort}/texts`, token: textToken },
    metricsToken: settings.metricsToken,
    isBehindProxy: settings.isBehindProxy,
    login: settings.login && { ...settings.login, secret: settings.login.secret ?? standInSecret(settings) },
    webhooks: { isInsideAllowed: settings.areHooksInside },
    demoPassword: isDemo ? settings.demoPassword : null,
  });
  ending.add(() => ojo.stop());
  if (isDemo && settings.isFirst && settings.hasFeed) {
    const url = `http://127.0.0.1:${settings.port}/api/changes`;
    const feed = startFeedStandIn({ pool, clock, url, key: feedKeyOf(settings.data), source: 'climate' });
    ending.add(() => feed.close());
  }
  const seconds = ((performance.now() - began) / 1000).toFixed(1);
  if (!settings.isFirst) {
    line('Server', `is ready on port ${settings.port} after ${seconds} s`);
    return;
  }
  line('Mail', settings.smtpUrl ? 'goes to your server' : `goes to the stand-in, port ${settings.mailPort}`);
  await sayFirstSteward(settings, pool, clock);
  say(`\nOjo is at ${settings.base}   (ready after ${seconds} s, Ctrl-C ends it)`);
}

/** Where the database is, in words. */
const whereOf = ({ ownDatabase }: Settings, { isOurs, connecting: { host, port, others = [] } }: Database): string =>
  ownDatabase
    ? `is at ${[{ host, port }, ...others].map((node) => `${node.host}:${node.port}`).join(', ')}`
    : `${isOurs ? 'started' : 'was running'}, port ${port}`;

/** Where nobody is yet, somebody is made who lets the others in. */
async function sayFirstSteward({ base, steward }: Settings, pool: Pool, clock: Clock): Promise<void> {
  const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
  const welcoming = { pool, clock, signedLinks: new SignedLinks(pool), base };
  const link = await welcomeFirstSteward(welcoming, { ...steward, zone: timeZone });
  if (link === null) return;
  say(`\nNobody is here yet. The first steward chooses a password, once and within a week, at\n${link}`);
  say('Another such page is made by  npm run steward');
}

/** The stand-in for an identity provider and Ojo both know it. */
const standInSecret = ({ data, loginStandInPort }: Settings): string | null =>
  loginStandInPort === null ? null : ownSecret(data, 'login-secret');

async function startStandIns(
  settings: Settings,
  isDemo: boolean,
  pool: Pool,
  clock: Clock,
  textToken: string,
): Promise<StandIn[]> {
  const standIns: StandIn[] = [];
  if (!settings.smtpUrl) {
    await refuseBusyPort(settings.mailPort, 'the mail stand-in', 'OJO_MAIL_PORT');
    standIns.push(
      await startMailStandIn({ pool, clock, port: settings.mailPort, reportsPort: settings.reports?.port ?? null }),
    );
  }
  if (!settings.textUrl) {
    await refuseBusyPort(settings.textPort, 'the text stand-in', 'OJO_TEXT_PORT');
    standIns.push(
      await startTextStandIn({
        pool,
        clock,
        port: settings.textPort,
        token: textToken,
        receiptsUrl: `http://127.0.0.1:${settings.port}/gateway/receipts`,
      }),
    );
  }
  if (isDemo && settings.loginStandInPort !== null) {
    await refuseBusyPort(settings.loginStandInPort, 'the stand-in for an identity provider', 'OJO_LOGIN_STANDIN_PORT');
    standIns.push(
      await startIdentityStandIn({
        port: settings.loginStandInPort,
        client: settings.login?.client ?? '',
        secret: settings.login?.secret ?? standInSecret(settings) ?? '',
        back: `${settings.base}/sign-in/house/back`,
        people: () => rows(pool, store.people.profiles()),
      }),
    );
  }
  if (isDemo) {
    await refuseBusyPort(settings.hookPort, 'the webhook stand-in', 'OJO_HOOK_PORT');
    standIns.push(await startWebhookStandIn(pool, clock, settings.hookPort, ownSecret(settings.data, 'hook-secret')));
  }
  return standIns;
}

const ending = new Ending();
main(ending).catch(async (error: unknown) => {
  const isHopeless = error instanceof StartError || error instanceof NewerDataError;
  process.stderr.write(`${isHopeless ? error.message : String((error as Error).stack)}\n`);
  await ending.end(isHopeless ? CANNOT_START : 1);
});
