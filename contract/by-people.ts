import type { RouteName } from './paths.ts';

/**
 * What people do who are signed in, and no token in their name: what signs in, what a token could make more of itself by,
 * and what stewards set up. Of these a few may be asked for all the same.
 */
const BY_PEOPLE =
  /^(?:session|signingIn|tokens|addresses|accounts|groups|starts|contacts|machines|doors|access|running|audit|standins)\./;
const ASKED_BY_TOKENS: ReadonlySet<RouteName> = new Set(['session.me', 'groups.list', 'contacts.list']);

/** A second pair of eyes is somebody's own. */
const BY_EYES: ReadonlySet<RouteName> = new Set(['house.saveEyes', 'rules.approve']);

/** Whether a route is for people who are signed in alone. */
export const isByPeople = (name: RouteName): boolean =>
  BY_EYES.has(name) || (BY_PEOPLE.test(name) && !ASKED_BY_TOKENS.has(name));
