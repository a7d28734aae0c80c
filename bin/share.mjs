// Says how much of the code is tests, and how much of it they run, room by room.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { giveUp, say } from './prepare.mjs';

/** @type {[room: string, path: RegExp][]} */
const ROOMS = [
  ['core/time, values', /^core\/(time|values|locales)\//],
  ['core/people', /^core\/people\//],
  ['core/rules, pace', /^core\/(rules|pace)\//],
  ['core/tables, documents', /^core\/(tables|documents)\//],
  ['core/messages', /^core\/messages\//],
  ['core/decide', /^core\/decide\//],
  ['contract', /^contract\//],
  ['cli', /^cli\//],
  ['server/store', /^server\/(store|intake|migrations)\//],
  ['server/runner', /^server\/(runner|delivery|live)\//],
  ['server/http', /^server\/(http|access|acts|signed-links)\//],
  ['server/replay', /^server\/replay\//],
  ['server, rest', /^server\/(boot|kit|standins|contents|tables|finding)\//],
  ['web/parts, forms', /^web\/(parts|forms|queries|app)\//],
  ['web/pages', /^web\/pages\//],
  ['demo', /^demo\//],
];
/** What tests, and what only tests use: twins, stands for the server, flows. */
const TESTS = /\.test\.tsx?$|\.flow\.ts$|^e2e\/|\/testing\/|^core\/reference\//;
/** Words are data, as cases are. */
const DATA = /(^|\/)(en|es)(\/[\w-]+)?\.ts$|\.(en|es)\.ts$/;
/** What tests are to be of the code, at least. */
const LEAST = 0.245;

const FOLDERS = ['core', 'contract', 'cli', 'server', 'web', 'demo', 'e2e', 'bench', 'bin'];
const files = FOLDERS.flatMap((folder) =>
  readdirSync(folder, { recursive: true }).map((name) => join(folder, String(name))),
).filter((path) => /\.(ts|tsx|mjs)$/.test(path) && !DATA.test(path));
const linesOf = (/** @type {string} */ path) => readFileSync(path, 'utf8').split('\n').length - 1;
const sum = (/** @type {string[]} */ paths) => paths.reduce((lines, path) => lines + linesOf(path), 0);

/** @type {Record<string, { lines: { total: number, covered: number } }>} */
const covered = existsSync('coverage/coverage-summary.json')
  ? JSON.parse(readFileSync('coverage/coverage-summary.json', 'utf8'))
  : {};
const here = `${process.cwd()}/`;
const percent = (/** @type {number} */ part) => `${Math.round(part * 100)} %`.padStart(5);

say('', 'lines  tests  run by tests');
for (const [room, path] of ROOMS) {
  const own = files.filter((file) => path.test(file));
  const tests = own.filter((file) => TESTS.test(file));
  const run = Object.entries(covered)
    .filter(([file]) => path.test(file.replace(here, '')))
    .reduce(([all, some], [, { lines }]) => [all + lines.total, some + lines.covered], [0, 0]);
  const shown = run[0] > 0 ? percent(run[1] / run[0]) : '    –';
  say('', `${String(sum(own)).padStart(5)}  ${percent(sum(tests) / sum(own))}  ${shown}   ${room}`);
}
const share = sum(files.filter((file) => TESTS.test(file))) / sum(files);
say('', `tests are ${(share * 100).toFixed(1)} % of ${sum(files)} lines, words and cases aside`);
if (share < LEAST) giveUp(`Tests are less than ${LEAST * 100} % of the code.`);
