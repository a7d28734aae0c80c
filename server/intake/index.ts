export { type ManyDone, type OnWritten, passDoorTogether } from './many.ts';
export {
  applyEdit,
  type Conflict,
  type Done,
  type Edit,
  editItem,
  type Meanwhile,
  passDoor,
  refuseBadValues,
} from './door.ts';
