export { startFeedStandIn } from './feed.ts';
export { startIdentityStandIn } from './identity.ts';
export { type StandIn, startMailStandIn } from './mail.ts';
export { startTextStandIn } from './text.ts';
export { startWebhookStandIn } from './webhook.ts';
