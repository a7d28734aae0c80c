export const ENGLISH = {
  digest: 'Digest: {value}',
  youAmongOthers: 'you',
  atThoseToldAreReminded: 'At {hour} those told are reminded, if nobody has it by then.',
  atItWouldGoOn: 'At {hour} it would go on, but nobody is named.',
  atItGoesToIf: 'At {hour} it goes to {names}, if nobody has it by then.',
} as const;
