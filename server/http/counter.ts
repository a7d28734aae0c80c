import { Worker } from 'node:worker_threads';
import type { CountJobs } from './count-worker.ts';

interface Waiting {
  resolve(result: unknown): void;
  reject(error: Error): void;
}

/** Counts rules in a thread of its own, so that whoever tries one keeps nobody else waiting. It starts with the first count. */
export class Counter {
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private last = 0;

  /** Has the thread ready before anybody waits for it. */
  warm(): void {
    this.thread();
  }

  async stop(): Promise<void> {
    // Whoever waited for a count is gone with the server.
    this.waiting.clear();
    await this.worker?.terminate();
  }

  ask<K extends keyof CountJobs>(what: K, asked: CountJobs[K]['asked']): Promise<CountJobs[K]['result']> {
    const id = ++this.last;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve: resolve as Waiting['resolve'], reject });
      this.thread().postMessage({ id, what, asked });
    });
  }

  private thread(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL('./count-thread.mjs', import.meta.url), { execArgv: [] });
    worker.unref();
    worker.on('message', ({ id, result, error }: { id: number; result?: unknown; error?: string }) => {
      const one = this.waiting.get(id);
      this.waiting.delete(id);
      if (error === undefined) one?.resolve(result);
      else one?.reject(new Error(error));
    });
    // A thread that ends takes its counts with it; the next count starts another.
    const fail = (error: Error) => {
      this.worker = null;
      for (const one of this.waiting.values()) one.reject(error);
      this.waiting.clear();
    };
    worker.on('error', fail);
    worker.on('exit', () => fail(new Error('the counting thread has ended')));
    this.worker = worker;
    return worker;
  }
}
