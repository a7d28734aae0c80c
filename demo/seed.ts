import { hash } from '@node-rs/argon2';
import type { Pool } from 'mysql2/promise';
import { pino } from 'pino';
import { mailCarrier, Sender, textCarrier, webhookCarrier } from '../server/delivery/index.ts';
import { passDoor, publishRule } from '../server/intake/index.ts';
import { Runner, SettableClock } from '../server/runner/index.ts';
import { startMailStandIn, startTextStandIn } from '../server/standins/index.ts';
import { type Connecting, createRuleQuery, DirectoryCache, inTransaction, one, openPool, query, raiseWorldQuery, run, saveFileQuery, sqlTime } from '../server/store/index.ts';
import { Chance } from './chance.ts';
import { paperFile } from './documents.ts';
import { GROUPS, PEOPLE } from './people.ts';
import { RULES } from './rules.ts';
import { ACCESS, FOLDERS, SOURCES } from './sources.ts';
import { type Deed, tellStory } from './story.ts';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const SEED = 20260304;

/** What the starting program hands over: where the database is, when it is now, where Ojo will stand. */
interface Order {
  connecting: Connecting;
  now: number;
  site: { base: string; name: string };
  from: { name: string; address: string };
  password: string;
  ports: { mail: number; text: number };
}

/** Lays out the demo: everything enters by the doors that people use, on a clock that runs through the last three months. */
async function seed(order: Order): Promise<void> {
  const pool = openPool(order.connecting);
  const chance = new Chance(SEED);
  const clock = new SettableClock(order.now - 100 * DAY);
  const log = pino({ level: 'warn' }, pino.destination(2));
  await layOut(pool, order.password);
  const deeds = tellStory(order.now, chance);
  const directory = new DirectoryCache();
  const mail = await startMailStandIn(pool, clock, order.ports.mail);
  const text = await startTextStandIn(pool, clock, order.ports.text, 'seed');
  const carriers = { email: mailCarrier({ url: `smtp://127.0.0.1:${order.ports.mail}`, from: order.from }), text: textCarrier({ url: `http://127.0.0.1:${order.ports.text}/texts`, token: 'seed' }), webhook: webhookCarrier() };
  const sender = new Sender({ pool, directory, site: order.site, clock, log, carriers, onFate: () => undefined });
  const runner = new Runner({ pool, directory, site: order.site, clock, log, onArrivals: () => undefined, onOutgoing: () => undefined, onDecided: () => undefined });
  const first = Math.min(...RULES.map(({ daysAgo }) => order.now - daysAgo * DAY));
  await enter(pool, deeds.filter((deed) => deed.at < first));
  clock.set(first);
  await runner.drain();
  await putLive(pool, order.now);
  for (let from = first, next = 0; from < order.now; from = next) {
    next = Math.min(from + 4 * HOUR, order.now);
    const done = deeds.filter((deed) => deed.at >= from && deed.at < next);
    await enter(pool, done);
    clock.set(next);
    await runner.drain();
    await sender.drain();
    await readSome(pool, next, order.now, chance);
  }
  await run(pool, query("INSERT INTO marks (name, at) VALUES ('demo', ?)", sqlTime(order.now)));
  const counts = await one<{ items: number; changes: number; messages: number }>(pool, query('SELECT (SELECT COUNT(*) FROM items) AS items, (SELECT COUNT(*) FROM changes) AS changes, (SELECT COUNT(*) FROM messages) AS messages'));
  await sender.stop();
  await Promise.all([mail.close(), text.close()]);
  await pool.end();
  process.stdout.write(`${JSON.stringify(counts)}\n`);
}

async function layOut(pool: Pool, password: string): Promise<void> {
  const secret = await hash(password, { memoryCost: 19_456, timeCost: 2, parallelism: 1 });
  await inTransaction(pool, async (on) => {
    const people = PEOPLE.map((p) => [p.id, p.name, p.title, p.email, p.phone, p.zone, p.locale, p.manager, p.active ? 1 : 0, p.role, p.plan === null ? null : JSON.stringify(p.plan), secret]);
    await run(on, query('INSERT INTO people (id, name, title, email, phone, zone, locale, manager_id, is_active, role, plan, password_hash) VALUES ?', people));
    await run(on, query('INSERT INTO groups_of_people (id, name) VALUES ?', GROUPS.map((group) => [group.id, group.name])));
    const members = GROUPS.flatMap((group) => [...group.members.map((id) => [group.id, 'person', id]), ...group.groups.map((id) => [group.id, 'group', id])]);
    await run(on, query('INSERT INTO group_members (group_id, kind, member_id) VALUES ?', members));
    await run(on, query('INSERT INTO sources (id, kind, name, about, title_field, fields, position) VALUES ?', SOURCES.map((one, at) => [one.id, one.kind, one.name, one.about, one.titleField, JSON.stringify(one.fields), at])));
    await run(on, query('INSERT INTO folders (id, source_id, name, parent_id) VALUES ?', FOLDERS.map((one) => [one.id, one.source, one.name, one.parent])));
    await run(on, query('INSERT INTO access_entries (source_id, folder_id, readers) VALUES ?', ACCESS.map((one) => [one.source ?? null, one.folder ?? null, JSON.stringify(one.readers)])));
    await run(on, raiseWorldQuery());
  });
}

/** Enters deeds by the one door, a hundred in a transaction. */
async function enter(pool: Pool, deeds: Deed[]): Promise<void> {
  const sources = new Map(SOURCES.map((source) => [source.id, source]));
  for (let at = 0; at < deeds.length; at += 100) {
    await inTransaction(pool, async (on) => {
      for (const { source: id, ...deed } of deeds.slice(at, at + 100)) {
        const source = sources.get(id);
        if (!source) throw new Error(`the story speaks of a source ${id}`);
        const name = id === 'papers' && (deed.kind === 'created' || deed.kind === 'contentAdded') ? String(deed.set?.name ?? '') : '';
        await passDoor(on, { ...deed, source, ...(name ? { also: () => [fileOf(deed.item, name)] } : {}) });
      }
    });
  }
}

function fileOf(item: string, name: string) {
  const file = paperFile(name, 1, ['A paper of Marisma Museum, a made-up museum of craft.', 'Whoever opens it sees that the document is really there.']);
  return saveFileQuery(item, 1, file.mediaType, file.bytes);
}

async function putLive(pool: Pool, now: number): Promise<void> {
  for (const { rule, daysAgo } of RULES) {
    const from = now - daysAgo * DAY;
    await inTransaction(pool, async (on) => {
      await run(on, createRuleQuery(rule, rule.owner, from - HOUR));
      await publishRule(on, rule, 1, rule.owner, from);
    });
  }
}

/** People read what matters and leave the rest: within the hours of work, more of what is urgent, less of what is noisy. */
async function readSome(pool: Pool, at: number, now: number, chance: Chance): Promise<void> {
  if (at > now - 30 * HOUR) return;
  // Some never let an inbox grow: what is a day old they have seen.
  await run(pool, query(`UPDATE messages SET read_at = ? WHERE channel = 'inApp' AND read_at IS NULL AND (
      (at > ? AND CRC32(CONCAT(id, ?)) % 1000 < CASE urgency WHEN 'critical' THEN 500 WHEN 'important' THEN 260 ELSE 40 END)
      OR (at < ? AND person_id IN ('ines', 'mei', 'sol', 'teo', 'noor', 'tomas')))`,
  sqlTime(at), sqlTime(at - 30 * HOUR), chance.whole(1, 1_000_000), sqlTime(at - 26 * HOUR)));
}

const order = JSON.parse(process.env.OJO_SEED_ORDER ?? 'null') as Order | null;
if (!order) {
  process.stderr.write('This lays out the demo and is run by npm start.\n');
  process.exit(2);
}
await seed(order);
