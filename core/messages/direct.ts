import type { Channel } from '../people/index.ts';
import type { Instant } from '../time/index.ts';
import { formatInstant } from '../values/index.ts';
import type { Content, Entry, Recipient } from './content.ts';
import { tongueOf } from './tongues/index.ts';

type Bare = Pick<Content, 'language' | 'when' | 'isPlain'>;
const bareOf = (reader: Recipient, at: Instant): Bare => ({
  language: tongueOf(reader.locale).language,
  when: formatInstant(at, reader),
  ...(reader.emailFormat === 'text' ? { isPlain: true } : {}),
});

/** Shows somebody how a channel reaches them. */
export function trialContent(channel: Channel, reader: Recipient, at: Instant): Content {
  const tongue = tongueOf(reader.locale);
  return {
    ...bareOf(reader, at),
    form: 'trial',
    headline: tongue.say('trial.headline', { channel }),
    lead: tongue.say('trial.lead'),
    entries: [],
  };
}

/** Asks an outside address whether it may be written to; `rules` are the names of what it would hear. */
export function contactAskContent(
  ask: string,
  asked: { by: string; rules: readonly string[]; site: string },
  reader: Recipient,
  at: Instant,
): Content {
  const tongue = tongueOf(reader.locale);
  return {
    ...bareOf(reader, at),
    form: 'confirm',
    ask,
    headline: tongue.say('confirm.headline', { site: asked.site }),
    lead: tongue.say('confirm.lead', { person: asked.by, count: asked.rules.length, rules: tongue.and(asked.rules) }),
    entries: [],
  };
}

/** Asks somebody to confirm an address of their own. */
export function ownAskContent(ask: string, site: string, reader: Recipient, at: Instant): Content {
  const tongue = tongueOf(reader.locale);
  return {
    ...bareOf(reader, at),
    form: 'confirm',
    ask,
    headline: tongue.say('confirm.headline', { site }),
    lead: tongue.say('confirm.own'),
    entries: [],
  };
}

/** Tells a number the code that confirms it. */
export function numberAskContent(code: string, site: string, reader: Recipient, at: Instant): Content {
  const tongue = tongueOf(reader.locale);
  return {
    ...bareOf(reader, at),
    form: 'confirm',
    headline: `${tongue.say('confirm.number', { code, site })} ${tongue.say('say.stop')}`,
    lead: '',
    entries: [],
  };
}

/** Something passed on: by whom, with what word of theirs, or what they answer to it. */
export function passedContent(
  talk: string,
  { by, began, word, title, entry }: { by: string; began: string | null; word: string; title: string; entry: Entry },
  reader: Recipient,
  at: Instant,
): Content {
  const tongue = tongueOf(reader.locale);
  const why =
    began === null ? tongue.words('passed.why', { person: by }) : tongue.words('passed.answerWhy', { person: began });
  return {
    ...bareOf(reader, at),
    form: 'passed',
    talk,
    headline: tongue.say(began === null ? 'passed.headline' : 'passed.answer', { person: by, title }),
    lead: word === '' ? '' : tongue.say('passed.word', { word }),
    entries: [{ ...entry, asks: false, why: [why] }],
  };
}
