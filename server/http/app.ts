import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express, type NextFunction, type Request, type Response, Router } from 'express';
import helmet from 'helmet';
import { clockSchema } from '../../contract/api.ts';
import { LIMITS } from '../../contract/limits.ts';
import { Refusal } from '../../contract/problems.ts';
import { instantOf } from '../../core/time/index.ts';
import { Complaints, SettableClock } from '../kit/index.ts';
import { isUnavailable, OutcomeUnknown } from '../store/index.ts';
import { type Context, take, when } from './context.ts';
import { addressRoutes } from './addresses.ts';
import { inboxRoutes } from './inbox.ts';
import { itemRoutes } from './items.ts';
import { lessRoutes } from './less.ts';
import { messageRoutes } from './message-page.ts';
import { outboxRoutes } from './outbox.ts';
import { outsideRoutes } from './outside/index.ts';
import { passingRoutes } from './passing.ts';
import { peopleRoutes } from './people.ts';
import { planRoutes } from './plan.ts';
import { ruleRoutes } from './rules.ts';
import { requireOwnPage, requireSession, sessionRoutes } from './sessions.ts';
import { standInRoutes } from './standins.ts';
import { todayRoutes } from './today.ts';
import { trailRoutes } from './trail.ts';
import { viewRoutes } from './views.ts';
import { wordingRoutes } from './wordings.ts';

/** The web application: the API below `/api`, and the built pages everywhere else. */
export function makeApp(context: Context, pages: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'default-src': ["'self'"],
          'script-src': ["'self'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:'],
          'font-src': ["'self'"],
          'connect-src': ["'self'"],
          'frame-src': ["'self'"],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: context.isSecure,
      crossOriginOpenerPolicy: false,
    }),
  );
  app.use((_request, response, next) => {
    if (!context.isClosing) return next();
    response.set('connection', 'close');
    throw new Refusal('closing');
  });
  app.use('/api', apiRoutes(context));
  app.use(outsideRoutes(context));
  if (pages && existsSync(pages)) servePages(app, pages);
  app.use(answerFailure(context));
  return app;
}

function apiRoutes(context: Context): Router {
  const api = Router();
  api.use(requireOwnPage);
  api.use((_request, response, next) => {
    response.set('cache-control', 'no-store');
    next();
  });
  // Whoever is not signed in has little to say.
  api.use(['/session', '/test'], express.json({ limit: LIMITS.outsideBytes }));
  api.use(sessionRoutes(context));
  api.use('/test', testRoutes(context));
  api.use(requireSession(context));
  api.use(express.json({ limit: LIMITS.documentBytes }));
  api.use(
    itemRoutes(context),
    viewRoutes(context),
    trailRoutes(context),
    todayRoutes(context),
    peopleRoutes(context),
    planRoutes(context),
    lessRoutes(context),
    addressRoutes(context),
    wordingRoutes(context),
    ruleRoutes(context),
    inboxRoutes(context),
    messageRoutes(context),
    outboxRoutes(context),
    passingRoutes(context),
  );
  if (context.demoPassword !== null) api.use('/standins', standInRoutes(context));
  api.use(() => {
    throw new Refusal('notFound');
  });
  return api;
}

/** Only a server started with a clock that can be set has these. */
function testRoutes(context: Context): Router {
  const routes = Router();
  const { clock } = context;
  if (clock instanceof SettableClock) {
    routes.put('/clock', (request, response) => {
      clock.set(instantOf(take(clockSchema, request.body).now));
      context.wake();
      response.json({ now: when(clock.now()) });
    });
  }
  return routes;
}

function servePages(app: Express, pages: string): void {
  app.use(
    express.static(pages, {
      index: false,
      setHeaders: (response, path) => {
        // Built files carry a hash of themselves in their names.
        response.setHeader(
          'cache-control',
          path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
        );
      },
    }),
  );
  app.get('/{*path}', (_request, response) =>
    response.set('cache-control', 'no-cache').sendFile(join(pages, 'index.html')),
  );
}

/** After so many seconds whoever was refused may try again. */
const RETRY_AFTER_S = 2;

function awayFailure(error: unknown): Refusal | null {
  if (error instanceof OutcomeUnknown) return new Refusal('outcomeUnknown');
  return isUnavailable(error) ? new Refusal('unavailable') : null;
}

/** A body that is too large, or that nobody can read. */
function unreadable(error: unknown): Refusal | null {
  const { type, limit, message } = error as { type?: string; limit?: number; message?: string };
  if (type === 'entity.too.large')
    return new Refusal('badRequest', {
      detail: `It is larger than ${Math.round((limit ?? 0) / 1024)} kB, the most that is taken here.`,
    });
  return type?.startsWith('entity.') || type?.startsWith('charset.') || type?.startsWith('encoding.')
    ? new Refusal('badRequest', { detail: message })
    : null;
}

/** The route that was asked, without what was asked of it. */
const routeOf = ({ route, baseUrl }: Request): string =>
  `${baseUrl}${(route as { path?: unknown } | undefined)?.path ?? ''}`;

function answerFailure({ log }: Context) {
  const complaints = new Complaints(log);
  return (error: unknown, request: Request, response: Response, _next: NextFunction): void => {
    const parseFailure = unreadable(error);
    const refusal = error instanceof Refusal ? error : (parseFailure ?? awayFailure(error) ?? new Refusal('failed'));
    if (refusal.code === 'failed') complaints.tell(`a request failed: ${request.method} ${routeOf(request)}`, error);
    else if (refusal.toProblem().status === 503)
      complaints.tell('requests are refused while the database is away', error);
    if (response.headersSent) return void response.end();
    if (refusal.toProblem().status === 503) response.set('retry-after', String(RETRY_AFTER_S));
    const problem = refusal.toProblem();
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}
