import type { ChangeKind, Fields } from '../core/values/index.ts';

/** One thing that somebody does in the story. */
export interface Deed {
  at: number;
  actor: string;
  source: string;
  item: string;
  kind: ChangeKind;
  folder?: string | null;
  set?: Fields;
  batch?: string;
  detail?: { text?: string; mentions?: string[] };
}
