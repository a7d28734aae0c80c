export {
  type ActEdit,
  type ActFault,
  type ActName,
  type Actor,
  editOfAct,
  followsFromActs,
  heldAgainst,
  type ItemAct,
  leavesAsIs,
  NATURE,
  type Unfit,
  unfit,
} from './acts.ts';
export { type LookedAt, notedBy } from './looks.ts';
