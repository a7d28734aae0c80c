export { backOff, growingPause } from './back-off.ts';
export { inBackground } from './background.ts';
export { type Clock, SettableClock, systemClock } from './clock.ts';
export { Complaints, factsOf } from './complaints.ts';
export { Loop } from './loop.ts';
export { hashOfPassword } from './passwords.ts';
export { digestOfToken } from './tokens.ts';
export { e164 } from './numbers.ts';
export { fromOrigin, originNow } from './origin.ts';
