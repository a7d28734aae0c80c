import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { backUp, restore } from './backup.ts';
import { openDatabase } from './database.ts';
import { refuseUnwritable } from './mariadb.ts';
import { readSettings } from './settings.ts';
import { StartError } from './start-error.ts';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const say = (text: string) => process.stdout.write(`${text}\n`);

/** `backup FILE` and `restore FILE`, of the data that the settings name. */
async function main([act, name]: string[]): Promise<void> {
  if ((act !== 'backup' && act !== 'restore') || name === undefined || name.startsWith('-'))
    throw new StartError('Say which file:  npm run backup -- museum.sql.gz   or   npm run restore -- museum.sql.gz');
  const file = resolve(process.env.INIT_CWD ?? process.cwd(), name);
  const settings = readSettings(process.env, ROOT);
  refuseUnwritable(settings.data);
  const database = await openDatabase(settings);
  try {
    if (act === 'backup') {
      const bytes = await backUp(database.connecting, database.name, file);
      say(`Everything in ${settings.data} is in ${file} (${(bytes / 1_000_000).toFixed(1)} MB).`);
      if (settings.key === null && settings.ownDatabase === null)
        say(
          `Its secrets are sealed by the file ${join(settings.data, 'key')}: keep a copy of that, apart from the backup.`,
        );
    } else {
      const { items, changes, messages } = await restore(database.connecting, database.name, file);
      say(
        `${items} items, ${changes} changes and ${messages} messages are in ${settings.data}. Bring the key by which its secrets were sealed (OJO_KEY, or the file “key” of the folder it was backed up from), and start Ojo.`,
      );
    }
  } finally {
    await database.stop();
  }
}

main(process.argv.slice(2)).catch((error: unknown) => {
  process.stderr.write(`${error instanceof StartError ? error.message : String((error as Error).stack)}\n`);
  process.exitCode = 1;
});
