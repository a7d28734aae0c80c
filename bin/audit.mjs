// Known faults of the packages, as far as the registry tells of any; and that each package is the one it was when it was chosen.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { giveUp, say } from './prepare.mjs';

const BAD = ['high', 'critical'];

/** @type {Record<string, {integrity?: string, resolved?: string, link?: boolean}>} */
const locked = JSON.parse(readFileSync('package-lock.json', 'utf8')).packages;
const fetched = Object.entries(locked).filter(([path, { link }]) => path !== '' && !link);
const bare = fetched.filter(([, { integrity }]) => !/^sha(?:384|512)-/.test(integrity ?? '')).map(([path]) => path);
if (bare.length > 0) giveUp(`These packages are locked without a digest: ${bare.slice(0, 10).join(', ')}.`);
const elsewhere = fetched.filter(([, { resolved }]) => resolved !== undefined && !/^https:/.test(resolved));
if (elsewhere.length > 0)
  giveUp(`These packages come from no registry: ${elsewhere.map(([path]) => path).join(', ')}.`);
say('', `${fetched.length} packages, each locked by its digest`);

const asked = spawnSync('npm', ['audit', '--omit=dev', '--json', '--fetch-retries=0', '--fetch-timeout=20000'], {
  encoding: 'utf8',
  timeout: 60_000,
});
/** @type {{vulnerabilities?: Record<string, {severity: string}>}} */
let told = {};
try {
  told = JSON.parse(asked.stdout);
} catch {
  // What is no JSON is no answer.
}
if (told.vulnerabilities === undefined) say('', 'the registry tells of no known faults here, nor that there are none');
else {
  const bad = Object.entries(told.vulnerabilities).filter(([, { severity }]) => BAD.includes(severity));
  if (bad.length > 0) giveUp(`Known faults: ${bad.map(([name, { severity }]) => `${name} (${severity})`).join(', ')}.`);
  say('', 'no known faults that are high or critical');
}
