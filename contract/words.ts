import type { WithheldReason } from '../core/decide/index.ts';

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
  invalid: (p) => `${p.message}`,
};

export const faultWords = (code: string, params: Params): string => FAULTS[code]?.(params) ?? code;

/** Why somebody did not hear, after their name; `fault` marks what somebody ought to mend. */
export const REASON_WORDS: Record<WithheldReason, { words: string; isFault: boolean }> = {
  excluded: { words: 'left out of the rule', isFault: false },
  inactive: { words: 'no longer here', isFault: true },
  noAccess: { words: 'may not read it', isFault: true },
  ownChange: { words: 'their own change', isFault: false },
  noChannel: { words: 'no way to reach them', isFault: true },
};

export const CHANNEL_WORDS = { inApp: 'in Ojo', email: 'by email', text: 'by text message' } as const;
