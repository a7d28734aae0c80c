// What has to be on the machine before anything of Ojo can run. Plain JavaScript: it runs before the packages are there.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
process.chdir(ROOT);

/** How Node runs a server: TypeScript as it stands, and room for what lives a moment only, of which a turn of deciding makes much. */
export const AS_SERVER = ['--max-semi-space-size=32', '--import', 'tsx'];

/** @param {string} name @param {string} what */
export const say = (name, what) => process.stdout.write(`${name.padEnd(15)} ${what}\n`);

/** Ends with a sentence and a code. @param {string} sentence @returns {never} */
export function giveUp(sentence, code = 1) {
  process.stderr.write(`${sentence}\n`);
  process.exit(code);
}

/** @param {string} text */
const hashOf = (text) => createHash('sha256').update(text).digest('hex');

export function checkNode() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 15))
    giveUp(`Ojo needs Node.js 20.15 or later; this is ${process.versions.node}.`);
}

/** Installs the packages of package-lock.json, unless exactly these are there. */
export function installPackages() {
  const lock = hashOf(readFileSync('package-lock.json', 'utf8'));
  const marker = 'node_modules/.ojo-lock';
  if (existsSync(marker) && readFileSync(marker, 'utf8') === lock) return say('Packages', 'are there');
  say('Packages', 'are being installed, about a minute');
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (done.status !== 0)
    giveUp('npm could not install the packages; what it said stands above. Is the package registry reachable?');
  writeFileSync(marker, lock);
}

/** @param {string} program */
const isThere = (program) =>
  ['/usr/bin', '/usr/sbin', '/usr/local/bin', '/usr/local/sbin', ...(process.env.PATH ?? '').split(':')].some(
    (folder) => existsSync(join(folder, program)),
  );

/**
 * Installs Debian's packages for the programs that are missing.
 * @param {Record<string, string>} wanted program by package
 */
export function installDebian(wanted) {
  const missing = Object.entries(wanted).filter(([program]) => !isThere(program));
  for (const [program, name] of Object.entries(wanted)) if (isThere(program)) say(name, 'is there');
  if (missing.length === 0) return;
  const names = missing.map(([, name]) => name);
  const command = `apt-get install -y ${names.join(' ')}`;
  if (!isThere('apt-get'))
    giveUp(
      `Ojo needs ${names.join(' and ')}, and this is no Debian. Install what provides ${missing.map(([program]) => program).join(' and ')}, then start again.`,
    );
  if (process.getuid?.() !== 0)
    giveUp(`Ojo needs Debian's ${names.join(' and ')}. Run  sudo ${command}  once, then start again.`);
  say(names.join(', '), 'being installed from Debian, about half a minute');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  for (const words of [['update'], ['-o', 'DPkg::Lock::Timeout=300', 'install', '-y', ...names]]) {
    const done = spawnSync('apt-get', ['-q', ...words], { env, stdio: ['ignore', 'pipe', 'pipe'], encoding: 'utf8' });
    if (done.status !== 0)
      giveUp(
        `apt-get could not install ${names.join(' and ')}:\n${done.stderr.trim().split('\n').slice(-4).join('\n')}`,
      );
  }
}

/** @param {string} folder @returns {string[]} */
function filesBelow(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    return entry.isDirectory() ? filesBelow(path) : [path];
  });
}

/** Builds the pages, unless nothing that goes into them has changed. */
export function buildPages() {
  const files = ['core', 'contract', 'web']
    .flatMap(filesBelow)
    .filter((path) => !/\.test\.tsx?$|\.json$/.test(path))
    .concat('vite.config.ts', 'index.html', 'package-lock.json')
    .sort();
  const state = hashOf(files.map((path) => `${path} ${hashOf(readFileSync(path, 'utf8'))}`).join('\n'));
  const marker = 'dist/.built-from';
  if (existsSync(marker) && readFileSync(marker, 'utf8') === state) return say('Pages', 'are built');
  say('Pages', 'are being built');
  rmSync('dist', { recursive: true, force: true });
  try {
    execFileSync(process.execPath, ['node_modules/vite/bin/vite.js', 'build', '--logLevel', 'error'], {
      stdio: ['ignore', 'inherit', 'inherit'],
    });
  } catch {
    giveUp('The pages could not be built; what the builder said stands above.');
  }
  if (!statSync('dist/index.html').isFile()) giveUp('The pages could not be built: dist/index.html is missing.');
  writeFileSync(marker, state);
}
