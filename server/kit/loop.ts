import type { Logger } from 'pino';

/** Runs a turn again and again: at once when woken or when the last one found something, otherwise after a pause. */
export class Loop {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> | null = null;
  private isWoken = false;
  private isOn = false;

  constructor(private readonly name: string, private readonly turn: () => Promise<boolean>, private readonly pauseMs: number, private readonly log: Logger) {}

  start(): void {
    this.isOn = true;
    this.wake();
  }

  wake(): void {
    this.isWoken = true;
    if (!this.isOn || this.running) return;
    if (this.timer) clearTimeout(this.timer);
    this.running = this.run();
  }

  /** Ends after the turn that is under way. */
  async stop(): Promise<void> {
    this.isOn = false;
    if (this.timer) clearTimeout(this.timer);
    await this.running;
  }

  private async run(): Promise<void> {
    while (this.isOn && this.isWoken) {
      this.isWoken = false;
      try {
        if (await this.turn()) this.isWoken = true;
      } catch (error) {
        // The database may be away for a while; what waits is in it, and the next turn finds it.
        this.log.error({ err: error }, `${this.name}: a turn failed`);
      }
    }
    this.running = null;
    if (this.isOn) this.timer = setTimeout(() => this.wake(), this.pauseMs);
  }
}
