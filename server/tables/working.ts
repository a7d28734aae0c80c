import { Worker } from 'node:worker_threads';
import { Refusal } from '../../contract/problems.ts';
import type { ReadKind, TableKind } from './parsing.ts';
import type { Planning } from './planned.ts';
import type { Held } from './plain-text.ts';
import type { Written } from './writing.ts';

/** What a thread is asked to do: read the table of a file, write one, say what one would come to, or what documents hold. */
export type Work =
  | { work: 'read'; bytes: Uint8Array; kind: ReadKind; sheet: string | null }
  | { work: 'write'; table: Written; kind: TableKind }
  | { work: 'plan'; planning: Planning }
  | { work: 'texts'; documents: readonly Held[] };

/** So long may it take, in ms, and so much memory, in MB. */
const MOST_MS = 60_000;
const MOST_MEMORY_MB = 768;
/** So many threads at once; whoever comes then waits. */
const MOST_AT_ONCE = 2;

/** Says that a file is no table. */
export const noTable = (message: string) =>
  new Refusal('badRequest', { because: { code: 'noTable', params: { message } } });

let busy = 0;
const waiting: (() => void)[] = [];

/** Has a piece of work done in a thread of its own, which a hostile file can only end. */
export async function apart<T>(work: Work): Promise<T> {
  while (busy >= MOST_AT_ONCE) await new Promise<void>((resolve) => waiting.push(resolve));
  busy += 1;
  try {
    return await inThread<T>(work);
  } finally {
    busy -= 1;
    waiting.shift()?.();
  }
}

function inThread<T>(work: Work): Promise<T> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./thread.mjs', import.meta.url), {
      workerData: work,
      execArgv: [],
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
    });
    const tooMuch = () => reject(new Refusal('badRequest', { because: 'tableTakesTooMuch' }));
    const timer = setTimeout(() => {
      tooMuch();
      void worker.terminate();
    }, MOST_MS);
    worker.once('message', (answer: { done: T } | { fault: string }) => {
      if ('done' in answer) resolve(answer.done);
      else reject(noTable(answer.fault.slice(0, 200)));
    });
    worker.once('error', tooMuch);
    worker.once('exit', () => {
      clearTimeout(timer);
      tooMuch();
    });
  });
}
