export {
  entryAt,
  mayAddThere,
  mayEditThere,
  mayRead,
  mayReadAll,
  mayReadSome,
  namesOutright,
  readersAt,
  readersNamed,
} from './access.ts';
export { contactAt, hasLeft, peopleAt, sameAddress, strangerAt } from './contacts.ts';
export {
  type AccessEntry,
  type Acknowledging,
  type Contact,
  type Folder,
  type Follower,
  type Group,
  membersOfGroup,
  type Mute,
  type Person,
  type Subject,
  type World,
} from './directory.ts';
export { LESS_WAYS, type LessWay, withLess } from './less.ts';
export { isMuted } from './mutes.ts';
export {
  CHANNELS,
  type Channel,
  DEFAULT_REACH,
  type DigestPace,
  type Pace,
  type Plan,
  planUpon,
  startOf,
  type StartingPlan,
  type QuietHours,
  type SettledPace,
  type Step,
  type Urgency,
} from './plan.ts';
export { addressOf, emailFor, hearsOwn, type Reaching, stepsFor, urgentSteps } from './reaching.ts';
export {
  isFaultySelector,
  isNamed,
  namesPerson,
  type Reached,
  type Reason,
  reach,
  type Recipient,
  recipientKey,
  recipientOf,
  type SelectorFault,
  type ReachContext,
} from './selectors.ts';
export {
  asKind,
  kindOfSelector,
  namedIn,
  type Selector,
  type SelectorKind,
  type SelectorVisitor,
  visitSelector,
} from './selector-kinds.ts';
