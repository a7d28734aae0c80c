// Says how much JavaScript comes before the first page shows, and fails where that is more than it may be.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { giveUp, say } from './prepare.mjs';

const MOST_KB = 200;
const ASSETS = 'dist/assets';

/** The scripts that a script needs before it runs, itself among them. @param {string} name @param {Set<string>} found */
function withImports(name, found) {
  if (found.has(name)) return found;
  found.add(name);
  const code = readFileSync(join(ASSETS, name), 'utf8');
  for (const [, other = ''] of code.matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/g)) withImports(other, found);
  return found;
}

const found = new Set();
for (const [, name = ''] of readFileSync('dist/index.html', 'utf8').matchAll(/assets\/([^"]+\.js)"/g))
  withImports(name, found);
// Its words and styles are chunks of that name as well: the page is the one that is most.
const sizeOf = (/** @type {string} */ name) => readFileSync(join(ASSETS, name)).length;
const [today] = readdirSync(ASSETS)
  .filter((name) => /^today-.*\.js$/.test(name))
  .sort((a, b) => sizeOf(b) - sizeOf(a));
if (!today) giveUp('The built pages have no Today: build them first.');
withImports(String(today), found);
const bytes = [...found].reduce((sum, name) => sum + gzipSync(readFileSync(join(ASSETS, String(name)))).length, 0);
const kb = Math.round(bytes / 1000);
say('', `${found.size} scripts before the first page, ${kb} kB compressed; at most ${MOST_KB}`);
if (kb > MOST_KB)
  giveUp(`The first page needs ${kb} kB of JavaScript, more than ${MOST_KB}. Look at what its chunks hold.`);
