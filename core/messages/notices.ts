import type { Reason, World } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import type { CivilDate, Instant } from '../time/index.ts';
import { formatDay, formatInstant } from '../values/index.ts';
import { conditionWords, type Phrasing, plainWords } from './condition-words.ts';
import type { Content, AddressedReader } from './content.ts';
import { phrasingOf } from './entry.ts';
import { paceWords } from './pace-words.ts';
import { type Phrases, phrasesFor } from './locales/index.ts';
import { reasonWords } from './why.ts';
import { kindWords, occasionWords } from './occasion-words.ts';

/** What a notice is made of: the rule that went live, by whom and when, and who reads it. */
export interface Noticing {
  rule: Rule;
  by: string;
  at: Instant;
  reader: AddressedReader;
  world: World;
}

/** Tells somebody that a rule tells them from now on: by whom, of what, how soon, why them, and how to hear less. */
export function listenerNotice(noticing: Noticing, reasons: readonly Reason[]): Content {
  const { rule, by, reader, world } = noticing;
  const phrases = phrasesFor(reader.locale);
  const phrasing = phrasingOfRule(noticing);
  const why = phrasing ? reasons.map((reason) => plainWords(reasonWords(reason, rule, phrasing, world))) : [];
  const sentences = [
    phrases.say('notice.putLive', { by: nameOf(by, world) }),
    whatWords(noticing),
    phrases.say('notice.youHear', { soon: soonWords(rule, phrases) }),
    ...why,
    phrases.say('notice.hearLess'),
  ];
  return notice(noticing, phrases.say('notice.listener', { rule: rule.name }), sentences);
}

/** Confirms to a rule's owner that it is live. */
export function ownerNotice(noticing: Noticing, version: number, told: number): Content {
  const { rule, by, reader, world } = noticing;
  const phrases = phrasesFor(reader.locale);
  const live =
    by === reader.id
      ? phrases.say('notice.youPutLive', { version })
      : phrases.say('notice.ownerPutLive', { by: nameOf(by, world), version });
  return notice(noticing, phrases.say('notice.owner', { rule: rule.name }), [
    live,
    whatWords(noticing),
    phrases.say('notice.told', { told, soon: soonWords(rule, phrases) }),
  ]);
}

/** Tells whoever looks after a rule that it has failed: as a whole, or for one of those it tells. */
export function troubleNotice(
  noticing: Omit<Noticing, 'by'>,
  code: 'cannotBeJudged' | 'wordsTooDear',
  to: string,
): Content {
  const { rule, reader, world } = noticing;
  const phrases = phrasesFor(reader.locale);
  const what =
    code === 'cannotBeJudged' && to !== ''
      ? phrases.say('notice.cannotBeJudgedFor', { person: nameOf(to, world) })
      : phrases.say(`notice.${code}`);
  return notice({ ...noticing, by: '' }, phrases.say('notice.trouble', { rule: rule.name }), [
    what,
    phrases.say('notice.lookAtRule'),
  ]);
}

/** Tells somebody that they are asked to look after a rule, or whoever asked what became of it. */
export function offerNotice(what: 'asked' | 'taken' | 'left', noticing: Noticing): Content {
  const { rule, by, reader, world } = noticing;
  const phrases = phrasesFor(reader.locale);
  const named = { by: nameOf(by, world), rule: rule.name };
  const sentences = what === 'asked' ? [whatWords(noticing), phrases.say('notice.offerAnswer')] : [];
  return notice(noticing, phrases.say(`notice.offer.${what}`, named), sentences);
}

/** Tells a steward that a rule waits for their eyes, or whoever asked what became of it; `why` is what was written with it. */
export function eyesNotice(what: 'asked' | 'approved' | 'sentBack', noticing: Noticing, why: string | null): Content {
  const { rule, by, reader, world } = noticing;
  const phrases = phrasesFor(reader.locale);
  const named = { by: nameOf(by, world), rule: rule.name };
  const word = why === null || what === 'approved' ? [] : [phrases.say('notice.eyes.why', { why })];
  const sentences = what === 'asked' ? [whatWords(noticing), ...word, phrases.say('notice.eyes.look')] : word;
  return notice(noticing, phrases.say(`notice.eyes.${what}`, named), sentences);
}

/** Tells a steward that something could not be decided and stands aside. */
export function asideNotice(count: number, at: Instant, reader: AddressedReader): Content {
  const { say } = phrasesFor(reader.locale);
  return bareNotice(say('notice.aside', { count }), say('notice.asideWhy'), at, reader);
}

/** Tells who set a machine up, and stewards, that it has failed for days and is told nothing more. */
export function machineNotice(name: string, since: Instant, at: Instant, reader: AddressedReader): Content {
  const { say } = phrasesFor(reader.locale);
  const why = say('notice.machineWhy', { since: formatInstant(since, reader) });
  return bareNotice(say('notice.machine', { name }), why, at, reader);
}

/** Tells that mail to an address came back for good, and that nothing more goes there: its owner, where `whose` is left out, and others. */
export function bouncedNotice(
  { address, whose, reply, at }: { address: string; whose: string | null; reply: string; at: Instant },
  reader: AddressedReader,
): Content {
  const { say } = phrasesFor(reader.locale);
  const isOthers = whose !== null;
  const headline = isOthers ? say('notice.cameBack', { whose }) : say('notice.yoursCameBack', { address });
  const now = isOthers ? say('notice.cameBackNow', { address }) : say('notice.yoursCameBackNow');
  return bareNotice(headline, `${say('notice.cameBackWhy', { reply })} ${now}`, at, reader);
}

/** Tells somebody that they hear in another's place, on which days, or that they no longer do. */
export function deputyNotice(
  what: 'named' | 'over',
  { by, from, until, at }: { by: string; from: CivilDate; until: CivilDate; at: Instant },
  reader: AddressedReader,
): Content {
  const { say } = phrasesFor(reader.locale);
  const days = { from: formatDay(from, reader.locale), until: formatDay(until, reader.locale) };
  return bareNotice(
    say(`notice.deputy.${what}`, { by }),
    say(`notice.deputy.${what}Lead`, { by, ...days }),
    at,
    reader,
  );
}

/** Tells somebody that codes are being guessed from their number, and that none from it is looked at for a while. */
export function codesNotice(number: string, at: Instant, reader: AddressedReader): Content {
  const { say } = phrasesFor(reader.locale);
  return bareNotice(say('notice.codesGuessed', { number }), say('notice.codesGuessedLead'), at, reader);
}

/** A notice that is about no item and no rule. */
const bareNotice = (headline: string, lead: string, at: Instant, reader: AddressedReader): Content => ({
  form: 'notice',
  language: phrasesFor(reader.locale).language,
  headline,
  when: formatInstant(at, reader),
  lead,
  entries: [],
});

const nameOf = (id: string, world: World): string => world.people.get(id)?.name ?? id;

function notice({ rule, at, reader }: Noticing, headline: string, sentences: string[]): Content {
  return {
    form: 'notice',
    language: phrasesFor(reader.locale).language,
    headline,
    when: formatInstant(at, reader),
    lead: sentences.filter(Boolean).join(' '),
    entries: [],
    rule: { id: rule.id, name: rule.name },
    ...(reader.emailFormat === 'text' ? { isPlain: true } : {}),
  };
}

function phrasingOfRule({ rule, reader, world }: Noticing): Phrasing | null {
  const source = world.sources.get(rule.scope.sources[0] ?? '');
  return source ? phrasingOf(source, reader, world) : null;
}

/** Of what a rule tells, in a sentence. */
function whatWords(noticing: Noticing): string {
  const { rule, reader, world } = noticing;
  const phrases = phrasesFor(reader.locale);
  const phrasing = phrasingOfRule(noticing);
  if (!phrasing) return '';
  const places = rule.scope.sources.flatMap((id) => world.sources.get(id)?.name ?? []).join(', ');
  const occasion = occasionWords(rule, phrasing.source, phrases);
  return phrases.say('notice.what', { places, what: occasion ?? happensWords(rule, phrasing, phrases) });
}

/** What has to happen: of which kind, and so that what; edits are what conditions are mostly about, and need no word beside one. */
function happensWords({ when }: Rule, phrasing: Phrasing, phrases: Phrases): string {
  const condition = when ? plainWords(conditionWords(when.if, phrasing)) : '';
  const named = (when?.kinds ?? []).filter((kind) => condition === '' || (kind !== 'created' && kind !== 'changed'));
  if (named.length === 0) return condition || phrases.say('notice.anything');
  const kinds = phrases.or(named.map((kind) => kindWords(kind, phrases)));
  return condition === ''
    ? phrases.say('notice.kinds', { kinds })
    : phrases.say('notice.kindsAnd', { kinds, condition });
}

function soonWords({ pace }: Rule, phrases: Phrases): string {
  const words = paceWords(pace, phrases);
  return pace.kind === 'digest' ? phrases.say('pace.inDigest', { digest: words }) : words;
}
