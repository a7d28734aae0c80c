import { parentPort, workerData } from 'node:worker_threads';
import { NoTable, parseTable } from './parsing.ts';
import type { Work } from './working.ts';
import { writeTable } from './writing.ts';

// Does one piece of work and ends: whatever a file does to it, it does to nobody else.
const work = workerData as Work;
try {
  const done =
    work.work === 'read'
      ? await parseTable(Buffer.from(work.bytes), work.kind, work.sheet)
      : await writeTable(work.table, work.kind);
  parentPort?.postMessage({ done });
} catch (error) {
  if (!(error instanceof NoTable)) throw error;
  parentPort?.postMessage({ fault: error.message });
}
