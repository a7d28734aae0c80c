// npm run drill -- kill, npm run drill -- galera: servers, the database, nodes of a cluster killed while people work, and an account of what came of it.
import { spawnSync } from 'node:child_process';
import { buildPages, checkNode, giveUp, installDebian, installPackages } from './prepare.mjs';

/** What can be drilled, and how it is begun; `--short` is three kills in half a minute. */
const DRILLS = { kill: 'bench/drill/kill.ts', galera: 'bench/drill/galera.ts' };
const SHORT = { OJO_DRILL_SECONDS: '28', OJO_DRILL_KILLS: '3' };

const [wanted = 'kill', ...words] = process.argv.slice(2);
if (!Object.hasOwn(DRILLS, wanted)) giveUp(`There is no drill ${wanted}. There is: ${Object.keys(DRILLS).join(', ')}.`);
checkNode();
installPackages();
installDebian({
  mariadbd: 'mariadb-server',
  // What a node of a cluster that has just begun gets its data by.
  ...(wanted === 'galera' ? { rsync: 'rsync', lsof: 'lsof', socat: 'socat', ip: 'iproute2' } : {}),
});
buildPages();
const file = DRILLS[/** @type {keyof typeof DRILLS} */ (wanted)];
const done = spawnSync(process.execPath, ['--import', 'tsx', file], {
  stdio: 'inherit',
  env: { ...process.env, ...(words.includes('--short') ? SHORT : {}) },
});
process.exitCode = done.status ?? 1;
