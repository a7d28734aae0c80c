import { parentPort, workerData } from 'node:worker_threads';
import { NoTable, parseTable } from './parsing.ts';
import { plannedHere } from './planned.ts';
import { textOf } from './plain-text.ts';
import type { Work } from './working.ts';
import { writeTable } from './writing.ts';

// Does one piece of work and ends: whatever a file does to it, it does to nobody else.
const work = workerData as Work;

async function doneOf(asked: Work): Promise<unknown> {
  switch (asked.work) {
    case 'read':
      return parseTable(Buffer.from(asked.bytes), asked.kind, asked.sheet);
    case 'write':
      return writeTable(asked.table, asked.kind);
    case 'plan':
      return plannedHere(asked.planning);
    case 'texts':
      return Promise.all(asked.documents.map(textOf));
    default:
      return asked satisfies never;
  }
}

try {
  parentPort?.postMessage({ done: await doneOf(work) });
} catch (error) {
  if (!(error instanceof NoTable)) throw error;
  parentPort?.postMessage({ fault: error.message });
}
