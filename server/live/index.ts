export { Hub } from './hub.ts';
export { Relay } from './relay.ts';
