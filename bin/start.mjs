// npm start: everything, on a fresh machine too. Each step says what it does and is skipped when it is done.
import { spawn } from 'node:child_process';
import { setTimeout as delay } from 'node:timers/promises';
import { AS_SERVER, buildPages, checkNode, installDebian, installPackages, say } from './prepare.mjs';

const words = process.argv.slice(2);
const isDev = words.includes('--dev');
/** How a server ends where it would end so again. */
const CANNOT_START = 78;
/** A server that lived so long, in ms, is brought back at once; one that did not, after a pause that grows. */
const LIVED_MS = 60_000;
const LONGEST_PAUSE_MS = 60_000;
/** Each further server has the port so much above the one before. */
const PORTS_APART = 10;
const MOST_SERVERS = 9;
const servers = serversAsked();

checkNode();
installPackages();
installDebian({ mariadbd: 'mariadb-server' });
if (!isDev) buildPages();

/** @type {Set<import('node:child_process').ChildProcess>} */
const children = new Set();
let isOver = false;
/** @type {Set<NodeJS.Timeout>} */
const waiting = new Set();

/** How many servers are asked for by `--servers N`: one where nobody says. */
function serversAsked() {
  const at = words.indexOf('--servers');
  if (at < 0) return 1;
  const [, count] = words.splice(at, 2);
  if (/^[1-9]$/.test(count ?? '')) return Number(count);
  process.stderr.write(`--servers wants how many, from 1 to ${MOST_SERVERS}:  npm start -- --servers 3\n`);
  return process.exit(CANNOT_START);
}

/** @param {string[]} command @param {Record<string, string>} more */
function begin(command, more = {}) {
  const child = spawn(process.execPath, command, {
    stdio: ['inherit', 'inherit', 'inherit'],
    env: { ...process.env, ...more },
  });
  children.add(child);
  child.on('exit', () => children.delete(child));
  return child;
}

/** @param {number} code */
function endAll(code) {
  isOver = true;
  for (const timer of waiting) clearTimeout(timer);
  process.exitCode = code;
  for (const child of children) child.kill('SIGTERM');
}

/**
 * Starts a server, and again whenever it has died. The first has the stand-ins; any may die, the others go on.
 * @param {string[]} own @param {number} number @param {number} failures how often it has died in a row
 */
function serve(own, number = 1, failures = 0) {
  const began = performance.now();
  // While developing, the server begins again whenever a file it imports has changed.
  const run = isDev ? ['node_modules/tsx/dist/cli.mjs', 'watch', '--clear-screen=false'] : AS_SERVER;
  begin([...run, 'server/boot/main.ts', ...own], { OJO_SERVER: String(number) }).on('exit', (code, signal) => {
    if (isOver) return;
    if (isDev || code === 0 || code === CANNOT_START) return endAll(code ?? 1);
    const died = performance.now() - began > LIVED_MS ? 1 : failures + 1;
    const pause = Math.min(LONGEST_PAUSE_MS, died === 1 ? 200 : 500 * 2 ** (died - 1));
    say(
      servers > 1 ? `Server ${number}` : 'Server',
      `has ended unexpectedly (${signal ?? `code ${code}`}) and is started again in ${(pause / 1000).toFixed(1)} s`,
    );
    const timer = setTimeout(() => {
      waiting.delete(timer);
      // What was to begin anew has begun: the data it has now is kept.
      serve(
        own.filter((word) => !word.startsWith('--fresh')),
        number,
        died,
      );
    }, pause);
    waiting.add(timer);
  });
}

/** Starts the others once the first has made everything ready. */
async function serveFurther() {
  const port = Number(process.env.OJO_PORT ?? 4310);
  while (!isOver) {
    const answer = await fetch(`http://127.0.0.1:${port}/ready`).catch(() => null);
    if (answer?.ok) break;
    await delay(500);
  }
  for (let number = 2; number <= servers && !isOver; number++) {
    serve([], number);
    say(`Server ${number}`, `port ${port + PORTS_APART * (number - 1)}`);
  }
}

serve(words.filter((word) => word !== '--dev'));
if (servers > 1) serveFurther().catch(() => endAll(1));
if (isDev) {
  begin(['node_modules/vite/bin/vite.js', '--port', '4309', '--strictPort']).on('exit', (code) => endAll(code ?? 1));
  say('Pages', 'are built as they are edited, at http://localhost:4309');
}

for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP'])) {
  process.on(signal, () => {
    // A second signal is passed on as well, and ends the server at once.
    if (!isOver && children.size === 0) process.exitCode = 0;
    endAll(Number(process.exitCode ?? 0));
  });
}
