import type { Channel } from '../../core/people/index.ts';
import type { StoredMessage } from '../store/index.ts';

/** How many sendings of one channel may be under way at once, and of those to one machine's host. */
const OF_CHANNEL = { inApp: 0, email: 5, text: 5, webhook: 12 } as const satisfies Record<Channel, number>;
const OF_HOST = 3;
/** Mail and text have one gateway each, which goes by the channel's name: its channel's slots bound it. */
const GATEWAYS: ReadonlySet<string> = new Set<Channel>(['email', 'text']);

interface Taken {
  id: string;
  channel: string;
  host: string;
  /** Never fails. */
  sending: Promise<void>;
}

/** The sendings under way: each message has one slot of its channel's, and a host few of them, so that one that hangs keeps nobody else waiting. */
export class Slots {
  private readonly taken = new Map<string, Taken>();

  freeOf(channel: Channel): number {
    return Math.max(0, OF_CHANNEL[channel] - [...this.taken.values()].filter((one) => one.channel === channel).length);
  }

  private ofHost = (host: string): number => [...this.taken.values()].filter((one) => one.host === host).length;

  /** Whether a host has as many sendings as it may. */
  isFull = (host: string): boolean => !GATEWAYS.has(host) && this.ofHost(host) >= OF_HOST;

  /** Of messages in their order those for which their hosts have room. */
  fitting(messages: readonly StoredMessage[], hostOf: (message: StoredMessage) => string): StoredMessage[] {
    const more = new Map<string, number>();
    return messages.filter((message) => {
      if (this.taken.has(message.id)) return false;
      const host = hostOf(message);
      const count = this.ofHost(host) + (more.get(host) ?? 0);
      if (!GATEWAYS.has(host) && count >= OF_HOST) return false;
      more.set(host, (more.get(host) ?? 0) + 1);
      return true;
    });
  }

  take({ id, channel }: StoredMessage, host: string, sending: Promise<void>, whenFree: () => void): void {
    const over = () => {
      this.taken.delete(id);
      whenFree();
    };
    this.taken.set(id, { id, channel, host, sending: sending.then(over, over) });
  }

  /** The messages under way. */
  messages = (): string[] => [...this.taken.keys()];

  /** Until nothing is under way, or the patience has run out. */
  async idle(mostMs: number): Promise<void> {
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<void>((resolve) => {
      if (Number.isFinite(mostMs)) timer = setTimeout(resolve, mostMs);
    });
    const all = async () => {
      while (this.taken.size > 0) await Promise.all([...this.taken.values()].map((one) => one.sending));
    };
    await Promise.race([all(), late]);
    clearTimeout(timer);
  }
}
