export { applyEdit, type Conflict, type Done, type Edit, editItem, type Meanwhile, passDoor } from './door.ts';
