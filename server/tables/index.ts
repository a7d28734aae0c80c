export { isTable, isWorkbook, readTable, type TableRead } from './reading.ts';
export { plainTexts, tableFile } from './file.ts';
