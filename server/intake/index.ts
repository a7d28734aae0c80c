export { askContact, askOwnAddress, askTheUnasked, contactOf } from './confirming.ts';
export { applyEdit, type Conflict, type Done, type Edit, editItem, type Meanwhile, passDoor } from './door.ts';
export { endRule, handOverRule, pauseRule, publishRule, resumeRule } from './rules.ts';
export { tellListeners } from './listeners.ts';
export { tellTroubles } from './troubles.ts';
