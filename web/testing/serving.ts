import { afterEach, vi } from 'vitest';
import { PATHS, type RouteName } from '../../contract/paths.ts';
import { PROBLEMS, type Problem, type ProblemCode } from '../../contract/problems.ts';
import { type AnswerOf, ROUTES } from '../../contract/routes.ts';
import type { RouteContract } from '../../contract/wire/route.ts';

/** What a page asked of the server. */
export interface Asked {
  route: RouteName;
  params: Record<string, string>;
  query: Record<string, string>;
  body: unknown;
}

type Served = { [N in RouteName]?: (asked: Asked) => AnswerOf<N> | Promise<AnswerOf<N>> };

/** A refusal, as the server would answer it. */
class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.title);
  }
}

/** Refuses what was asked. */
export function refuse(code: ProblemCode, more: Partial<Problem> = {}): never {
  throw new Refused({ type: `urn:ojo:problem:${code}`, title: code, status: PROBLEMS[code], code, ...more });
}

/** What was sent or answered otherwise than the contract has it; the test that did fails. */
const broken: unknown[] = [];
afterEach(() => {
  const [first] = broken.splice(0);
  if (first) throw first;
});

/**
 * Stands for the server: answers each route as given, where the answer is as the contract has it, and keeps what was asked.
 * A route that nobody serves is a 404; what a page asks it is kept as well.
 */
export function serve(served: Served): Asked[] {
  const asked: Asked[] = [];
  vi.stubGlobal('fetch', async (address: string, init: RequestInit = {}) => {
    const { pathname, searchParams } = new URL(address, 'http://ojo.example');
    const found = routeOf(init.method ?? 'GET', pathname.replace(/^\/api/, ''));
    if (!found) throw new Error(`no route for ${init.method ?? 'GET'} ${address}`);
    const body: unknown = typeof init.body === 'string' ? JSON.parse(init.body) : undefined;
    const one: Asked = { ...found, query: Object.fromEntries(searchParams), body };
    asked.push(one);
    return answerTo(one, served[one.route] as ((asked: Asked) => unknown) | undefined);
  });
  return asked;
}

async function answerTo(asked: Asked, answer: ((asked: Asked) => unknown) | undefined): Promise<Response> {
  const contract: RouteContract = ROUTES[asked.route];
  try {
    if (!answer) refuse('notFound');
    contract.body?.parse(asked.body);
    const value = await answer(asked);
    if (!contract.answer) return new Response(null, { status: 204 });
    return Response.json(contract.answer.parse(value));
  } catch (error) {
    if (!(error instanceof Refused)) {
      broken.push(error);
      throw error;
    }
    return Response.json(error.problem, { status: error.problem.status });
  }
}

function routeOf(method: string, path: string): Pick<Asked, 'route' | 'params'> | null {
  for (const [route, line] of Object.entries(PATHS) as [RouteName, string][]) {
    const [known, pattern = ''] = line.split(' ');
    const names = [...pattern.matchAll(/:(\w+)/g)].map(([, name = '']) => name);
    const values = new RegExp(`^${pattern.replaceAll(/:\w+/g, '([^/]+)')}$`).exec(path);
    if (known === method && values)
      return {
        route,
        params: Object.fromEntries(names.map((name, at) => [name, decodeURIComponent(values[at + 1] ?? '')])),
      };
  }
  return null;
}
