import { DAY_MS, HOUR_MS } from '../core/time/index.ts';
import type { Pool } from 'mysql2/promise';
import { pino } from 'pino';
import type { Act } from '../core/decide/index.ts';
import { mailCarrier, Sender, textCarrier, webhookCarrier } from '../server/delivery/index.ts';
import { SettableClock } from '../server/kit/index.ts';
import { SignedLinks } from '../server/signed-links/index.ts';
import { startMailStandIn, startTextStandIn, startWebhookStandIn } from '../server/standins/index.ts';
import {
  type Connecting,
  DirectoryCache,
  inTransaction,
  one,
  openPool,
  query,
  rows,
  run,
  runAll,
  sqlTime,
  type Statement,
  type StoredItem,
  store,
} from '../server/store/index.ts';
import { Chance } from './chance.ts';
import { paperFile } from './documents.ts';
import { layOutTables } from './tables.ts';
import { dailyActs, decideAll, enact, standings } from './history.ts';
import { layOut } from './lay-out.ts';
import { looks } from './looks.ts';
import { STORY_DAYS, tellStory } from './story.ts';

const SEED = 20260304;
/** Messages so old have long arrived; the newer ones really go out, to the stand-ins. */
const SENT_DAYS = 2;

/** What the starting program hands over: where the database is, when it is now, where Ojo will stand. */
interface Order {
  connecting: Connecting;
  now: number;
  site: { base: string; name: string };
  from: { name: string; address: string };
  password: string;
  ports: { mail: number; text: number; hook: number };
  hookSecret: string;
  feedKey: string;
}

/**
 * Lays out the demo: two years of deeds, each made a change as the door makes it, decided by the same step that the
 * server takes. What came of it is written in bulk, as the server would have written it one by one.
 */
async function seed(order: Order): Promise<void> {
  const { now, site } = order;
  const pool = openPool(order.connecting, 10, true);
  const chance = new Chance(SEED);
  const story = tellStory(now, chance);
  const { items, made } = enact([...story, ...looks(story, now, new Chance(SEED))].sort((a, b) => a.at - b.at));
  const acts = dailyActs(now, chance);
  await layOut(pool, {
    password: order.password,
    hook: `http://127.0.0.1:${order.ports.hook}/insurer`,
    hookSecret: order.hookSecret,
    feedKey: order.feedKey,
  });
  const { effects, left } = decideAll(made, acts, now - STORY_DAYS * DAY_MS, now);
  await writeRules(pool, now);
  await inParts(pool, [...items.values()], 500, (part) => [store.items.insert(part)]);
  await inParts(pool, made, 800, (part) => [store.changes.saveDecided(part)]);
  await inParts(
    pool,
    [...items.values()].filter(({ source }) => source === 'papers' || source === 'reports'),
    100,
    (part) => part.flatMap(fileOf),
  );
  await inParts(pool, effects, 400, (part) => store.decisions.save(part, now, site));
  await inParts(pool, left.state, 500, (part) => store.engine.putRows(part));
  await inParts(pool, left.timers, 500, (part) => store.timers.set(part));
  await run(pool, query("UPDATE messages SET fate_at = at WHERE channel = 'inApp'"));
  await run(
    pool,
    query(
      "UPDATE messages SET fate = 'delivered', fate_at = at + INTERVAL 2 SECOND, reply = '250 kept', tries = 1 WHERE channel <> 'inApp' AND at < ?",
      sqlTime(now - SENT_DAYS * DAY_MS),
    ),
  );
  await run(
    pool,
    query("UPDATE messages SET retry_at = at WHERE channel <> 'inApp' AND at >= ?", sqlTime(now - SENT_DAYS * DAY_MS)),
  );
  await readMessages(pool, acts, now);
  await sendLately(pool, order);
  await layOutTables(pool, now);
  await run(pool, store.turns.decidedTo({ at: now, rank: 3, seq: 0 }));
  await run(pool, query("INSERT INTO marks (name, at) VALUES ('demo', ?)", sqlTime(now)));
  const counts = await one(pool, store.schema.size());
  await pool.end();
  process.stdout.write(`${JSON.stringify(counts)}\n`);
}

async function inParts<T>(
  pool: Pool,
  all: readonly T[],
  size: number,
  make: (part: T[]) => Parameters<typeof runAll>[1],
): Promise<void> {
  for (let at = 0; at < all.length; at += size)
    await inTransaction(pool, (on) => runAll(on, make(all.slice(at, at + size))));
}

function fileOf({ id, fields, createdBy, createdAt }: StoredItem): Statement[] {
  const file = paperFile(String(fields.name ?? id), Number(fields.version ?? 1), [
    'A paper of Marisma Museum, a made-up museum of craft.',
    'Whoever opens it sees that the document is really there.',
  ]);
  const content = `${id}/1`;
  const made = { madeBy: createdBy ?? '', madeAt: createdAt };
  return [
    store.contents.begin({ id: content, size: file.bytes.length, mediaType: file.mediaType, ...made }),
    store.contents.addChunk(content, 0, file.bytes),
    store.contents.saveVersion(id, {
      itemVersion: 1,
      number: Number(fields.version ?? 1),
      name: String(fields.name ?? id),
      content,
      ...made,
    }),
  ];
}

/** Rules with their versions and phases, as they went live. */
async function writeRules(pool: Pool, now: number): Promise<void> {
  await inTransaction(pool, async (on) => {
    await run(on, store.world.raise());
    for (const { phase, since } of standings(now)) {
      const { rule, version } = phase.compiled;
      const isFirst = phase.epoch === 1;
      const isNewVersion =
        isFirst || !(await rows(on, store.rules.versions(rule.id))).some((known) => known.version === version);
      await runAll(on, [
        ...(isFirst ? [store.rules.create(rule, rule.owner, since - HOUR_MS)] : []),
        ...(isNewVersion ? store.rules.putLive(rule, version, rule.owner, since) : []),
        ...store.rules.beginPhase(phase, rule.owner, since),
      ]);
    }
  });
}

/** The diligent have read what was there when they looked; of the rest some, more of what is urgent, less of what is noisy. */
async function readMessages(pool: Pool, acts: readonly Act[], now: number): Promise<void> {
  for (const act of acts) {
    if (act.do === 'read')
      await run(
        pool,
        query(
          "UPDATE messages SET read_at = ? WHERE person_id = ? AND channel = 'inApp' AND read_at IS NULL AND at <= ?",
          sqlTime(act.at),
          act.person,
          sqlTime(act.at),
        ),
      );
  }
  await run(
    pool,
    query(
      `UPDATE messages SET read_at = at + INTERVAL (30 + CRC32(id) % 400) MINUTE WHERE channel = 'inApp' AND read_at IS NULL AND at < ?
    AND CRC32(CONCAT('read', id)) % 1000 < CASE urgency WHEN 'critical' THEN 850 WHEN 'important' THEN 600 ELSE 120 END`,
      sqlTime(now - 30 * HOUR_MS),
    ),
  );
}

/** The last days' messages go out by the doors that all take, on a clock that runs through those days. */
async function sendLately(pool: Pool, { now, site, from, ports, hookSecret }: Order): Promise<void> {
  const clock = new SettableClock(now - SENT_DAYS * DAY_MS);
  const log = pino({ level: 'error' }, pino.destination(2));
  const standIns = [
    await startMailStandIn({ pool, clock, port: ports.mail, reportsPort: null }),
    await startTextStandIn({ pool, clock, port: ports.text, token: 'seed', receiptsUrl: null }),
    await startWebhookStandIn(pool, clock, ports.hook, hookSecret),
  ];
  const carriers = {
    email: mailCarrier({ url: `smtp://127.0.0.1:${ports.mail}`, from }),
    text: textCarrier({ url: `http://127.0.0.1:${ports.text}/texts`, token: 'seed' }),
    webhook: webhookCarrier({ isInsideAllowed: true }),
  };
  const sender = new Sender({
    pool,
    directory: new DirectoryCache(),
    site,
    clock,
    log,
    signedLinks: new SignedLinks(pool),
    carriers,
    reports: null,
    onNobodyThere: () => Promise.resolve([]),
    onFate: () => undefined,
  });
  for (let at = now - SENT_DAYS * DAY_MS; at < now; at += HOUR_MS) {
    clock.set(at + HOUR_MS);
    await sender.drain();
  }
  await sender.stop();
  for (const standIn of standIns) await standIn.close();
}

const order = JSON.parse(process.env.OJO_SEED_ORDER ?? 'null') as Order | null;
if (!order) {
  process.stderr.write('This lays out the demo and is run by npm start.\n');
  process.exit(2);
}
await seed(order);
