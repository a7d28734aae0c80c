import { type Problem, problemSchema } from '../../contract/problems.ts';
import { noteBack, noteLost } from './connection.ts';

/** A refusal that came back as a problem document (RFC 9457). */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail ?? problem.title);
  }
}

const UNREACHABLE: Problem = {
  type: 'urn:ojo:problem:unreachable',
  title: 'Ojo cannot be reached just now',
  status: 0,
  code: 'unreachable',
};

/** Keys of what was sent and never answered: sent again just so, it goes under the same key and is done once. */
const keys = new Map<string, string>();

function keyFor(request: string): string {
  const key = keys.get(request) ?? crypto.randomUUID();
  keys.set(request, key);
  return key;
}

/** Says that nobody knows whether something was done. */
const isUnsettled = (response: Response): boolean => response.status === 503;

/** One request to the API; throws an {@link ApiError} that says what was wrong. */
export async function api<T>(
  path: string,
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE' = 'GET',
  body?: unknown,
): Promise<T> {
  const text = body === undefined ? undefined : JSON.stringify(body);
  const request = `${method} ${path} ${text ?? ''}`;
  const response = await fetch(`/api${path}`, {
    method,
    ...(text === undefined ? {} : { body: text }),
    headers: {
      ...(text === undefined ? {} : { 'content-type': 'application/json' }),
      ...(method === 'GET' ? {} : { 'idempotency-key': keyFor(request) }),
    },
  }).catch(() => {
    noteLost(false);
    throw new ApiError(UNREACHABLE);
  });
  if (isUnsettled(response)) noteLost(true);
  else {
    noteBack();
    keys.delete(request);
  }
  if (response.status === 204) return undefined as T;
  const json: unknown = await response.json().catch(() => null);
  if (response.ok) return json as T;
  const problem = problemSchema.safeParse(json);
  throw new ApiError(problem.success ? problem.data : { ...UNREACHABLE, status: response.status });
}

/** The problem behind a failure, whatever it was. */
export const problemOf = (error: unknown): Problem =>
  error instanceof ApiError ? error.problem : { ...UNREACHABLE, title: String((error as Error)?.message ?? error) };
