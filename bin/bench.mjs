// npm run bench: figures as ratios to a stated baseline, in one run.
import { spawnSync } from 'node:child_process';
import { AS_SERVER, checkNode, installDebian, installPackages } from './prepare.mjs';

checkNode();
installPackages();
installDebian({ mariadbd: 'mariadb-server' });
const wanted = process.argv.slice(2);
for (const bench of wanted.length > 0
  ? wanted
  : ['engine', 'more', 'delivery', 'pages', 'decide', 'disk', 'hour', 'scale']) {
  const done = spawnSync(process.execPath, ['--expose-gc', ...AS_SERVER, `bench/${bench}.ts`], {
    stdio: 'inherit',
  });
  if (done.status !== 0) process.exitCode = done.status ?? 1;
}
