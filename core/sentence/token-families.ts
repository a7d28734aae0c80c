import type { TokenType } from 'chevrotain';
import type { Stretch } from './cut.ts';
import { WORD } from './tokens.ts';

/** What begins what brings a rule about. */
export const OCCASION_STARTS: readonly TokenType[] = [WORD.when, WORD.nothingFor, WORD.numberOf, WORD.sumOf];
/** What stands before the source that a rule looks at. */
export const SOURCE_LEADS: readonly TokenType[] = [WORD.when, WORD.inside, WORD.numberOf, WORD.report];
/** What stands before a field that its source follows. */
export const FIELD_LEADS: readonly TokenType[] = [WORD.before, WORD.after, WORD.onTheDay, WORD.sumOf, WORD.when];

/** Whether a token is one of these, or of a family of them. */
export const isOneOf = (token: Stretch | undefined, types: readonly TokenType[]): boolean =>
  token !== undefined &&
  types.some((type) => type === token.tokenType || (token.tokenType.CATEGORIES ?? []).includes(type));
