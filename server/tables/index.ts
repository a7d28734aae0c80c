export { isTable, readTable, type TableRead } from './reading.ts';
export { tableFile } from './file.ts';
