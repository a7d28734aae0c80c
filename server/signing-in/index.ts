export { HouseLogin, type LoginSettings, type NotIn } from './house-login.ts';
export { guarded } from './tries.ts';
export { guessedCode, isOwnPassword, whoSignsIn } from './password.ts';
export { type From, openSession } from './opening.ts';
export { beginSecond, putOnSecond, secondOf, takesSecond } from './second-factor.ts';
export { type Known, weakness } from './strength.ts';
