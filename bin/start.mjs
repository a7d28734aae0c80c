// npm start: everything, on a fresh machine too. Each step says what it does and is skipped when it is done.
import { spawn } from 'node:child_process';
import { buildPages, checkNode, installDebian, installPackages, say } from './prepare.mjs';

const words = process.argv.slice(2);
const isDev = words.includes('--dev');
/** How the server ends where it would end so again. */
const CANNOT_START = 78;
/** A server that lived so long, in ms, is brought back at once; one that did not, after a pause that grows. */
const LIVED_MS = 60_000;
const LONGEST_PAUSE_MS = 60_000;

checkNode();
installPackages();
installDebian({ mariadbd: 'mariadb-server' });
if (!isDev) buildPages();

/** @type {Set<import('node:child_process').ChildProcess>} */
const children = new Set();
let isOver = false;
let failures = 0;
/** @type {NodeJS.Timeout | undefined} */
let waiting;

/** @param {string[]} command */
function begin(command) {
  const child = spawn(process.execPath, command, { stdio: ['inherit', 'inherit', 'inherit'] });
  children.add(child);
  child.on('exit', () => children.delete(child));
  return child;
}

/** @param {number} code */
function endAll(code) {
  isOver = true;
  clearTimeout(waiting);
  process.exitCode = code;
  for (const child of children) child.kill('SIGTERM');
}

/** Starts the server, and again whenever it has died. @param {string[]} own */
function serve(own) {
  const began = performance.now();
  // While developing, the server begins again whenever a file it imports has changed.
  const run = isDev ? ['node_modules/tsx/dist/cli.mjs', 'watch', '--clear-screen=false'] : ['--import', 'tsx'];
  begin([...run, 'server/boot/main.ts', ...own]).on('exit', (code, signal) => {
    if (isOver) return;
    if (isDev || code === 0 || code === CANNOT_START) return endAll(code ?? 1);
    failures = performance.now() - began > LIVED_MS ? 1 : failures + 1;
    const pause = Math.min(LONGEST_PAUSE_MS, failures === 1 ? 200 : 500 * 2 ** (failures - 1));
    say(
      'Server',
      `has ended unexpectedly (${signal ?? `code ${code}`}) and is started again in ${(pause / 1000).toFixed(1)} s`,
    );
    // What was to begin anew has begun: the data it has now is kept.
    waiting = setTimeout(() => serve(own.filter((word) => !word.startsWith('--fresh'))), pause);
  });
}

serve(words.filter((word) => word !== '--dev'));
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
