export { mayRead, mayReadSome, type Place, readersAt } from './access.ts';
export { type AccessEntry, type Folder, type Group, membersOfGroup, type Person, type Selector, type World } from './directory.ts';
export { CHANNELS, type Channel, type DigestPace, type Pace, type Plan, type Step, type Urgency } from './plan.ts';
export { addressOf, hearsOwn, type Reaching, stepsFor } from './reaching.ts';
export { isFaultySelector, isNamed, type Reason, reach } from './selectors.ts';
