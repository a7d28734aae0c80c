#!/usr/bin/env node
// The engine on the command line; `ojo --help` says how.
import { register } from 'tsx/esm/api';

register();
await import('../cli/ojo.ts');
