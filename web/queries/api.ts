import { addressOf, type ParamsOf, type RouteName } from '../../contract/paths.ts';
import type { Problem } from '../../contract/problems.ts';
import type { HandedIn } from '../../contract/wire/index.ts';
import type { AnswerOf, BodyOf, QueryOf } from '../../contract/routes.ts';
import { noteBack, noteLost } from './connection.ts';

/** A refusal that came back as a problem document (RFC 9457). */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail ?? problem.title);
  }
}

/** No answer came; like every problem it is worded by its code, where it is shown. */
const UNREACHABLE: Problem = {
  type: 'urn:ojo:problem:unreachable',
  title: 'unreachable',
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

/** What is being done: asked for once more meanwhile, as by a second press, it is done once. */
const underWay = new Map<string, Promise<unknown>>();

/** Says that nobody knows whether something was done. */
const isUnsettled = (response: Response): boolean => response.status === 503;

type Part<K extends string, T> = [T] extends [undefined]
  ? unknown
  : undefined extends T
    ? { [P in K]?: T }
    : { [P in K]: T };
/** What a route has to be asked with: the parts of its path, what its address asks, its body. */
type Wanted<N extends RouteName> = ([keyof ParamsOf<N>] extends [never] ? unknown : { params: ParamsOf<N> }) &
  Part<'query', QueryOf<N>> &
  Part<'body', BodyOf<N>>;
/** Nobody waits for the answer any more once the signal says so. */
interface Given {
  signal?: AbortSignal;
}
type Arguments<N extends RouteName> = unknown extends Wanted<N> ? [asked?: Given] : [asked: Wanted<N> & Given];

/** Asks one route of the API, as the contract has it; throws an {@link ApiError} that says what was wrong. */
export async function call<N extends RouteName>(name: N, ...[asked]: Arguments<N>): Promise<AnswerOf<N>> {
  const {
    params = {},
    query,
    body,
    signal,
  } = (asked ?? {}) as {
    params?: object;
    query?: object;
    body?: unknown;
    signal?: AbortSignal;
  };
  const { method, path } = addressOf(name, params as ParamsOf<N>);
  const text = body === undefined ? undefined : JSON.stringify(body);
  const address = `${path}${searchOf(query)}`;
  const request = `${method} ${address} ${text ?? ''}`;
  const init: RequestInit = {
    method,
    ...(signal ? { signal } : {}),
    ...(text === undefined ? {} : { body: text }),
    headers: {
      ...(text === undefined ? {} : { 'content-type': 'application/json' }),
      ...(method === 'GET' ? {} : { 'idempotency-key': keyFor(request) }),
    },
  };
  // What may be broken off is a question, and each asks it for itself.
  if (method === 'GET' || signal) return send(address, init, request) as Promise<AnswerOf<N>>;
  const sent = underWay.get(request) ?? send(address, init, request).finally(() => underWay.delete(request));
  underWay.set(request, sent);
  return sent as Promise<AnswerOf<N>>;
}

/** Sends a request and reads its answer; `request` is what its key is kept under. */
async function send(address: string, init: RequestInit, request: string): Promise<unknown> {
  const response = await fetch(`/api${address}`, init).catch((error: unknown) => {
    if (init.signal?.aborted) throw error;
    noteLost(false);
    throw new ApiError(UNREACHABLE);
  });
  if (isUnsettled(response)) noteLost(true);
  else {
    noteBack();
    keys.delete(request);
  }
  if (response.status === 204) return undefined;
  if (!response.ok) throw await refusalOf(response);
  return response.json().catch(() => null);
}

/** What a response refuses with. */
export async function refusalOf(response: Response): Promise<ApiError> {
  const json: unknown = await response.json().catch(() => null);
  return new ApiError(isProblem(json) ? json : { ...UNREACHABLE, status: response.status });
}

/** What an address asks, after its question mark; what is empty is left out. */
function searchOf(query: object | undefined): string {
  const pairs = Object.entries(query ?? {}).filter(([, value]) => value !== undefined && value !== '');
  return pairs.length === 0 ? '' : `?${new URLSearchParams(pairs.map(([name, value]) => [name, String(value)]))}`;
}

const isProblem = (json: unknown): json is Problem =>
  typeof json === 'object' && json !== null && 'code' in json && 'title' in json && 'status' in json;

/** The problem behind a failure, whatever it was. */
export const problemOf = (error: unknown): Problem =>
  error instanceof ApiError ? error.problem : { ...UNREACHABLE, title: String((error as Error)?.message ?? error) };

interface Handing {
  /** Hears how much of it has gone, from 0 to 1. */
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
}

/** Hands in what a document shall hold, as it is; throws an {@link ApiError}, or what the signal was broken off with. */
export function handIn(source: string, file: File, { onProgress, signal }: Handing): Promise<HandedIn> {
  const { method, path } = addressOf('contents.handIn', { source });
  return new Promise((resolve, reject) => {
    // Only this way does a browser say how far it has come.
    const request = new XMLHttpRequest();
    request.open(method, `/api${path}?${new URLSearchParams({ name: file.name })}`);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.responseType = 'json';
    request.upload.onprogress = ({ loaded, total }) => onProgress?.(total > 0 ? loaded / total : 0);
    request.onload = () => {
      const json = request.response as unknown;
      if (request.status === 201) resolve(json as HandedIn);
      else reject(new ApiError(isProblem(json) ? json : { ...UNREACHABLE, status: request.status }));
    };
    request.onerror = () => {
      noteLost(false);
      reject(new ApiError(UNREACHABLE));
    };
    request.onabort = () => reject(signal?.reason ?? new ApiError(UNREACHABLE));
    signal?.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}
