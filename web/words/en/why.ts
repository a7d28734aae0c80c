export const ENGLISH = {
  title: 'Why {person} heard, or did not',
  titleMine: 'Why you heard, or did not',
  thisChange: 'what happened, and who heard',
  whose: 'Who is asked about',
  by: 'by {person}',
  noRuleLooks:
    'No rule that you may see looked at this when it happened and would tell {mine, select, yes {you} other {{person}}} of it.',
  makeARule: 'Make one from this change',
  others:
    '{count, plural, one {# more rule looks} other {# more rules look}} at {source}; {count, plural, one {it caught nothing here and tells} other {they caught nothing here and tell}} others.',
  told: '{rule} told {mine, select, yes {you} other {{person}}} of it.',
  gathers: '{rule} caught it; it comes to {mine, select, yes {you} other {{person}}} with what gathers until {time}.',
  withheld: '{rule} caught it, and {mine, select, yes {you were} other {{person} was}} left out of it: {reason}',
  notReached:
    '{rule} caught it, and tells others of it: {mine, select, yes {you are} other {{person} is}} not among those whom it reaches for this item.',
  undone: '{rule} caught it, and it was put back before it had settled: nobody was told.',
  skipped: '{rule} was paused when it happened, and what it had caught was left out when it went on.',
  waits: '{rule} caught it, and waits: it is told once things settle, or once it is decided.',
  paused: '{rule} is paused: what it catches is kept until it goes on.',
  'notCaught.scope':
    '{rule} would tell {mine, select, yes {you} other {{person}}}, and did not catch it: it looks at other items.',
  'notCaught.kinds':
    '{rule} would tell {mine, select, yes {you} other {{person}}}, and did not catch it: it looks at other kinds of changes.',
  'notCaught.by':
    '{rule} would tell {mine, select, yes {you} other {{person}}}, and did not catch it: it looks at what others do.',
  'notCaught.if':
    '{rule} would tell {mine, select, yes {you} other {{person}}}, and did not catch it: what it asks did not hold.',
  'notCaught.during':
    '{rule} would tell {mine, select, yes {you} other {{person}}}, and did not catch it: it looks at other days.',
  howItJudged: 'How it judged this change',
  messageWent: '{way}, {time}: {fate}',
  wasRead: 'read {time}',
  'fate.delivered': 'it arrived',
  'fate.waiting': 'it waits to be sent',
  'fate.sending': 'it is on its way',
  'fate.failed': 'it failed',
  'fate.withheld': 'it was withheld',
  seeIt: 'See the message',
  'reason.excluded': 'the rule leaves them out by name.',
  'reason.inactive': 'they were no longer here.',
  'reason.noAccess': 'they may not read the item.',
  'reason.notTheirs': 'the rule tells each of their own items only, and this one is not theirs.',
  'reason.ownChange': 'it was their own change, and one’s own changes are not told.',
  'reason.muted': 'they had muted the rule, the item, or everything.',
  'reason.unconfirmed': 'they have not yet said yes to being written to.',
  'reason.unsubscribed': 'they have left this rule.',
  'reason.absent': 'they were away.',
  'reason.coolDown': 'the rule had told of it too short a while before, and its limit holds more back.',
  'reason.noChannel': 'there was no way to reach them: no address, every way switched off, or email that came back.',
} as const;
