export { AUDIT, type Database, startMariaDb } from './mariadb.ts';
export { type Ojo, type OjoParts, startOjo } from './ojo.ts';
export { ownSecret } from './settings.ts';
