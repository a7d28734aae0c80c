export const ENGLISH = {
  whatChangedForThoseIt: 'What changed, for those it matters to',
  ojoKeepsAnEyeOn:
    'Ojo keeps an eye on shared documents, lists and records, and tells the right people, soon enough to act and seldom enough to be read.',
  marismaMuseum: 'Marisma Museum',
  aMadeUpMuseumTo: 'A made-up museum to try Ojo with. Choose who you are; the password is filled in.',
  signIn: 'Sign in',
  nameOrEmailAddress: 'Name or email address',
  yourPage: 'your page',
  welcome: 'Welcome, {name}',
  youSignInAs: 'Choose the password that you sign in with, as {signsInAs}.',
  chooseAPassword: 'Your password',
  twelveAtLeast: 'Twelve signs at least. Several words that you remember are best.',
  chooseIt: 'Choose it and go in',
  password: 'Password',
  byTheHouse: 'Sign in with {name}',
  code: 'Code',
  codeHint: 'The one that your authenticator application shows now, or a spare one.',
} as const;
