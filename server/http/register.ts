import { type Request, type Response, Router } from 'express';
import { isByPeople } from '../../contract/by-people.ts';
import { PATHS, type ParamsOf, type RouteName } from '../../contract/paths.ts';
import { type ProblemCode, Refusal } from '../../contract/problems.ts';
import { type AnswerOf, ROUTES, type ReadBodyOf, type ReadQueryOf } from '../../contract/routes.ts';
import { COMMON_PROBLEMS, type RouteContract } from '../../contract/wire/route.ts';
import type { Caller } from '../access/index.ts';
import { type Context, take } from './context.ts';

/** What a handler gets of a request: its parts as the contract reads them, and who asks. */
export interface Asked<N extends RouteName> {
  params: ParamsOf<N>;
  query: ReadQueryOf<N>;
  body: ReadBodyOf<N>;
  /** Whoever is signed in; nobody on a route that is open to all. */
  asking: Caller;
  /** Says that whoever asked has gone. */
  signal: AbortSignal;
  /** The key under which a page sends an edit; sent again under it, it is the same edit. */
  editKey: string | null;
  request: Request;
  response: Response;
}

/** Answers one route; what it returns is the answer's body. */
export type Handler<N extends RouteName> = (context: Context, asked: Asked<N>) => Promise<AnswerOf<N>> | AnswerOf<N>;
export type Handlers<N extends RouteName = RouteName> = { [K in N]: Handler<K> };

/**
 * Registers routes as the contract has them. Where answers are checked, as they are in tests, one that does not fit
 * its schema fails, and so does a refusal that the contract does not foresee.
 */
export function register<N extends RouteName>(context: Context, handlers: Handlers<N>): Router {
  const router = Router();
  for (const name of Object.keys(handlers) as N[]) {
    const [method = '', path = ''] = PATHS[name].split(' ');
    const verb = method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
    router[verb](path, (request, response) => answer(context, name, handlers[name], request, response));
  }
  return router;
}

/** What somebody may do who has yet to put on a second factor: that, and see who they are. */
const FIRST = /^(?:session\.(?!events)|signingIn\.)/;

async function answer<N extends RouteName>(
  context: Context,
  name: N,
  handler: Handler<N>,
  request: Request,
  response: Response,
): Promise<void> {
  const route: RouteContract = ROUTES[name];
  try {
    if (response.locals.owesSecond && !FIRST.test(name)) throw new Refusal('secondOwed');
    if (response.locals.isByToken && isByPeople(name)) throw new Refusal('notAllowed', { because: 'notByToken' });
    const said = await handler(context, askedOf(name, route, request, response));
    if (route.isRaw) return;
    if (!route.answer) return void response.status(204).end();
    const text = JSON.stringify(said);
    if (context.isChecking) route.answer.parse(JSON.parse(text));
    response
      .status(route.status ?? 200)
      .type('application/json')
      .send(text);
  } catch (error) {
    if (context.isChecking && error instanceof Refusal) expectForeseen(name, route, error.code);
    throw error;
  }
}

function askedOf<N extends RouteName>(name: N, route: RouteContract, request: Request, response: Response): Asked<N> {
  const caller = response.locals.caller as Caller | undefined;
  if (!caller && !route.isOpen) throw new Error(`${name} was asked by nobody`);
  return {
    params: request.params as ParamsOf<N>,
    query: (route.query ? take(route.query, request.query, false) : undefined) as ReadQueryOf<N>,
    body: (route.body ? take(route.body, request.body) : undefined) as ReadBodyOf<N>,
    asking: caller as Caller,
    signal: whileOpen(response),
    editKey: caller ? editKeyOf(request, caller) : null,
    request,
    response,
  };
}

function expectForeseen(name: RouteName, route: RouteContract, code: ProblemCode): void {
  const foreseen: readonly ProblemCode[] = [...COMMON_PROBLEMS, ...(route.problems ?? [])];
  if (!foreseen.includes(code)) throw new Error(`${name} refuses with ${code}, which its contract does not foresee`);
}

function whileOpen(response: Response): AbortSignal {
  const gone = new AbortController();
  response.on('close', () => {
    if (!response.writableFinished) gone.abort();
  });
  return gone.signal;
}

/** The key under which a page sends an edit, made its sender's own. */
function editKeyOf(request: Request, { me }: Caller): string | null {
  const key = request.get('idempotency-key');
  if (key === undefined) return null;
  if (!/^[\x21-\x7e]{8,100}$/.test(key)) throw new Refusal('badRequest', { because: 'badIdempotencyKey' });
  return `edit/${me.id}/${key}`;
}
