export {
  addDays,
  atLocal,
  type CivilDate,
  type CivilTime,
  dateIn,
  isCivilDate,
  isCivilTime,
  isZone,
  zoneNames,
  MIDNIGHT,
  timeIn,
  weekday,
} from './civil.ts';
export {
  addDuration,
  addToDate,
  calendarPart,
  type Duration,
  isDuration,
  partsOfDuration,
  LONGEST_YEARS,
  moveLocal,
  timesDuration,
} from './duration.ts';
export {
  DAY_MS,
  HOUR_MS,
  type Instant,
  instantOf,
  MINUTE_MS,
  parseInstant,
  printInstant,
} from './instant.ts';
export { nextOf, type Schedule, WEEKDAYS, type Weekday } from './schedule.ts';
export { type LaterChoice, laterChoices, laterOn } from './later.ts';
