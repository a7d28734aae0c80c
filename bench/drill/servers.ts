import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { setTimeout as delay } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));

/** How many servers are drilled. */
export const SERVERS = 3;
const FIRST_PORT = Number(process.env.OJO_DRILL_PORT ?? 4610);
/** The ports of a drill. */
export const PORTS = {
  database: FIRST_PORT + 1,
  mail: FIRST_PORT + 2,
  hook: FIRST_PORT + 4,
  web: (server: number) => FIRST_PORT + 10 + server,
};

/** Says a line. */
export const say = (text: string) => process.stdout.write(`${text}\n`);

/** A server with whoever brings it back. */
export class Server {
  private readonly keeper: ChildProcess;
  private said = '';

  constructor(
    readonly number: number,
    settings: Record<string, string>,
  ) {
    this.keeper = spawn(process.execPath, ['bin/start.mjs'], {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env,
        OJO_DEMO: 'no',
        OJO_PORT: String(PORTS.web(number)),
        OJO_SMTP_URL: `smtp://127.0.0.1:${PORTS.mail}`,
        OJO_TEXT_URL: 'http://127.0.0.1:1/',
        OJO_LOG: 'fatal',
        ...settings,
      },
    });
    for (const stream of [this.keeper.stdout, this.keeper.stderr])
      stream?.on('data', (part) => {
        this.said += String(part);
      });
  }

  async ready(): Promise<void> {
    while (!/Ojo is at/.test(this.said)) {
      if (this.keeper.exitCode !== null) throw new Error(`server ${this.number} did not start: ${this.said}`);
      await delay(100);
    }
  }

  /** Kills the server, not its keeper; whether there was one just then. */
  kill(): boolean {
    const found = readFileSync(`/proc/${this.keeper.pid}/task/${this.keeper.pid}/children`, 'utf8')
      .trim()
      .split(' ')
      .filter(Boolean);
    for (const pid of found) process.kill(Number(pid), 'SIGKILL');
    return found.length > 0;
  }

  async stop(): Promise<void> {
    if (this.keeper.exitCode !== null) return;
    const gone = new Promise((resolve) => {
      this.keeper.once('exit', resolve);
    });
    this.keeper.kill('SIGTERM');
    await gone;
  }
}

/** What a server answered. */
export interface Answer {
  status: number;
  // biome-ignore lint/suspicious/noExplicitAny: answers have every shape
  body: any;
}

const cookies = new Map<string, string>();

/** Asks one server or another until one answers; whatever is sent again goes under the same key. */
export async function ask(
  path: string,
  as: string,
  method = 'GET',
  body?: object | string,
  key: string = crypto.randomUUID(),
): Promise<Answer> {
  for (let tries = 0; ; tries++) {
    const url = `http://127.0.0.1:${PORTS.web((tries + path.length) % SERVERS)}/api${path}`;
    const isFile = typeof body === 'string';
    try {
      const response = await fetch(url, {
        method,
        headers: {
          cookie: cookies.get(as) ?? '',
          'content-type': isFile ? 'application/octet-stream' : 'application/json',
          'idempotency-key': key,
        },
        ...(body ? { body: isFile ? body : JSON.stringify(body) } : {}),
        signal: AbortSignal.timeout(12_000),
      });
      if (response.status < 500) {
        if (path === '/session' && response.ok)
          cookies.set(as, response.headers.get('set-cookie')?.split(';')[0] ?? '');
        return { status: response.status, body: response.status === 204 ? null : await response.json() };
      }
    } catch {
      // It is away just now.
    }
    await delay(100);
  }
}

/** Signs somebody of the drill in. */
export const signIn = (name: string) => ask('/session', name, 'POST', { name, password: 'bench-bench' });
