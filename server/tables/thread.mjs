// A thread begins here: from here on TypeScript is read as in the server.
import { register } from 'tsx/esm/api';

register();
await import('./worker.ts');
