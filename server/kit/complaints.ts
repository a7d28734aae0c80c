import type { Logger } from 'pino';

const QUIET_MS = 60_000;

interface Repeated {
  count: number;
  timer: NodeJS.Timeout;
}

/**
 * Tells the log of failures: of one sort once at the first, then at most once a minute how many more there were. What
 * a failure says may quote what people wrote, so only its code, its name and where in the program it arose are told.
 */
export class Complaints {
  private readonly repeated = new Map<string, Repeated>();

  constructor(private readonly log: Logger) {}

  tell(what: string, error: unknown): void {
    const { code, name, where } = factsOf(error);
    const key = `${what} ${code} ${name} ${where}`;
    const known = this.repeated.get(key);
    if (known) {
      known.count += 1;
      return;
    }
    this.log.error({ code, name, where }, what);
    const timer = setTimeout(() => this.sumUp(key, what), QUIET_MS);
    timer.unref();
    this.repeated.set(key, { count: 0, timer });
  }

  private sumUp(key: string, what: string): void {
    const known = this.repeated.get(key);
    if (!known) return;
    if (known.count === 0) {
      this.repeated.delete(key);
      return;
    }
    this.log.error({ times: known.count }, `${what}, ${known.count} more times within a minute`);
    known.count = 0;
    known.timer = setTimeout(() => this.sumUp(key, what), QUIET_MS);
    known.timer.unref();
  }
}

/** What of a failure holds nothing that anybody wrote. */
export function factsOf(error: unknown): { code: string; name: string; where: string } {
  const { code, name, stack } = (error ?? {}) as { code?: unknown; name?: unknown; stack?: unknown };
  const frame = String(stack ?? '')
    .split('\n')
    .find((line) => /\bat .*[/\\](core|server|contract|demo)[/\\]/.test(line));
  return {
    code: String(code ?? ''),
    name: String(name ?? typeof error),
    where: frame?.replace(/^.*[/\\](core|server|contract|demo)[/\\]/, '$1/').replace(/\)$/, '') ?? '',
  };
}
