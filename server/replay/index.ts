export type { ReplayContext } from './context.ts';
export { Counter } from './counter.ts';
export { type DeliveryPreferences, replayPreferences } from './preferences.ts';
export { whyHeard } from './why.ts';
export { costOf, dailyMessages, suggestionsOf, tallyOf, tryChange, tryItem, tryReport } from './trying.ts';
