// A thread has to learn by itself how to read TypeScript.
import { register } from 'tsx/esm/api';

register();
await import('./count-worker.ts');
