import type { Instant } from '../time/index.ts';
import type { Fields } from './fields.ts';

/** What can happen to an item; streams may add kinds of their own, prefixed `x-`. */
export const CHANGE_KINDS = [
  'created',
  'changed',
  'deleted',
  'restored',
  'renamed',
  'moved',
  'contentAdded',
  'checkedOut',
  'checkedIn',
  'submitted',
  'approved',
  'rejected',
  'commented',
  'shared',
  'unshared',
  'opened',
] as const;
/** What sort of change it is; a stream's sender may have kinds of its own, prefixed `x-`. */
export type ChangeKind = (typeof CHANGE_KINDS)[number] | `x-${string}`;

/**
 * Whether a change only says that somebody looked at a document's contents: it catches only where it is asked for by
 * name, and is no change for everything else (section 9).
 */
export const isLook = ({ kind }: Pick<Change, 'kind'>): boolean => kind === 'opened';

/** One thing that happened to one item. `before`/`after` hold the whole field state, `null` where it did not exist. */
export interface Change {
  id: string;
  at: Instant;
  source: string;
  item: string;
  kind: ChangeKind;
  /** A person's id, or `system:NAME`. */
  actor: string;
  before: Fields | null;
  after: Fields | null;
  /** The folder that holds the item after the change (of a deletion: the last one). */
  folder: string | null;
  folderBefore: string | null;
  batch: string | null;
  detail: Record<string, unknown> & { mentions?: string[]; text?: string };
  /** Its place among the changes of the log; what bears one instant came in this order. Told by whoever keeps the log. */
  seq?: number;
  /** Who changed the item before this, and who made it; told by whoever keeps the items. */
  previous?: { by: string | null; createdBy: string | null };
  /** Of a net change that ends in a deletion: the state in which the item was deleted. */
  lastState?: Fields;
}

/** An item as it stands. */
export interface ItemState {
  id: string;
  source: string;
  folder: string | null;
  fields: Fields;
  createdBy: string | null;
  lastBy: string | null;
  lastAt: Instant | null;
}

/** An item as it stands, in the shape of a change by nobody that alters nothing: for asking what a rule would make of it. */
export const asChange = (item: ItemState, at: Instant): Change => ({
  id: '',
  at,
  source: item.source,
  item: item.id,
  kind: 'changed',
  actor: '',
  before: item.fields,
  after: item.fields,
  folder: item.folder,
  folderBefore: item.folder,
  batch: null,
  detail: {},
  previous: { by: item.lastBy, createdBy: item.createdBy },
});

/** The order in which changes came: by instant, then by their places in the log. */
export const compareArrival = (a: Pick<Change, 'at' | 'seq'>, b: Pick<Change, 'at' | 'seq'>): number =>
  a.at - b.at || (a.seq ?? 0) - (b.seq ?? 0);

/** The state an item is judged on: after the change, of a deleted item before it. */
export const judgedFields = (change: Change): Fields => change.after ?? change.lastState ?? change.before ?? {};
