import { growingPause } from './back-off.ts';
import type { Complaints } from './complaints.ts';

/** Runs a turn again and again: at once when woken or when the last one found something, otherwise after a pause, which grows while turns fail. */
export class Loop {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> | null = null;
  private isWoken = false;
  private isOn = false;
  private failures = 0;

  constructor(
    private readonly name: string,
    private readonly turn: () => Promise<boolean>,
    private readonly pauseMs: number,
    private readonly complaints: Complaints,
  ) {}

  start(): void {
    this.isOn = true;
    this.wake();
  }

  wake(): void {
    this.isWoken = true;
    // After a failure it is not woken out of its pause: what it needs is away.
    if (!this.isOn || this.running || this.failures > 0) return;
    this.go();
  }

  /** Ends after the turn that is under way. */
  async stop(): Promise<void> {
    this.isOn = false;
    if (this.timer) clearTimeout(this.timer);
    await this.running;
  }

  private go(): void {
    if (this.timer) clearTimeout(this.timer);
    this.running = this.run();
  }

  private async run(): Promise<void> {
    while (this.isOn && this.isWoken) {
      this.isWoken = false;
      try {
        if (await this.turn()) this.isWoken = true;
        this.failures = 0;
      } catch (error) {
        // The database may be away for a while; what waits is in it, and the next turn finds it.
        this.failures += 1;
        this.complaints.tell(`${this.name}: a turn failed`, error);
        break;
      }
    }
    this.running = null;
    if (!this.isOn) return;
    this.timer = setTimeout(
      () => {
        this.isWoken = true;
        this.go();
      },
      this.failures > 0 ? growingPause(this.failures, 500, 5000) : this.pauseMs,
    );
  }
}
