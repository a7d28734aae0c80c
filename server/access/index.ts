export { type Caller, coordinates, readableAmong, readableItem, visibleSource, visibleSources } from './caller.ts';
export { freeName, nameFault } from './names.ts';
export { expectAdd, expectChange, mayAdd, mayChange, namedAt, placeIn } from './rights.ts';
export {
  editableRule,
  looksAfter,
  readsAll,
  mayEdit,
  maySee,
  notYoursToEdit,
  readRule,
  savedRule,
  reachesFarther,
  visibleRule,
} from './rules.ts';
export {
  cameBackOf,
  itemRow,
  itemsOf,
  linksOf,
  type Links,
  type State,
  statesOf,
  messageRow,
  readableChange,
  samplesOf,
  titlesOf,
  trailRow,
  trailRows,
  when,
  whenOrNull,
} from './shown.ts';
