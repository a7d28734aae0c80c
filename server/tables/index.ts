export { isTable, isWorkbook, readTable, type TableRead } from './reading.ts';
export type { Held } from './plain-text.ts';
export { planApart } from './planning.ts';
export { plainTexts, tableFile } from './file.ts';
