import { z } from 'zod';
import { faultWords } from './words.ts';

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
  conflict: z.unknown().optional(),
});
export type Problem = z.infer<typeof problemSchema>;

/** Every code a request can be refused with: its status, and its words. */
export const PROBLEMS = {
  notSignedIn: [401, 'You are not signed in'],
  badSignIn: [401, 'Name and password do not fit together'],
  tooMany: [429, 'Too many tries. Wait a minute, then try again'],
  notAllowed: [403, 'You may not do this'],
  notFound: [404, 'There is nothing here that you may see'],
  badRequest: [400, 'The request is not as it should be'],
  badValues: [422, 'Some values cannot stand as they are'],
  badRule: [422, 'The rule cannot be kept as it is'],
  editedMeanwhile: [409, 'Somebody else has edited this meanwhile'],
  secondLook: [409, 'It would send a great deal'],
  gone: [409, 'It has been deleted meanwhile'],
  unavailable: [503, 'Ojo’s database cannot be reached just now. Nothing was changed; it is tried again in a moment'],
  outcomeUnknown: [
    503,
    'The connection to the database was cut while this was being saved, so it may or may not be there. Saving it again does no harm: the same edit is kept once',
  ],
  tooMuchToCount: [422, 'This takes too long to count. Look at fewer days, or at fewer sources'],
  countDropped: [409, 'A newer question has taken the place of this one'],
  closing: [503, 'Ojo is being restarted. Try again in a moment'],
  failed: [
    500,
    'Something in Ojo failed; it has been written down. Look whether your change is there before you try again',
  ],
} as const satisfies Record<string, readonly [number, string]>;
export type ProblemCode = keyof typeof PROBLEMS;

export interface FaultAt {
  code: string;
  path: string;
  params: Record<string, unknown>;
}

/** A refusal on its way to becoming a problem document. */
export class Refusal extends Error {
  constructor(
    readonly code: ProblemCode,
    readonly more: { detail?: string; faults?: FaultAt[]; conflict?: unknown } = {},
  ) {
    super(PROBLEMS[code][1]);
  }

  toProblem(): Problem {
    const [status, title] = PROBLEMS[this.code];
    const { detail, faults, conflict } = this.more;
    return {
      type: `urn:ojo:problem:${this.code}`,
      title,
      status,
      code: this.code,
      ...(detail ? { detail } : {}),
      ...(faults ? { faults: faults.map((fault) => ({ ...fault, words: faultWords(fault.code, fault.params) })) } : {}),
      ...(conflict ? { conflict } : {}),
    };
  }
}
