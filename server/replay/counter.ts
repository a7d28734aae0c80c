import { Worker } from 'node:worker_threads';
import { Refusal } from '../../contract/problems.ts';
import type { CountJobs } from './count-worker.ts';

/** So many threads count at once; the server's own is not one of them. */
const THREADS = 2;
/** A count that takes longer is given up, with its thread, in ms. */
const MOST_MS = 15_000;
/** So many counts of one person wait at most; of more the oldest is dropped, since nobody looks at it any more. */
const MOST_WAITING = 3;

interface Job {
  person: string;
  what: keyof CountJobs;
  asked: unknown;
  resolve(result: unknown): void;
  reject(error: Error): void;
}

interface Thread {
  worker: Worker;
  job: Job | null;
  timer: NodeJS.Timeout | null;
}

/**
 * Counts rules in a few threads of their own, so that whoever tries one keeps nobody else waiting: each person has a
 * queue and one count under way at most. What nobody waits for any more is dropped, and what takes too long is given up.
 */
export class Counter {
  private readonly threads: Thread[] = [];
  private waiting: Job[] = [];
  private isOver = false;

  constructor(private readonly mostMs = MOST_MS) {}

  /** Has a thread ready before anybody waits for it. */
  warm(): void {
    if (this.threads.length === 0) this.begin();
  }

  async stop(): Promise<void> {
    this.isOver = true;
    // Whoever waited for a count is gone with the server.
    for (const job of this.waiting.splice(0)) job.reject(new Refusal('closing'));
    await Promise.all(this.threads.splice(0).map((thread) => this.end(thread, new Refusal('closing'))));
  }

  /** @param signal says that nobody waits for it any more */
  ask<K extends keyof CountJobs>(
    person: string,
    what: K,
    asked: CountJobs[K]['asked'],
    signal?: AbortSignal,
  ): Promise<CountJobs[K]['result']> {
    return new Promise((resolve, reject) => {
      const job: Job = { person, what, asked, resolve: resolve as Job['resolve'], reject };
      signal?.addEventListener('abort', () => this.drop(job), { once: true });
      this.waiting.push(job);
      const own = this.waiting.filter((one) => one.person === person);
      if (own.length > MOST_WAITING && own[0]) this.drop(own[0]);
      this.next();
    });
  }

  /** Nobody waits for a count: it is taken out of its queue, or its thread is ended. */
  private drop(job: Job): void {
    const gone = new Refusal('countDropped');
    if (this.waiting.includes(job)) {
      this.waiting = this.waiting.filter((one) => one !== job);
      job.reject(gone);
      return;
    }
    const thread = this.threads.find((one) => one.job === job);
    if (thread) this.replace(thread, gone);
  }

  /** Gives free threads the next counts, of people who have none under way. */
  private next(): void {
    for (;;) {
      const busy = new Set(this.threads.flatMap(({ job }) => job?.person ?? []));
      const job = this.waiting.find(({ person }) => !busy.has(person));
      const thread =
        job && !this.isOver
          ? (this.threads.find((one) => one.job === null) ?? (this.threads.length < THREADS ? this.begin() : undefined))
          : undefined;
      if (!job || !thread) return;
      this.waiting = this.waiting.filter((one) => one !== job);
      thread.job = job;
      thread.timer = setTimeout(() => this.replace(thread, new Refusal('tooMuchToCount')), this.mostMs);
      thread.worker.postMessage({ what: job.what, asked: job.asked });
    }
  }

  private begin(): Thread {
    const worker = new Worker(new URL('./count-thread.mjs', import.meta.url), { execArgv: [] });
    worker.unref();
    const thread: Thread = { worker, job: null, timer: null };
    worker.on('message', ({ result, error }: { result?: unknown; error?: string }) => {
      const job = this.free(thread);
      if (error === undefined) job?.resolve(result);
      else job?.reject(new Error(error));
      this.next();
    });
    // A thread that ends takes its count with it; the next count starts another.
    worker.on('error', (error) => this.replace(thread, error));
    this.threads.push(thread);
    return thread;
  }

  private free(thread: Thread): Job | null {
    const { job, timer } = thread;
    if (timer) clearTimeout(timer);
    thread.job = null;
    thread.timer = null;
    return job;
  }

  private replace(thread: Thread, error: Error): void {
    const at = this.threads.indexOf(thread);
    if (at < 0) return;
    this.threads.splice(at, 1);
    this.end(thread, error).catch(() => undefined);
    this.next();
  }

  private async end(thread: Thread, error: Error): Promise<void> {
    this.free(thread)?.reject(error);
    await thread.worker.terminate();
  }
}
