import type { z } from 'zod';
import type { ProblemCode } from '../problems.ts';

/** What a route takes and answers. */
export interface RouteContract {
  /** What its address asks, after the question mark. */
  query?: z.ZodType;
  body?: z.ZodType;
  /** What it answers, as JSON; left out where there is nothing to say. */
  answer?: z.ZodType;
  /** The status of its answer, where it is not 200 (204 where nothing is said). */
  status?: 201;
  /** What it may refuse a request for, beside what any route may ({@link COMMON_PROBLEMS}). */
  problems?: readonly ProblemCode[];
  /** Nobody need be signed in. */
  isOpen?: true;
  /** It writes its answer itself: a file, a stream. */
  isRaw?: true;
}

/** What every route may refuse a request for. */
export const COMMON_PROBLEMS = [
  'notSignedIn',
  'notAllowed',
  'notFound',
  'badRequest',
  'tooMany',
  'secondOwed',
  'unavailable',
  'outcomeUnknown',
  'closing',
  'failed',
] as const satisfies readonly ProblemCode[];
