import type { WithheldReason } from '../core/decide/index.ts';
import type { Channel } from '../core/people/index.ts';

type Params = Record<string, unknown>;
const listed = (value: unknown) => (Array.isArray(value) ? value.join(', ') : String(value ?? ''));

/** Sentences for fault codes, wherever they are shown. */
const FAULTS: Record<string, (params: Params) => string> = {
  unknownSource: (p) => `There is no source “${p.source}”. There are: ${listed(p.allowed)}.`,
  unknownZone: (p) => `“${p.zone}” is no time zone. An IANA name such as Europe/Madrid is right.`,
  unknownFolder: (p) => `There is no folder “${p.folder}”.`,
  unknownField: (p) => `${p.source} has no field “${p.field}”. It has: ${listed(p.allowed)}.`,
  unknownOperator: (p) => `${p.field} cannot be tested with “${p.op}”. It can with: ${listed(p.allowed)}.`,
  unknownOption: (p) => `${p.field} has no option “${p.option}”. It has: ${listed(p.allowed)}.`,
  underNeedsFolders: (p) => `${p.source} has no folders to look below.`,
  nobodyHears: () => 'Nobody would hear. Add a person, a group or a field that names people.',
  notARecipient: (p) => `${p.selector} names nobody who could hear.`,
  notAPersonField: (p) => `${p.source} has no field “${p.field}” that names people. It has: ${listed(p.allowed)}.`,
  needsDateField: (p) => `${p.field} is no date.`,
  cannotRise: (p) => `${p.field} cannot rise or fall; only numbers, money and dates can.`,
  needsSetField: (p) => `${p.field} holds one value; only fields that hold several gain and lose them.`,
  needsRange: (p) => `${p.field} needs two ends, from and to.`,
  needsList: (p) => `${p.field} needs a list.`,
  needsOneValue: (p) => `${p.field} needs one value.`,
  needsNumber: (p) => `${p.field} needs a number, such as 57.5.`,
  needsMoney: (p) => `${p.field} needs an amount and a currency, such as 120000.00 EUR.`,
  needsYesOrNo: (p) => `${p.field} is yes or no.`,
  needsDate: (p) => `${p.field} needs a day, such as 2026-03-04.`,
  needsDateOrInstant: (p) => `${p.field} needs a day or an instant.`,
  needsInstant: (p) => `${p.field} needs a day and a time.`,
  needsDuration: (p) => `${p.field} needs a duration, such as P14D or PT2H.`,
  needsText: (p) => `${p.field} needs some text.`,
  needsAddress: (p) => `${p.field} needs an email address, such as ines@marisma.example.`,
  needsUrl: (p) => `${p.field} needs a web address that begins with https://.`,
  onlyYourself: () => 'You make rules for yourself. A coordinator can make them for others.',
  notYours: () => 'You make rules for others only where you coordinate. Here you can make one for yourself.',
  notYoursToTell: () =>
    'It belongs to somebody who may read more than you, and would tell people outside of what you may not read. Its owner can add them, or hand the rule over.',
  hasLeft: (p) => `${p.person} is no longer here.`,
  cannotBeJudged: (p) =>
    `It could not be judged${p.to ? ` for ${p.to}` : ''}, ${p.times} time${p.times === '1' ? '' : 's'} so far; all others went on: ${p.reason}.`,
  wordsTooDear: (p) =>
    `Its own words could not be put together, ${p.times} time${p.times === '1' ? '' : 's'} so far; Ojo’s words stood for them.`,
  tooDeep: (p) => `It goes deeper than ${p.most} levels.`,
  tooLong: (p) => `There are more than ${p.most} entries in one list.`,
  tooLarge: (p) => `There is more in it than a document may hold, ${p.most} parts.`,
  more: () => 'There is more that is wrong. Mend these first.',
  ownerless: () => 'Its owner is no longer here. Hand it over to somebody.',
  oneOccasion: (p) => `A rule looks at one of when, due and idle; this one has ${listed(p.found) || 'none'}.`,
  burstNeverSettles: () =>
    'Counting how often something happens does not go with waiting until it settles. Take one of them.',
  dateNeverSettles: () => 'A date or a standstill is told at its instant, so it cannot wait until things settle.',
  nobodyDidIt: () => 'Nobody does what a date or a standstill brings about, so it cannot be asked who did it.',
  ackNeedsHaste: () => 'What has to be acknowledged cannot wait for a digest.',
  differentTypes: (p) =>
    `${p.field} is ${p.type} in ${p.source} and ${p.otherType} in ${p.other}. A rule over both needs one type.`,
  notAnActor: (p) => `${p.selector} names nobody who acts. It can be: ${listed(p.allowed)}.`,
  notALinkField: (p) => `${p.source} has no link “${p.field}”. It has: ${listed(p.allowed) || 'none'}.`,
  unreadableText: (p) => `The text cannot be read: ${p.problem}.`,
  unknownName: (p) => `There is no “${p.name}” to put in. There is: ${listed(p.allowed)}.`,
  unknownWording: (p) => `There is no wording “${p.wording}”. There are: ${listed(p.allowed) || 'none'}.`,
  endBeforeStart: (p) => `The end comes before the start, ${p.start}.`,
  idTwice: (p) => `The id “${p.id}” stands here twice.`,
  unknownId: (p) => `There is no ${p.kind} “${p.id}”. There are: ${listed(p.allowed) || 'none'}.`,
  outOfOrder: (p) => `${p.at} comes after ${p.before}: inputs stand in order of time.`,
  notPaused: (p) => `The rule “${p.rule}” is not paused, so it cannot be resumed.`,
  unknownKey: (p) =>
    `There is no part “${p.key}” here.${Array.isArray(p.allowed) && p.allowed.length > 0 ? ` There may be: ${listed(p.allowed)}.` : ''}`,
  noneOfTheShapes: (p) => `This is none of what may stand here: ${listed(p.allowed)}.`,
  notOneOf: (p) => `It has to be one of: ${listed(p.allowed)}.`,
  missing: (p) => `This is missing; it is ${p.expected}.`,
  wrongType: (p) => `This has to be ${p.expected}.`,
  unreadable: (p) => `The document cannot be read: ${p.problem}`,
  unreadableFile: (p) => `The file cannot be read: ${p.problem}`,
  invalid: (p) => `${p.message}`,
};

export const faultWords = (code: string, params: Params): string => FAULTS[code]?.(params) ?? code;

/** Why somebody did not hear, after their name; `fault` marks what somebody ought to mend. */
export const REASON_WORDS: Record<WithheldReason, { words: string; isFault: boolean }> = {
  excluded: { words: 'left out of the rule', isFault: false },
  inactive: { words: 'no longer here', isFault: true },
  noAccess: { words: 'may not read it', isFault: true },
  notTheirs: { words: 'not theirs', isFault: false },
  ownChange: { words: 'their own change', isFault: false },
  muted: { words: 'muted it', isFault: false },
  unconfirmed: { words: 'has not confirmed the address', isFault: true },
  unsubscribed: { words: 'has left it', isFault: false },
  coolDown: { words: 'too soon after the last one', isFault: false },
  noChannel: { words: 'no way to reach them', isFault: true },
};

export const CHANNEL_WORDS = {
  inApp: 'in Ojo',
  email: 'by email',
  text: 'by text message',
  webhook: 'by webhook',
} as const satisfies Record<Channel, string>;
