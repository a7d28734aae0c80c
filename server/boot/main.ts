import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { instantOf } from '../../core/time/index.ts';
import { type Clock, SettableClock, systemClock } from '../kit/index.ts';
import { startMailStandIn, startTextStandIn, startWebhookStandIn, type StandIn } from '../standins/index.ts';
import { migrate, NewerDataError, openPool, query, run } from '../store/index.ts';
import { isHalfMade, layOutDemo } from './demo.ts';
import { refuseBusyPort, refuseUnwritable, startMariaDb } from './mariadb.ts';
import { startOjo } from './ojo.ts';
import { ownSecret, readSettings, type Settings } from './settings.ts';
import { StartError } from './start-error.ts';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const DATABASE = 'ojo';

const say = (text: string) => process.stdout.write(`${text}\n`);

async function main(): Promise<void> {
  const settings = readSettings(process.env, ROOT);
  refuseUnwritable(settings.data);
  await refuseBusyPorts(settings);
  const log = pino({ level: settings.log }, pino.destination({ fd: 2, sync: false }));
  const clock: Clock = settings.testClock ? new SettableClock(instantOf(settings.testClock)) : systemClock;

  const began = performance.now();
  const database = await startMariaDb(settings.data, settings.databasePort, ownSecret(settings.data, 'database-password'));
  say(`MariaDB         ${database.isOurs ? 'started' : 'was running'}, port ${database.connecting.port}`);
  const stops: (() => Promise<void>)[] = [database.stop];
  const end = async (code: number) => {
    for (const stop of stops.reverse()) await stop().catch((error: Error) => say(error.message));
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.once(signal, () => { say('Ending.'); void end(0); });

  try {
    await prepare(database.connecting, process.argv.includes('--fresh'), settings.isDemo);
    const pool = openPool({ ...database.connecting, database: DATABASE });
    stops.push(() => pool.end());
    const ran = await migrate(pool);
    say(`Tables          ${ran > 0 ? `${ran} migration${ran === 1 ? '' : 's'} ran` : 'as they should be'}`);
    const textToken = settings.textToken || ownSecret(settings.data, 'text-token');
    if (settings.isDemo) {
      const laidOut = await layOutDemo({ pool, settings, connecting: { ...database.connecting, database: DATABASE }, now: clock.now(), root: ROOT });
      if (laidOut) say(`Demo            ${laidOut}`);
    }
    for (const standIn of await startStandIns(settings, pool, clock, textToken)) stops.push(() => standIn.close());
    const ojo = await startOjo({
      pool, clock, log, site: { base: settings.base, name: settings.from.name }, port: settings.port, pages: join(ROOT, 'dist'),
      mail: { url: settings.smtpUrl ?? `smtp://127.0.0.1:${settings.mailPort}`, from: settings.from },
      text: { url: settings.textUrl ?? `http://127.0.0.1:${settings.textPort}/texts`, token: textToken },
      demoPassword: settings.isDemo ? settings.demoPassword : null,
    });
    stops.push(() => ojo.stop());
    say(`Mail            ${settings.smtpUrl ? 'goes to your server' : `goes to the stand-in, port ${settings.mailPort}`}`);
    say(`\nOjo is at ${settings.base}   (ready after ${((performance.now() - began) / 1000).toFixed(1)} s, Ctrl-C ends it)`);
  } catch (error) {
    say(error instanceof StartError || error instanceof NewerDataError ? error.message : String((error as Error).stack));
    await end(1);
  }
}

async function refuseBusyPorts(settings: Settings): Promise<void> {
  await refuseBusyPort(settings.port, 'Ojo', 'OJO_PORT');
  if (!settings.smtpUrl) await refuseBusyPort(settings.mailPort, 'the mail stand-in', 'OJO_MAIL_PORT');
  if (!settings.textUrl) await refuseBusyPort(settings.textPort, 'the text stand-in', 'OJO_TEXT_PORT');
  if (settings.isDemo) await refuseBusyPort(settings.hookPort, 'the webhook stand-in', 'OJO_HOOK_PORT');
}

/** Makes the database, anew where the demo is to begin again. */
async function prepare(connecting: Parameters<typeof openPool>[0], isFresh: boolean, isDemo: boolean): Promise<void> {
  const pool = openPool(connecting, 1);
  try {
    if (isFresh || (isDemo && (await isHalfMade(pool, DATABASE)))) await run(pool, query(`DROP DATABASE IF EXISTS ${DATABASE}`));
    await run(pool, query(`CREATE DATABASE IF NOT EXISTS ${DATABASE} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`));
  } finally {
    await pool.end();
  }
}

async function startStandIns(settings: Settings, pool: Parameters<typeof startMailStandIn>[0], clock: Clock, textToken: string): Promise<StandIn[]> {
  const standIns: StandIn[] = [];
  if (!settings.smtpUrl) standIns.push(await startMailStandIn(pool, clock, settings.mailPort));
  if (!settings.textUrl) standIns.push(await startTextStandIn(pool, clock, settings.textPort, textToken));
  if (settings.isDemo) standIns.push(await startWebhookStandIn(pool, clock, settings.hookPort, ownSecret(settings.data, 'hook-secret')));
  return standIns;
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof StartError ? error.message : String((error as Error).stack)}\n`);
  process.exit(1);
});
