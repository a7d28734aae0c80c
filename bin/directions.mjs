// Checks the import directions, and that the check saw the whole tree: a check of no modules passes everything.
import { spawnSync } from 'node:child_process';
import { giveUp } from './prepare.mjs';

const LEAST = 120;
const done = spawnSync(
  process.execPath,
  [
    'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
    '--config',
    '.dependency-cruiser.cjs',
    'core',
    'contract',
    'server',
    'web',
    'demo',
    'e2e',
    'bench',
  ],
  { encoding: 'utf8' },
);
process.stdout.write(done.stdout + done.stderr);
if (done.status !== 0) giveUp('Some imports go where they may not.');
const seen = Number(/\((\d+) modules/.exec(done.stdout)?.[1] ?? 0);
if (seen < LEAST)
  giveUp(
    `The check of import directions saw ${seen} modules, and there are at least ${LEAST}: it did not look at the tree.`,
  );
