/**
 * What is wrong with a document, by the code of its fault, in English. Each text is an ICU message; `{name}` is one of the
 * code's parameters, a list of them joined by commas, and `{nameCount}` how many there are.
 */
export const ENGLISH = {
  none: 'none',
  unknownSource: 'There is no source “{source}”. There are: {allowed}.',

  unknownZone: '“{zone}” is no time zone. An IANA name such as Europe/Madrid is right.',

  folderElsewhere: 'The folder “{folder}” is not in {source}: take it off, or choose one that is.',
  itemElsewhere: 'One of the chosen items is in none of these sources: take it off, or choose it anew.',
  unknownFolder: 'There is no folder “{folder}”.',

  unknownField: '{source} has no field “{field}”. It has: {allowed}.',

  unknownOperator: '{field} cannot be tested with “{op}”. It can with: {allowed}.',

  comparesNoFields: 'By “{op}” {field} is compared with values alone. With another field it can be by: {allowed}.',
  otherType: '{other} is of another type than {field}. It can be compared with: {allowed}.',
  unknownOption: '{field} has no option “{option}”. It has: {allowed}.',

  underNeedsFolders: '{source} has no folders to look below.',

  nobodyHears: 'Nobody would hear. Add a person, a group or a field that names people.',

  notARecipient: '{selector} names nobody who could hear.',

  notAPersonField: '{source} has no field “{field}” that names people. It has: {allowed}.',

  reportComesAtOnce: 'A report comes at its own instants: it has no pace beside them.',
  notOfReports: 'This does not go with a report.',
  otherDays:
    'On these days no report comes that is made each {every, select, day {day} week {week} other {month}}: name days of the week for a weekly one, of the month for a monthly one.',
  notAFigure: '{field} cannot be added up. What can: {allowed}.',
  cannotPart: 'Nothing can be counted for each {field}. It can be for each: {allowed}.',
  notLater: 'An instant to come has to be later than now.',
  tooFarAhead: 'So far ahead nothing is kept: name a day within a year.',
  noDeputy: 'Whoever hears in your place is somebody else, with an account in use.',
  noCasesHere: 'Recipients by case cannot stand here.',
  noWaysHere: 'Channels for some can stand only beside those whom the rule tells.',
  throughTwice: 'What a linked item links to cannot be asked: one link is followed at a time.',
  throughInLinked:
    'What linked items are like cannot be asked where the rule goes by links itself. Ask it of what happens instead.',
  sameLead: 'This lead time is there already.',
  needsDateField: '{field} is no date.',

  cannotRise: '{field} cannot rise or fall; only numbers, money and dates can.',

  needsSetField: '{field} holds one value; only fields that hold several gain and lose them.',

  needsRange: '{field} needs two ends, from and to.',

  needsList: '{field} needs a list.',

  needsOneValue: '{field} needs one value.',

  needsNumber: '{field} needs a number, such as {number}.',

  needsMoney: '{field} needs an amount and a currency, such as {amount}.',

  needsYesOrNo: '{field} is yes or no.',

  needsDate: '{field} needs a day, such as {day}.',

  needsDateOrInstant: '{field} needs a day or an instant.',

  needsInstant: '{field} needs a day and a time.',

  needsDuration: '{field} needs a duration, such as {duration}.',

  textTooLong: '{field} has more than {most} signs. Shorten it.',

  needsText: '{field} needs some text.',

  needsAddress: '{field} needs an email address, such as ines@marisma.example.',

  needsUrl: '{field} needs a web address that begins with https://.',

  onlyYourself: 'You make rules for yourself. A coordinator can make them for others.',

  notYours: 'You make rules for others only where you coordinate. Here you can make one for yourself.',

  notYoursToTell:
    'It belongs to somebody who may read more than you, and would tell people outside of what you may not read. Its owner can add them, or hand the rule over.',

  hasLeft: '{person} is no longer here.',

  cannotBeJudged:
    'It could not be judged{toCount, plural, =0 {} one { for {to}} other { for {to}}}, {times, plural, one {# time} other {# times}} so far; all others went on: {reason}.',

  wordsTooDear:
    'Its own words could not be put together, {times, plural, one {# time} other {# times}} so far; Ojo’s words stood for them.',

  strangeSigns:
    'This holds control signs or half characters, which are no text. Type it anew, or paste it as plain text.',
  standsForHidden:
    '{field} holds the sign for something you may not read. Choose what it should be, or leave it as it is.',
  tooDeep: 'It goes deeper than {most} levels.',

  nameTaken: 'There is one called “{name}” already; “{free}” is free.',

  emptyList: '{field}: choose at least one.',

  reversedRange: '{field}: the lowest is above the highest. Swap them.',

  twoCurrencies: '{field}: the two ends are of two currencies, {low} and {high}. They need one.',

  needsMoreThanNothing: '{field}: “by at least” has to be more than 0. Leave it empty for any amount.',

  noShareOf: '{field} only counts up, so a share of it says nothing. Say by how many, or leave it empty.',

  lastBeforeFirst: 'The last day is before the first. Swap them.',

  endInPast: 'The last day has passed, so it would never tell anybody. Take today or a later one.',

  lastsNothing: 'This has to last longer than nothing, such as 10 minutes.',

  tooManyAtOnce: 'At most {most} can be done at once. Choose fewer.',

  notTyped: '{field} is not typed: it follows from what is done with the document.',

  nobodyNamed: 'Say first to whom.',

  empty: 'Something has to stand here.',

  longText: 'At most {most} signs can stand here.',

  tooLow: 'At least {least} is right here.',
  tooHigh: 'At most {most} is right here.',
  tooFew: 'At least {least} entries have to stand here.',

  noAddress: 'This is no email address; one such as ines@marisma.example is right.',

  notAskable:
    '{field} cannot be asked of people without an account: people and items are shown to nobody outside, and each is asked once.',
  titleIsNeeded: '“{field}” names an item: it has to be asked, and filled in.',
  noWebAddress: 'A web address begins with https:// or http://.',
  tooShort: 'At least {least} signs have to stand here.',
  easilyGuessed:
    'It is too easily guessed: words that follow from one another, names, years and keys that lie side by side are tried first. Four or five words that have nothing to do with one another are hard to guess.',
  notYourPassword: 'This is not your password.',
  notTheCode: 'This is not the code that it shows now.',
  addressTaken: '{name} has this address already.',
  nobodyThere: 'There is nobody like that here.',
  nothingThere: 'There is nothing like that here.',
  managesThemselves: '{name} would be their own manager, directly or by others.',
  lastSteward: 'Somebody has to be a steward: make somebody else one first.',
  groupInItself: '“{name}” would hold itself.',
  startTwice: 'They start with another plan already: put one of the two away.',
  startNamesOwn: 'Single rules and addresses are somebody’s own, and not for everybody to start with.',
  noZone: 'An IANA time zone such as Europe/Madrid is right here.',
  noLocale: 'A language tag such as en-GB or es-ES is right here.',
  noTelephone: 'A number begins with its country’s, such as +34 600 555 014.',

  noCode: 'The code is the six figures of the message.',

  tooLong: 'There are more than {most} entries in one list.',

  tooLarge: 'There is more in it than a document may hold, {most} parts.',

  more: 'There is more that is wrong. Mend these first.',

  ownerless: 'Its owner is no longer here. Hand it over to somebody.',

  oneOccasion: 'A rule looks at one of when, due and idle; this one has {found}.',

  burstNeverSettles:
    'Counting how often something happens does not go with waiting until it settles. Take one of them.',

  dateNeverSettles: 'A date or a standstill is told at its instant, so it cannot wait until things settle.',

  nobodyDidIt: 'Nobody does what a date or a standstill brings about, so it cannot be asked who did it.',

  ackNeedsHaste: 'What has to be acknowledged cannot wait for a digest.',

  differentTypes: '{field} is {type} in {source} and {otherType} in {other}. A rule over both needs one type.',

  notAnActor: '{selector} names nobody who acts. It can be: {allowed}.',

  namesNobody: '{field}: “{text}” names nobody here, or several. A name, an address or an id is right.',
  namesNoItem: '{field}: “{text}” names nothing that you may read, or several things. A title or an id is right.',
  keyTwice: 'Line {line} has “{key}” already. It can stand in one row.',
  keyEmpty: 'The column that tells rows apart is empty here.',
  keyOfSeveral: '“{key}” is that of several items, so it cannot be told which is meant.',
  noItemOfId: 'There is no item “{key}” here. Leave it empty for a new one.',
  nameEmpty: '{field} is empty, and a new item needs it.',
  fieldTwice: '{field} is chosen for two columns. Choose it for one.',
  noColumnUsed: 'No column goes to a field yet. Choose one for at least one column.',
  keyWithoutColumn: 'No column goes to the field that tells rows apart.',

  sheetKeyGone: 'The column “{column}”, which tells rows apart, is not in it, so the rows stand as they were.',
  sheetColumnGone: 'The column “{column}” is no longer in it; its cells stand as they were.',
  sheetUnread: 'This version cannot be read as a table, so the rows stand as they were.',
  sheetNoTable: 'This version is no table, so the rows stand as they were.',

  mayNotAdd: 'You may add nothing here.',
  mayNotEdit: 'You may not edit this item.',

  nobodyReads: 'Somebody has to be able to read it. Add a person or a group, or let everybody.',
  notAReader: '“{selector}” is nobody who could be let in here.',

  titleNeedsText: 'What names an item has to be a text.',
  needsOptions: '{field} needs what can be chosen.',
  needsSource: '{field} needs the source that it leads to.',
  rulesUseIt:
    '{rules} {rulesCount, plural, one {looks at what would go. Change it first.} other {look at what would go. Change them first.}}',
  valuesAgainst:
    '{field} cannot become that: it would not hold what {count, plural, one {# item has} other {# items have}}, such as {items}.',

  notALinkField: '{source} has no link “{field}”. It has: {allowed}.',

  unreadableText: 'The text cannot be read at “{near}”. A placeholder that is begun there does not end.',

  noJson: 'Filled in, it is no JSON. Each placeholder stands within quotation marks; check commas and brackets.',
  noItemThere: 'There is no item “{key}” here.',
  noKeyThere: 'Nothing stands at “{pointer}” that says which item it is about.',
  noWordsThere: 'No words stand at “{pointer}”.',
  noPointer: '“{text}” is no place in an event. It should look like /data/title, or /subject.',
  typeTwice: 'Events of type “{type}” are spoken of twice. Put both together.',
  keyIsNeeded: 'Say where the event names the item, such as /subject.',
  wordsAreNeeded: 'Say where the words of the comment stand, such as /data/text.',
  noFieldThere: 'The source has no field “{field}”. Choose another.',
  mappedTwice: '“{field}” comes from two places. Choose one.',
  titleIsMapped: '“{field}” names an item: say where it comes from.',
  unknownName: 'There is no “{name}” to put in. There is: {allowed}.',

  unknownSender: 'The house has no name “{sender}” set up. There are: {allowed}.',
  unknownPerson: 'Nobody here is “{person}”. Choose somebody who is.',
  personWithoutAddress: '{person} has no email address that messages could come from.',
  senderTwice: '{person} is among the names already.',
  unknownWording: 'There is no wording “{wording}”. There are: {allowed}.',

  endBeforeStart: 'The end comes before the start, {start}.',

  idTwice: 'The id “{id}” stands here twice.',

  unknownId: 'There is no {kind} “{id}”. There are: {allowed}.',

  outOfOrder: '{at} comes after {before}: inputs stand in order of time.',

  notPaused: 'The rule “{rule}” is not paused, so it cannot be resumed.',

  unknownKey:
    'There is no part “{key}” here.{allowedCount, plural, =0 {} one { There may be: {allowed}.} other { There may be: {allowed}.}}',

  noneOfTheShapes: 'This is none of what may stand here: {allowed}.',

  notOneOf: 'It has to be one of: {allowed}.',

  missing:
    'This is missing; it is {expected, select, string {a text} number {a number} int {a whole number} boolean {true or false} array {a list} object {an object} record {an object} other {{expected}}}.',

  wrongType:
    'This has to be {expected, select, string {a text} number {a number} int {a whole number} boolean {true or false} array {a list} object {an object} record {an object} other {{expected}}}.',

  unreadable: 'The document cannot be read: {problem}',

  unreadableFile: 'The file cannot be read: {problem}',

  invalid: '{message}',
} as const;
