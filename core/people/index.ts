export { mayRead, mayReadSome, type Place, readersAt } from './access.ts';
export { type AccessEntry, type Folder, type Group, membersOfGroup, type Person, type World } from './directory.ts';
export { addressOf, CHANNELS, type Channel, DEFAULT_REACH, type DigestPace, hearsOwn, type Pace, type Plan, type Reaching, type Step, stepsFor, URGENCIES, type Urgency } from './plan.ts';
export { isFaultySelector, isNamed, type Reason, reach, type Selector } from './selectors.ts';
