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
