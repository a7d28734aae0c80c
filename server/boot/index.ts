export { type Database, startMariaDb } from './mariadb.ts';
export { type Ojo, type OjoParts, startOjo } from './ojo.ts';
export { readSettings, type Settings } from './settings.ts';
export { StartError } from './start-error.ts';
