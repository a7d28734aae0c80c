export { startReportDoor } from './door.ts';
export { type Report, readReport } from './reading.ts';
