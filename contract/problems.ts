import { z } from 'zod';
import { LIMITS } from './limits.ts';
import { faultWords } from './words/faults.ts';
import { type BecauseCode, type ProblemWord, problemWords } from './words/refusals.ts';

/** A problem as RFC 9457 has it; `code` is ours, `faults` name the paths of a bad document. */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  detail: z.string().optional(),
  code: z.string(),
  faults: z
    .array(
      z.object({ code: z.string(), path: z.string(), params: z.record(z.string(), z.unknown()), words: z.string() }),
    )
    .optional(),
  because: z.object({ code: z.string(), params: z.record(z.string(), z.unknown()) }).optional(),
  conflict: z.unknown().optional(),
});
export type Problem = z.infer<typeof problemSchema>;

/** Every code a request can be refused with, and its status; what it says stands in the catalogue. */
export const PROBLEMS = {
  notSignedIn: 401,
  badSignIn: 401,
  codeNeeded: 401,
  badCode: 401,
  secondOwed: 403,
  tooMany: 429,
  notAllowed: 403,
  notFound: 404,
  badRequest: 400,
  badValues: 422,
  badRule: 422,
  editedMeanwhile: 409,
  secondLook: 409,
  gone: 409,
  unavailable: 503,
  outcomeUnknown: 503,
  tooMuchToCount: 422,
  countDropped: 409,
  closing: 503,
  failed: 500,
} as const satisfies Partial<Record<ProblemWord, number>>;
/** Why a request was refused; worded late, in the reader's language. */
export type ProblemCode = keyof typeof PROBLEMS;

/** A fault of a document: where it stands, what is wrong, and with what to fill its words. */
export interface FaultAt {
  code: string;
  path: string;
  params: Record<string, unknown>;
}

/** Why it was refused, more closely. */
export interface Because {
  code: BecauseCode;
  params: Record<string, unknown>;
}

/** Why a request is refused, in codes: worded by whoever shows it. */
interface Grounds {
  because?: BecauseCode | Because;
  faults?: FaultAt[];
  conflict?: unknown;
  /** After so many seconds it may be tried again. */
  retryAfterS?: number;
}

/** As many faults as anybody reads at once, and that there are more. */
const fewOf = (faults: FaultAt[] | undefined): FaultAt[] | undefined =>
  faults && faults.length > LIMITS.faults && !faults.some(({ code }) => code === 'more')
    ? [...faults.slice(0, LIMITS.faults), { code: 'more', path: '', params: {} }]
    : faults;

/** A refusal on its way to becoming a problem document. */
export class Refusal extends Error {
  readonly because: Because | undefined;

  constructor(
    readonly code: ProblemCode,
    readonly grounds: Grounds = {},
  ) {
    super(code);
    const { because } = grounds;
    this.because = typeof because === 'string' ? { code: because, params: {} } : because;
  }

  get status(): number {
    return PROBLEMS[this.code];
  }

  /** As it goes over the wire; its words are in the language of the locale, for whoever cannot word its codes. */
  toProblem(locale?: string): Problem {
    const { conflict } = this.grounds;
    const faults = fewOf(this.grounds.faults);
    const { title, detail } = problemWords({ code: this.code, because: this.because, title: this.code }, locale);
    return {
      type: `urn:ojo:problem:${this.code}`,
      title,
      status: this.status,
      code: this.code,
      ...(detail ? { detail } : {}),
      ...(this.because ? { because: this.because } : {}),
      ...(faults ? { faults: faults.map((fault) => ({ ...fault, words: faultWords(fault, locale) })) } : {}),
      ...(conflict ? { conflict } : {}),
    };
  }
}
