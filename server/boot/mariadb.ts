import { execFileSync, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  accessSync,
  chmodSync,
  closeSync,
  constants,
  existsSync,
  mkdirSync,
  openSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import { dirname, join } from 'node:path';
import { growingPause } from '../kit/index.ts';
import type { Connecting } from '../store/index.ts';
import { StartError } from './start-error.ts';

const PATH = `${process.env.PATH ?? ''}:/usr/sbin:/usr/local/sbin`;
const MARKER = 'finished';
/** Whom Ojo itself is in MariaDB. The one who looks after MariaDB has the name of the operating system's user there. */
const OWN_USER = 'ojo_app';
/** Ojo's own user in data of former versions, which was also the name of whoever runs as `ojo`. */
const FORMER_USER = 'ojo';

export interface Database {
  connecting: Connecting;
  /** Whether this call started the server. */
  isOurs: boolean;
  stop(): Promise<void>;
}

/**
 * Starts MariaDB on loopback with its data in a folder of its own, or finds it running there; brings it back with
 * growing pauses and a word when it dies. Whoever stops last ends it: while others use it, it goes on.
 */
export async function startMariaDb(
  folder: string,
  port: number,
  password: string,
  say: (what: string) => void = () => undefined,
): Promise<Database> {
  mkdirSync(folder, { recursive: true });
  const user = runsAs(folder);
  const place: Place = { folder, data: join(folder, 'mariadb'), socket: socketPath(folder), user };
  install(folder, place.data, user);
  const isRunning = isAnswering(place.socket);
  const shownPort = isRunning ? portOf(place.socket) : port;
  if (!isRunning) await launch(place, port);
  admit(place.socket, password);
  const watch = new MariaDbWatch(place, shownPort, say);
  return {
    connecting: { host: '127.0.0.1', port: shownPort, user: OWN_USER, password },
    isOurs: !isRunning,
    stop: async () => {
      await watch.stop();
      const others = othersAt(place.socket);
      if (others > 0) say('goes on, since others use it');
      else await end(place);
    },
  };
}

/** Where MariaDB's data is, and as whom it runs. */
interface Place {
  folder: string;
  data: string;
  socket: string;
  user: string;
}

const LOOK_MS = 1000;

/** Looks again and again whether MariaDB answers, and starts it where it does not. */
class MariaDbWatch {
  private timer: NodeJS.Timeout;
  private looking: Promise<void> = Promise.resolve();
  private failures = 0;
  private isOver = false;

  constructor(
    private readonly place: Place,
    private readonly port: number,
    private readonly say: (what: string) => void,
  ) {
    this.timer = setTimeout(() => this.begin(), LOOK_MS);
  }

  async stop(): Promise<void> {
    this.isOver = true;
    clearTimeout(this.timer);
    await this.looking;
  }

  private begin(): void {
    this.looking = this.look()
      .catch((error: Error) => this.say(error.message))
      .finally(() => {
        if (!this.isOver)
          this.timer = setTimeout(
            () => this.begin(),
            this.failures === 0 ? LOOK_MS : growingPause(this.failures, LOOK_MS, 30_000),
          );
      });
  }

  private async look(): Promise<void> {
    if (await isListening(this.port)) {
      this.failures = 0;
      return;
    }
    // A second look: a server that is busy may be slow to take a connection.
    if (this.isOver || (await isListening(this.port))) return;
    this.failures += 1;
    this.say(
      `has ended unexpectedly and is started again${this.failures > 1 ? `, for the ${this.failures}th time` : ''}`,
    );
    await launch(this.place, this.port);
    this.say(`is back, port ${this.port}`);
  }
}

function isListening(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const probe = connect({ host: '127.0.0.1', port, timeout: 2000 });
    const answer = (is: boolean) => {
      probe.destroy();
      resolve(is);
    };
    probe
      .once('connect', () => answer(true))
      .once('timeout', () => answer(true))
      .once('error', () => answer(false));
  });
}

/** As root, MariaDB runs as Debian's `mysql` where that user can reach the folder; otherwise as whoever starts it. */
function runsAs(folder: string): string {
  if (process.getuid?.() !== 0) return userInfo().username;
  for (let at = folder; at !== dirname(at); at = dirname(at)) {
    if (at !== folder && (statSync(at).mode & 0o001) === 0) return 'root';
  }
  return 'mysql';
}

/** A socket's path has at most 107 bytes: a long project path gets a short one below the temporary folder. */
function socketPath(folder: string): string {
  const near = join(folder, 'mariadb.sock');
  return Buffer.byteLength(near) <= 100
    ? near
    : join(tmpdir(), `ojo-${createHash('sha256').update(folder).digest('hex').slice(0, 12)}.sock`);
}

function install(folder: string, data: string, user: string): void {
  // A folder that holds Ojo's own tables was finished once, whatever became of the mark.
  if (existsSync(join(data, MARKER)) || existsSync(join(data, 'ojo'))) return;
  // A half-made folder is of no use to anybody.
  rmSync(data, { recursive: true, force: true });
  mkdirSync(data, { recursive: true });
  if (user === 'mysql') for (const path of [folder, data]) execFileSync('chown', ['mysql', path]);
  try {
    execFileSync(
      'mariadb-install-db',
      [
        '--no-defaults',
        `--user=${user}`,
        `--datadir=${data}`,
        '--skip-test-db',
        '--skip-name-resolve',
        '--auth-root-authentication-method=socket',
        `--auth-root-socket-user=${userInfo().username}`,
      ],
      { env: { ...process.env, PATH }, stdio: 'pipe' },
    );
  } catch (error) {
    throw new StartError(
      `MariaDB could not set up its data in ${data}: ${String((error as { stderr?: Buffer }).stderr ?? error)
        .trim()
        .split('\n')
        .at(-1)}`,
    );
  }
  writeFileSync(join(data, MARKER), '');
}

/** How \`flock\` says that the lock is another's. */
const TAKEN = 77;

async function launch({ folder, data, socket, user }: Place, port: number): Promise<void> {
  const log = join(folder, 'mariadb.log');
  const tmp = join(folder, 'tmp');
  mkdirSync(tmp, { recursive: true });
  for (const file of [log, join(folder, 'mariadb.lock')]) closeSync(openSync(file, 'a'));
  if (user === 'mysql') execFileSync('chown', ['mysql', folder, tmp, log]);
  // MariaDB holds the lock for as long as it lives: of several that start it at once one does, the others find it.
  const child = spawn(
    'flock',
    [
      '--nonblock',
      '--no-fork',
      '--conflict-exit-code',
      String(TAKEN),
      join(folder, 'mariadb.lock'),
      'mariadbd',
      '--no-defaults',
      `--user=${user}`,
      `--datadir=${data}`,
      `--tmpdir=${tmp}`,
      `--socket=${socket}`,
      `--pid-file=${join(data, 'mariadb.pid')}`,
      `--port=${port}`,
      '--bind-address=127.0.0.1',
      '--skip-name-resolve',
      `--log-error=${log}`,
      '--character-set-server=utf8mb4',
      '--collation-server=utf8mb4_unicode_ci',
      '--innodb-flush-log-at-trx-commit=1',
      '--innodb-buffer-pool-size=256M',
      // Short words are found too, and none is passed over in any language.
      '--innodb-ft-min-token-size=2',
      '--innodb-ft-enable-stopword=OFF',
      '--max-allowed-packet=64M',
    ],
    { env: { ...process.env, PATH }, stdio: 'ignore', detached: true },
  );
  child.unref();
  let ended: string | null = null;
  child.on('error', (error) => {
    ended = error.message;
  });
  child.on('exit', (code) => {
    if (code !== TAKEN) ended ??= `it ended with code ${code}`;
  });
  let lastSaid = '';
  for (const limit = performance.now() + 60_000; performance.now() < limit; ) {
    if (isAnswering(socket, (what) => (lastSaid = what))) return;
    if (ended !== null) {
      await refuseBusyPort(port, 'MariaDB', 'OJO_DATABASE_PORT');
      throw new StartError(`MariaDB did not start (${ended}). Its log is ${log}.`);
    }
    await new Promise((resolve) => setTimeout(resolve, 60));
  }
  throw new StartError(
    `MariaDB did not answer within a minute${lastSaid && ` (it said last: ${lastSaid})`}. Its log is ${log}.`,
  );
}

/** MariaDB that says nothing for so long, in ms, is taken to be away. */
const ANSWER_MS = 10_000;

function ask(socket: string, statement: string): string {
  return execFileSync(
    'mariadb',
    [
      '--no-defaults',
      `--socket=${socket}`,
      `--user=${userInfo().username}`,
      '--batch',
      '--skip-column-names',
      '-e',
      statement,
    ],
    { env: { ...process.env, PATH }, stdio: 'pipe', timeout: ANSWER_MS },
  ).toString();
}

function isAnswering(socket: string, onRefused: (what: string) => void = () => undefined): boolean {
  if (!existsSync(socket)) return false;
  try {
    return ask(socket, 'SELECT 1').trim() === '1';
  } catch (error) {
    onRefused(String((error as { stderr?: Buffer }).stderr ?? error).trim());
    return false;
  }
}

const portOf = (socket: string) => Number(ask(socket, 'SELECT @@port').trim());

/** The audit trail stands outside of Ojo's own database, one for all houses of a MariaDB. */
export const AUDIT = [
  'CREATE DATABASE IF NOT EXISTS audit_ojo',
  `CREATE TABLE IF NOT EXISTS audit_ojo.entries (
    seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, house VARCHAR(64) NOT NULL, at DATETIME(3) NOT NULL,
    kind VARCHAR(40) NOT NULL, actor VARCHAR(200) NOT NULL, origin VARCHAR(60) NULL, about JSON NOT NULL,
    KEY listed (house, seq))`,
];

/** Lets Ojo's own user in, over loopback only. */
function admit(socket: string, password: string): void {
  const statements = ['127.0.0.1', 'localhost'].flatMap((host) => [
    `CREATE USER IF NOT EXISTS '${OWN_USER}'@'${host}' IDENTIFIED BY '${password}'`,
    `ALTER USER '${OWN_USER}'@'${host}' IDENTIFIED BY '${password}'`,
    `GRANT ALL ON \`ojo%\`.* TO '${OWN_USER}'@'${host}'`,
    // What is written down there nobody changes: Ojo's own user adds to it, and reads it.
    `GRANT INSERT, SELECT ON audit_ojo.entries TO '${OWN_USER}'@'${host}'`,
    ...(userInfo().username === FORMER_USER ? [] : [`DROP USER IF EXISTS '${FORMER_USER}'@'${host}'`]),
  ]);
  ask(socket, [...AUDIT, ...statements].join(';'));
}

/** How many connections others have. */
function othersAt(socket: string): number {
  try {
    return Number(ask(socket, `SELECT COUNT(*) FROM information_schema.processlist WHERE user = '${OWN_USER}'`).trim());
  } catch {
    return 0;
  }
}

/** Ends MariaDB and waits until it is gone. */
async function end({ socket, data }: Place): Promise<void> {
  const pidFile = join(data, 'mariadb.pid');
  try {
    ask(socket, 'SHUTDOWN');
  } catch {
    // It is gone already, or was ended by another that stopped at the same time.
  }
  for (
    const limit = performance.now() + 20_000;
    performance.now() < limit && (existsSync(pidFile) || isAnswering(socket));
  )
    await new Promise((resolve) => setTimeout(resolve, 50));
}

/** Says in a sentence which port is taken, and how to choose another. */
export function refuseBusyPort(port: number, what: string, setting: string): Promise<void> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', (error: NodeJS.ErrnoException) => {
      reject(
        new StartError(
          error.code === 'EADDRINUSE'
            ? `Port ${port} on 127.0.0.1, meant for ${what}, is taken by another program. End that one, or set ${setting} to a free port.`
            : `Port ${port} on 127.0.0.1, meant for ${what}, cannot be opened: ${error.message}`,
        ),
      );
    });
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve()));
  });
}

/** Makes a folder level by level: the recursive call of Node 20 never comes back from where no folder can be made. */
function makeFolder(folder: string): void {
  if (existsSync(folder)) return;
  makeFolder(dirname(folder));
  mkdirSync(folder);
}

/** Refuses a folder that cannot be written, before anything is half done in it. */
export function refuseUnwritable(folder: string): void {
  try {
    makeFolder(folder);
    accessSync(folder, constants.W_OK | constants.X_OK);
    chmodSync(folder, 0o755);
  } catch {
    throw new StartError(
      `Ojo keeps its data in ${folder}, and may not write there. Give ${userInfo().username} that folder, or set OJO_DATA to another.`,
    );
  }
}
