import { Worker } from 'node:worker_threads';

/** An event that came to one of the pages: which page, at which instant (ms since the epoch), and what it said. */
export interface Arrival {
  page: number;
  at: number;
  text: string;
}

/** Pages that are open at a server, in a thread of their own. */
export class OpenPages {
  private readonly worker: Worker;
  private heard: (arrival: Arrival) => void = () => undefined;

  constructor(port: number, path: string, cookies: readonly string[]) {
    this.worker = new Worker(new URL('./page.mjs', import.meta.url), {
      workerData: { port, path, cookies, wanted: 'message' },
      execArgv: [],
    });
  }

  opened(): Promise<void> {
    return new Promise((resolve) => {
      this.worker.on('message', (said: Arrival | 'open') => (said === 'open' ? resolve() : this.heard(said)));
    });
  }

  /** Has every event that comes handed over, from now on. */
  onArrival(heard: (arrival: Arrival) => void): void {
    this.heard = heard;
  }

  /** The next event. */
  next = (): Promise<Arrival> => new Promise((resolve) => this.onArrival(resolve));

  close(): void {
    this.worker.postMessage('close');
  }
}
