import type { Reason, World } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import { formatInstant } from '../values/index.ts';
import type { Instant } from '../time/index.ts';
import { conditionWords, plainWords, type Phrasing } from './condition-words.ts';
import type { Content, Recipient } from './content.ts';
import { namesIn } from './entry.ts';
import { paceWords } from './pace-words.ts';
import { occasionWords, reasonWords } from './why.ts';

/** What a notice is made of: the rule that went live, by whom and when, and who reads it. */
export interface Noticing {
  rule: Rule;
  by: string;
  at: Instant;
  reader: Recipient;
  world: World;
}

/** Tells somebody that a rule tells them from now on: by whom, of what, how soon, why them, and how to hear less. */
export function listenerNotice(noticing: Noticing, reasons: readonly Reason[]): Content {
  const { rule, by, world } = noticing;
  const phrasing = phrasingOf(noticing);
  const why = phrasing ? reasons.map((reason) => plainWords(reasonWords(reason, rule, phrasing, world))) : [];
  return notice(noticing, `You are now told: ${rule.name}`, [`${nameOf(by, world)} put it live.`, whatWords(noticing), `You hear ${soonWords(rule)}.`, ...why, 'The rule’s page says more; on every message of it you can choose to hear less.']);
}

/** Confirms to a rule's owner that it is live. */
export function ownerNotice(noticing: Noticing, version: number, told: number): Content {
  const { rule, by, reader, world } = noticing;
  const who = by === reader.id ? 'You' : nameOf(by, world);
  return notice(noticing, `Your rule is live: ${rule.name}`, [`${who} put version ${version} live.`, whatWords(noticing), `${told === 1 ? 'One person hears' : `${told} people hear`} ${soonWords(rule)}, as things stand.`]);
}

const nameOf = (id: string, world: World): string => world.people.get(id)?.name ?? id;

function notice({ rule, at, reader }: Noticing, headline: string, sentences: string[]): Content {
  return { form: 'notice', headline, when: formatInstant(at, reader), lead: sentences.filter(Boolean).join(' '), entries: [], rule: { id: rule.id, name: rule.name } };
}

function phrasingOf({ rule, reader, world }: Noticing): Phrasing | null {
  const source = world.sources.get(rule.scope.sources[0] ?? '');
  return source ? { source, reader, names: namesIn(world) } : null;
}

/** Of what a rule tells, in a sentence. */
function whatWords(noticing: Noticing): string {
  const { rule, world } = noticing;
  const phrasing = phrasingOf(noticing);
  if (!phrasing) return '';
  const places = rule.scope.sources.flatMap((id) => world.sources.get(id)?.name ?? []).join(', ');
  const occasion = occasionWords(rule, phrasing.source);
  const condition = rule.when ? plainWords(conditionWords(rule.when.if, phrasing)) : '';
  const said = occasion ?? (condition || 'anything that happens');
  return `It looks at ${places}: ${said}.`;
}

const soonWords = (rule: Rule): string => (rule.pace.kind === 'digest' ? `in a ${paceWords(rule.pace)}` : paceWords(rule.pace));
