// npm start: everything, on a fresh machine too. Each step says what it does and is skipped when it is done.
import { spawn } from 'node:child_process';
import { buildPages, checkNode, installDebian, installPackages, say } from './prepare.mjs';

const words = process.argv.slice(2);
const isDev = words.includes('--dev');

checkNode();
installPackages();
installDebian({ mariadbd: 'mariadb-server' });
if (!isDev) buildPages();

// While developing, the server begins again whenever a file it imports has changed.
const run = isDev ? ['node_modules/tsx/dist/cli.mjs', 'watch', '--clear-screen=false'] : ['--import', 'tsx'];
const children = [spawn(process.execPath, [...run, 'server/boot/main.ts', ...words.filter((word) => word !== '--dev')], { stdio: ['ignore', 'inherit', 'inherit'] })];
if (isDev) {
  children.push(spawn(process.execPath, ['node_modules/vite/bin/vite.js', '--port', '4309', '--strictPort'], { stdio: 'inherit' }));
  say('Pages', 'are built as they are edited, at http://localhost:4309');
}

for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP'])) {
  process.on(signal, () => {
    for (const child of children) child.kill(signal === 'SIGINT' ? 'SIGTERM' : signal);
  });
}
for (const child of children) {
  child.on('exit', (code) => {
    for (const other of children) if (other !== child) other.kill('SIGTERM');
    process.exitCode = code ?? 1;
  });
}
