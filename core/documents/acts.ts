import {
  type ChangeKind,
  type Change,
  type Fields,
  fieldOf,
  type ItemState,
  membersOf,
  type Source,
} from '../values/index.ts';

/** What somebody does to one item or to several at once. Comments, one edit of several, and deleting go with every item, the rest with documents in folders. */
export type ItemAct =
  | { act: 'comment'; text: string; mentions: string[] }
  | { act: 'rename'; name: string }
  | { act: 'move'; folder: string }
  | { act: 'checkOut' }
  | { act: 'checkIn' }
  | { act: 'submit' | 'approve' | 'reject'; word: string }
  | { act: 'share' | 'unshare'; person: string }
  | { act: 'set'; set: Fields }
  | { act: 'delete' }
  | { act: 'restore' };
/** The name of an act. */
export type ActName = ItemAct['act'];

/** Who acts: by id, and whether they look after the source. */
export interface Actor {
  id: string;
  isKeeper: boolean;
}

/** Why an act does not go: a code, and what its words need. */
export interface Unfit {
  code: ActFault;
  params: Record<string, unknown>;
}
/** All that may stand against an act. */
export type ActFault =
  | 'heldBy'
  | 'notHeld'
  | 'holderAlone'
  | 'approverAlone'
  | 'keeperAlone'
  | 'notSubmitted'
  | 'submittedAlready'
  | 'documentsAlone'
  | 'noFieldForIt'
  | 'notDeleted'
  | 'isDeleted';

/** What an act comes to, as an edit of its item. */
export interface ActEdit {
  kind: ChangeKind;
  set?: Fields;
  folder?: string;
  detail?: Change['detail'];
}

/** Fields that a document has by nature, section 1; a source of folders has those it has room for. */
export const NATURE = {
  name: 'name',
  size: 'size',
  version: 'version',
  approval: 'approval',
  holder: 'checkedOutBy',
  approver: 'approver',
  sharedWith: 'sharedWith',
} as const;

const FROM_ACTS: readonly string[] = [NATURE.size, NATURE.version, NATURE.holder, NATURE.approval, NATURE.sharedWith];

/** Whether a field follows from what is done with a document, as by renaming it or handing in a version, and is not typed. */
export const followsFromActs = (source: Pick<Source, 'kind' | 'titleField'>, field: string): boolean =>
  source.kind === 'folders' && (field === source.titleField || FROM_ACTS.includes(field));

type Standing = Pick<ItemState, 'fields' | 'folder'> & { isDeleted: boolean };

const APPROVALS = { submit: 'Submitted', approve: 'Approved', reject: 'Rejected' } as const;
const KINDS = {
  submit: 'submitted',
  approve: 'approved',
  reject: 'rejected',
  share: 'shared',
  unshare: 'unshared',
} as const satisfies Partial<Record<ActName, ChangeKind>>;
/** A source of folders holds documents; only those are held, approved, moved and shared. */
const OF_DOCUMENTS: readonly ActName[] = [
  'move',
  'checkOut',
  'checkIn',
  'submit',
  'approve',
  'reject',
  'share',
  'unshare',
];
/** What nobody may do while somebody else holds the document. */
const NOT_WHILE_HELD: readonly ActName[] = [
  'rename',
  'move',
  'checkOut',
  'submit',
  'approve',
  'reject',
  'set',
  'delete',
];

/** Who holds a document, so that nobody else changes it; `null` where nobody does. */
const holderOf = ({ fields }: Pick<ItemState, 'fields'>): string | null =>
  typeof fields[NATURE.holder] === 'string' && fields[NATURE.holder] !== '' ? String(fields[NATURE.holder]) : null;

/** Why somebody may not change a document's name, place or contents just now; `null` where they may. */
export function heldAgainst(item: Pick<ItemState, 'fields'>, by: string): Unfit | null {
  const holder = holderOf(item);
  return holder === null || holder === by ? null : { code: 'heldBy', params: { person: holder } };
}

/** The field that an act writes; `null` where it writes none. */
function fieldFor(act: ActName, source: Source): string | null {
  switch (act) {
    case 'rename':
      return source.titleField;
    case 'checkOut':
    case 'checkIn':
      return NATURE.holder;
    case 'submit':
    case 'approve':
    case 'reject':
      return NATURE.approval;
    case 'share':
    case 'unshare':
      return NATURE.sharedWith;
    case 'comment':
    case 'move':
    case 'set':
    case 'delete':
    case 'restore':
      return null;
    default:
      return act satisfies never;
  }
}

const fault = (code: ActFault, params: Record<string, unknown> = {}): Unfit => ({ code, params });

/** Why an act does not go with an item as it stands; `null` where it does. */
export function unfit(act: ActName, item: Standing, source: Source, by: Actor): Unfit | null {
  if (OF_DOCUMENTS.includes(act) && source.kind !== 'folders') return fault('documentsAlone');
  if (act === 'restore') return item.isDeleted ? null : fault('notDeleted');
  if (item.isDeleted) return fault('isDeleted');
  const field = fieldFor(act, source);
  if (field !== null && !fieldOf(source, field)) return fault('noFieldForIt', { field });
  const held = NOT_WHILE_HELD.includes(act) ? heldAgainst(item, by.id) : null;
  return held ?? (act === 'checkIn' ? unfitToCheckIn(item, by) : unfitToApprove(act, item, by));
}

function unfitToCheckIn(item: Standing, { id, isKeeper }: Actor): Unfit | null {
  const holder = holderOf(item);
  if (holder === null) return fault('notHeld');
  return holder === id || isKeeper ? null : fault('holderAlone', { person: holder });
}

function unfitToApprove(act: ActName, { fields }: Standing, { id, isKeeper }: Actor): Unfit | null {
  const isSubmitted = fields[NATURE.approval] === APPROVALS.submit;
  if (act === 'submit') return isSubmitted ? fault('submittedAlready') : null;
  if (act !== 'approve' && act !== 'reject') return null;
  if (!isSubmitted) return fault('notSubmitted');
  const approver = fields[NATURE.approver];
  if (isKeeper || approver === id) return null;
  return approver ? fault('approverAlone', { person: approver }) : fault('keeperAlone');
}

/** What an act makes of an item that it goes with ({@link unfit}). What it leaves as it was is no change. */
export function editOfAct(act: ItemAct, item: Standing, source: Source, by: string): ActEdit {
  switch (act.act) {
    case 'comment':
      return { kind: 'commented', detail: { text: act.text, mentions: act.mentions } };
    case 'rename':
      return { kind: source.kind === 'folders' ? 'renamed' : 'changed', set: { [source.titleField]: act.name } };
    case 'move':
      return { kind: 'moved', folder: act.folder };
    case 'checkOut':
      return { kind: 'checkedOut', set: { [NATURE.holder]: by } };
    case 'checkIn':
      return { kind: 'checkedIn', set: { [NATURE.holder]: null } };
    case 'submit':
    case 'approve':
    case 'reject':
      return {
        kind: KINDS[act.act],
        set: { [NATURE.approval]: APPROVALS[act.act] },
        detail: act.word === '' ? {} : { text: act.word },
      };
    case 'share':
    case 'unshare': {
      const others = membersOf(item.fields[NATURE.sharedWith]).filter((one) => one !== act.person);
      return {
        kind: KINDS[act.act],
        set: { [NATURE.sharedWith]: act.act === 'share' ? [...others, act.person] : others },
        detail: { person: act.person },
      };
    }
    case 'set':
      return { kind: 'changed', set: act.set };
    case 'delete':
      return { kind: 'deleted' };
    case 'restore':
      return { kind: 'restored' };
    default:
      return act satisfies never;
  }
}

/** Whether an act would leave an item as it is: checked out by whom it is already, shared with somebody who has it. */
export function leavesAsIs(act: ItemAct, item: Standing): boolean {
  switch (act.act) {
    case 'checkOut':
      return holderOf(item) !== null;
    case 'share':
      return membersOf(item.fields[NATURE.sharedWith]).includes(act.person);
    case 'unshare':
      return !membersOf(item.fields[NATURE.sharedWith]).includes(act.person);
    case 'comment':
    case 'rename':
    case 'move':
    case 'checkIn':
    case 'submit':
    case 'approve':
    case 'reject':
    case 'set':
    case 'delete':
    case 'restore':
      return false;
    default:
      return act satisfies never;
  }
}
