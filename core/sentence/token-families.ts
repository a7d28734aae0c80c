import type { TokenType } from 'chevrotain';
import type { Stretch } from './cut.ts';
import { WORD } from './tokens.ts';

/** What begins what brings a rule about. */
export const OCCASION_STARTS: readonly TokenType[] = [WORD.when, WORD.nothingFor, WORD.numberOf, WORD.sumOf];
/** What stands before the source that a rule looks at; and what before the field that its source follows. */
export const SOURCE_LEADS: readonly TokenType[] = [WORD.when, WORD.inside, WORD.numberOf, WORD.report];
export const FIELD_LEADS: readonly TokenType[] = [WORD.before, WORD.after, WORD.onTheDay, WORD.sumOf];

/** Whether a token is one of these, or of a family of them. */
export const isOneOf = (token: Stretch | undefined, types: readonly TokenType[]): boolean =>
  token !== undefined &&
  types.some((type) => type === token.tokenType || (token.tokenType.CATEGORIES ?? []).includes(type));
