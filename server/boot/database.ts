import { one, openPool, store } from '../store/index.ts';
import { AUDIT, type Database, startMariaDb } from './mariadb.ts';
import { ownSecret, type Settings } from './settings.ts';
import { StartError } from './start-error.ts';

/** What Ojo's data is called in a database of its own. */
const OWN_NAME = 'ojo';

/** The database that the settings name, and what Ojo's data is called there: the house's own, or one that Ojo starts. */
export async function openDatabase(
  settings: Pick<Settings, 'data' | 'databasePort' | 'ownDatabase' | 'key'>,
  say?: (what: string) => void,
): Promise<Database & { name: string }> {
  const { data, databasePort, ownDatabase } = settings;
  if (ownDatabase === null) {
    const database = await startMariaDb(data, databasePort, ownSecret(data, 'database-password'), say);
    const key = settings.key ?? ownSecret(data, 'key');
    return { ...database, connecting: { ...database.connecting, key }, name: OWN_NAME };
  }
  const { database: name, ...own } = ownDatabase;
  const connecting = { ...own, ...(settings.key === null ? {} : { key: settings.key }) };
  const pool = openPool(connecting, 1, true);
  try {
    await one(pool, store.audit.answers()).catch((error: Error) => {
      throw new StartError(refusalOf(settings, error));
    });
  } finally {
    await pool.end();
  }
  return { connecting, name, isOurs: false, stop: async () => undefined };
}

function refusalOf({ ownDatabase }: Pick<Settings, 'ownDatabase'>, error: Error): string {
  const { host, port, user, others = [], database } = ownDatabase ?? {};
  const where = [{ host, port }, ...others].map((node) => `${node.host}:${node.port}`).join(', ');
  const lacks = /ER_(?:TABLEACCESS_DENIED_ERROR|NO_SUCH_TABLE|DBACCESS_DENIED_ERROR|BAD_DB_ERROR)/.test(
    String((error as { code?: string }).code),
  );
  return lacks
    ? `The database at ${where} wants, once, by whoever looks after it:\n${[...AUDIT, ...grantsOf(user ?? '', database ?? '')].join(';\n')};`
    : `The database at ${where} (OJO_DATABASE_URL) cannot be used: ${(error.cause as Error | undefined)?.message ?? error.message}.`;
}

const grantsOf = (user: string, database: string): string[] => [
  `GRANT ALL ON \`${database}%\`.* TO '${user}'@'%'`,
  `GRANT INSERT, SELECT ON audit_ojo.entries TO '${user}'@'%'`,
];
