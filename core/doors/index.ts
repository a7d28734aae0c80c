export {
  checkMappings,
  DEEDS,
  type DoorFault,
  type EventMapping,
  mapEvent,
  type Mapped,
  type OutsideEvent,
} from './mapping.ts';
