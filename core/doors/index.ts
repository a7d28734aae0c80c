export {
  checkMappings,
  DEEDS,
  type DoorFault,
  type EventMapping,
  mapEvent,
  type Mapped,
  type OutsideEvent,
} from './mapping.ts';
export { isPointer, pointedAt } from './pointer.ts';
