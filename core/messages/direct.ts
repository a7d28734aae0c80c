import type { Channel } from '../people/index.ts';
import type { Instant } from '../time/index.ts';
import { formatInstant } from '../values/index.ts';
import type { Content, Entry, AddressedReader } from './content.ts';
import { phrasesFor } from './locales/index.ts';

type Bare = Pick<Content, 'language' | 'when' | 'isPlain'>;
const bareOf = (reader: AddressedReader, at: Instant): Bare => ({
  language: phrasesFor(reader.locale).language,
  when: formatInstant(at, reader),
  ...(reader.emailFormat === 'text' ? { isPlain: true } : {}),
});

/** Shows somebody how a channel reaches them. */
export function trialContent(channel: Channel, reader: AddressedReader, at: Instant): Content {
  const phrases = phrasesFor(reader.locale);
  return {
    ...bareOf(reader, at),
    form: 'trial',
    headline: phrases.say('trial.headline', { channel }),
    lead: phrases.say('trial.lead'),
    entries: [],
  };
}

/** Asks an outside address whether it may be written to; `rules` are the names of what it would hear. */
export function contactAskContent(
  ask: string,
  asked: { by: string; rules: readonly string[]; site: string },
  reader: AddressedReader,
  at: Instant,
): Content {
  const phrases = phrasesFor(reader.locale);
  return {
    ...bareOf(reader, at),
    form: 'confirm',
    ask,
    headline: phrases.say('confirm.headline', { site: asked.site }),
    lead: phrases.say('confirm.lead', { person: asked.by, count: asked.rules.length, rules: phrases.and(asked.rules) }),
    entries: [],
  };
}

/** Asks somebody to confirm an address of their own, in the place of the usual one or beside it. */
export function ownAskContent(
  { ask, isFurther }: { ask: string; isFurther: boolean },
  site: string,
  reader: AddressedReader,
  at: Instant,
): Content {
  const phrases = phrasesFor(reader.locale);
  return {
    ...bareOf(reader, at),
    form: 'confirm',
    ask,
    headline: phrases.say('confirm.headline', { site }),
    lead: phrases.say(isFurther ? 'confirm.further' : 'confirm.own'),
    entries: [],
  };
}

/** Tells a number the code that confirms it. */
export function numberAskContent(code: string, site: string, reader: AddressedReader, at: Instant): Content {
  const phrases = phrasesFor(reader.locale);
  return {
    ...bareOf(reader, at),
    form: 'confirm',
    headline: `${phrases.say('confirm.number', { code, site })} ${phrases.say('say.stop')}`,
    lead: '',
    entries: [],
  };
}

/** Something passed on: by whom, with what word of theirs, or what they answer to it. */
export function passedContent(
  thread: string,
  { by, began, word, title, entry }: { by: string; began: string | null; word: string; title: string; entry: Entry },
  reader: AddressedReader,
  at: Instant,
): Content {
  const phrases = phrasesFor(reader.locale);
  const why =
    began === null ? phrases.words('passed.why', { person: by }) : phrases.words('passed.answerWhy', { person: began });
  return {
    ...bareOf(reader, at),
    form: 'passed',
    thread,
    headline: phrases.say(began === null ? 'passed.headline' : 'passed.answer', { person: by, title }),
    lead: word === '' ? '' : phrases.say('passed.word', { word }),
    entries: [{ ...entry, asks: false, why: [why] }],
  };
}
