import type { Pool } from 'mysql2/promise';
import type { Site } from '../../core/messages/index.ts';
import type { Clock } from '../kit/index.ts';
import type { Hub } from '../live/index.ts';
import type { StoredChange } from '../store/index.ts';

/** What acts work with. */
export interface ActContext {
  pool: Pool;
  clock: Clock;
  site: Site;
  /** Tells open pages of what has been done. */
  hub: Pick<Hub, 'announce'>;
  /** Wakes whoever decides changes, with the one that has just been committed. */
  wake(fresh?: StoredChange): void;
  /** Wakes whoever sends, where something was written that no alert brought about. */
  wakeSender(): void;
}
