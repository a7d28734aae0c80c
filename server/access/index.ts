export { type Caller, coordinates, readableAmong, readableItem, visibleSource, visibleSources } from './caller.ts';
export {
  editableRule,
  mayEdit,
  maySee,
  notYoursToEdit,
  readRule,
  reachesFarther,
  visibleRule,
} from './rules.ts';
export {
  itemRow,
  itemsOf,
  linkTitles,
  messageRow,
  readableChange,
  samplesOf,
  titlesOf,
  trailRow,
  trailRows,
  when,
  whenOrNull,
} from './shown.ts';
