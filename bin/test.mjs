// npm test: everything that has to hold, on a fresh machine too.
import { spawnSync } from 'node:child_process';
import { buildPages, checkNode, giveUp, installDebian, installPackages, say } from './prepare.mjs';

checkNode();
installPackages();
installDebian({ mariadbd: 'mariadb-server', chromium: 'chromium' });
buildPages();

const node = (/** @type {string} */ file, /** @type {string[]} */ ...words) => [process.execPath, file, ...words];

/** A Sunday, a month's last days, ten minutes before clocks go forward: whatever is asked for by day must hold then too. */
const STRANGE_HOUR = '2026-03-29T01:50:00+01:00';
const vitest = 'node_modules/vitest/vitest.mjs';
const flows = node('node_modules/@playwright/test/cli.js', 'test');

// Of what is done and told, days and hours decide; pages, doors and rights are the same at any hour.
const BY_THE_HOUR = ['told', 'loan-on-view', 'every-form', 'documents', 'rules', 'sentences'];
const nightFlows = [...flows, ...BY_THE_HOUR.map((name) => `${name}.flow`)];

/** @type {[name: string, what: string, command: string[], env?: Record<string, string>][]} */
const CHECKS = [
  ['Lint', 'Biome', node('node_modules/@biomejs/biome/bin/biome', 'check', '--error-on-warnings', '.')],
  ['Types', 'TypeScript, strict', node('node_modules/typescript/bin/tsc', '--noEmit')],
  ['Docstrings', 'of every export of core, contract and store', node('bin/docstrings.mjs')],
  ['Directions', 'who imports whom', node('bin/directions.mjs')],
  ['Size', 'JavaScript before the first page', node('bin/first-screen.mjs')],
  ['Audit', 'known faults of packages, as far as they are told', node('bin/audit.mjs')],
  ['Unused', 'knip', node('node_modules/knip/bin/knip.js')],
  ['Tests', 'Vitest: core, contract, server, web', node(vitest, 'run', '--coverage', '--reporter=default')],
  ['Share', 'tests against code, and how much of it they run', node('bin/share.mjs')],
  ['Drill', 'three kills while people work', node('bin/drill.mjs', 'kill', '--short')],
  ['Flows', 'Playwright, in Debian’s Chromium', flows],
  ['Night', `flows that go by the hour, begun at ${STRANGE_HOUR}`, nightFlows, { OJO_TEST_CLOCK: STRANGE_HOUR }],
];

const wanted = process.argv.slice(2).map((word) => word.toLowerCase());
let failed = 0;
let passed = 0;
for (const [name, what, command, env = {}] of CHECKS) {
  if (wanted.length > 0 && !wanted.includes(name.toLowerCase())) continue;
  const began = performance.now();
  say(name, what);
  const [program = '', ...words] = command;
  const done = spawnSync(program, words, { stdio: 'inherit', env: { ...process.env, ...env } });
  const seconds = ((performance.now() - began) / 1000).toFixed(1);
  if (done.status === 0) passed += 1;
  else failed += 1;
  say('', `${done.status === 0 ? 'passed' : 'FAILED'} in ${seconds} s\n`);
}
process.stdout.write(`checks: ${passed} passed, ${failed} failed\n`);
if (failed > 0) giveUp('Not everything holds; what failed stands above.');
