import { type Problem, problemSchema } from '../../contract/problems.ts';

/** A refusal that came back as a problem document (RFC 9457). */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail ?? problem.title);
  }
}

const UNREACHABLE: Problem = { type: 'urn:ojo:problem:unreachable', title: 'Ojo cannot be reached just now', status: 0, code: 'unreachable' };

/** One request to the API; throws an {@link ApiError} that says what was wrong. */
export async function api<T>(path: string, method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE' = 'GET', body?: unknown): Promise<T> {
  const response = await fetch(`/api${path}`, {
    method, ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  }).catch(() => {
    throw new ApiError(UNREACHABLE);
  });
  if (response.status === 204) return undefined as T;
  const json: unknown = await response.json().catch(() => null);
  if (response.ok) return json as T;
  const problem = problemSchema.safeParse(json);
  throw new ApiError(problem.success ? problem.data : { ...UNREACHABLE, status: response.status });
}

/** The problem behind a failure, whatever it was. */
export const problemOf = (error: unknown): Problem => (error instanceof ApiError ? error.problem : { ...UNREACHABLE, title: String((error as Error)?.message ?? error) });
