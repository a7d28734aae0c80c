import { LANGUAGES } from '../../core/locales/index.ts';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express, type NextFunction, type Request, type Response, Router } from 'express';
import helmet from 'helmet';
import { LIMITS } from '../../contract/limits.ts';
import type { RouteName } from '../../contract/paths.ts';
import { Refusal } from '../../contract/problems.ts';
import { Complaints, SettableClock } from '../kit/index.ts';
import { codeOf, isUnavailable, OutcomeUnknown } from '../store/index.ts';
import type { Context } from './context.ts';
import { outsideRoutes, runningRoutes } from './outside/index.ts';
import { type Handlers, register } from './register.ts';
import { addressHandlers, contactHandlers } from './routes/addresses.ts';
import { inboxHandlers } from './routes/inbox.ts';
import { itemHandlers } from './routes/items.ts';
import { machineHandlers } from './routes/machines.ts';
import { messageHandlers } from './routes/messages.ts';
import { outboxHandlers } from './routes/outbox.ts';
import { peopleHandlers } from './routes/people.ts';
import { lessHandlers, planHandlers } from './routes/plan.ts';
import { ruleHandlers, tryingHandlers } from './routes/rules.ts';
import { typedHandlers } from './routes/typed.ts';
import { openSessionHandlers, sessionHandlers, welcomeLimit, testHandlers } from './routes/sessions.ts';
import { signingInHandlers } from './routes/signing-in.ts';
import { runningHandlers } from './routes/running.ts';
import { sourceHandlers } from './routes/sources.ts';
import { standInHandlers } from './routes/standins.ts';
import { threadHandlers } from './routes/threads.ts';
import { todayHandlers } from './routes/today.ts';
import { sheetHandlers } from './routes/sheets.ts';
import { accessHandlers } from './routes/access.ts';
import { accountHandlers, groupHandlers, welcomeHandlers } from './routes/accounts.ts';
import { auditHandlers } from './routes/audit.ts';
import { calendarHandlers } from './routes/calendars.ts';
import { definingHandlers } from './routes/defining.ts';
import { tableHandlers } from './routes/tables.ts';
import { trailHandlers } from './routes/trail.ts';
import { whyHandlers } from './routes/why.ts';
import { wordingHandlers } from './routes/wordings.ts';
import { doorHandlers } from './routes/doors.ts';
import { tokenHandlers } from './routes/tokens.ts';
import { changesDoor } from './changes-door.ts';
import { documentHandlers } from './routes/documents.ts';
import { itemActHandlers } from './routes/item-acts.ts';
import { formHandlers } from './routes/forms.ts';
import { houseHandlers } from './routes/house.ts';
import { requireOwnPage, requireSession } from './session.ts';

/** The web application: the API below `/api`, and the built pages everywhere else. */
export function makeApp(context: Context, pages: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  if (context.isBehindProxy) app.set('trust proxy', 'loopback');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'default-src': ["'self'"],
          'script-src': ["'self'"],
          'style-src': ["'self'"],
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
  app.use(runningRoutes(context));
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

/** Every route for somebody signed in. */
const HANDLERS = {
  ...sessionHandlers,
  ...signingInHandlers,
  ...sourceHandlers,
  ...tableHandlers,
  ...definingHandlers,
  ...formHandlers,
  ...doorHandlers,
  ...tokenHandlers,
  ...calendarHandlers,
  ...auditHandlers,
  ...accessHandlers,
  ...sheetHandlers,
  ...itemHandlers,
  ...trailHandlers,
  ...whyHandlers,
  ...todayHandlers,
  ...inboxHandlers,
  ...messageHandlers,
  ...threadHandlers,
  ...outboxHandlers,
  ...tryingHandlers,
  ...typedHandlers,
  ...ruleHandlers,
  ...wordingHandlers,
  ...houseHandlers,
  ...itemActHandlers,
  ...documentHandlers,
  ...peopleHandlers,
  ...accountHandlers,
  ...groupHandlers,
  ...machineHandlers,
  ...runningHandlers,
  ...planHandlers,
  ...lessHandlers,
  ...addressHandlers,
  ...contactHandlers,
} satisfies Handlers<
  Exclude<
    RouteName,
    keyof typeof openSessionHandlers | keyof typeof welcomeHandlers | keyof typeof standInHandlers | 'test.clock'
  >
>;

function apiRoutes(context: Context): Router {
  const api = Router();
  api.use(requireOwnPage);
  api.use((_request, response, next) => {
    response.set('cache-control', 'no-store');
    next();
  });
  api.use(changesDoor(context));
  // Whoever is not signed in has little to say.
  api.use(['/session', '/welcome', '/test'], express.json({ limit: LIMITS.outsideBytes }));
  api.use('/welcome', welcomeLimit());
  api.use(register(context, openSessionHandlers));
  api.use(register(context, welcomeHandlers));
  if (context.clock instanceof SettableClock) api.use(register(context, testHandlers));
  api.use(requireSession(context));
  api.use(express.json({ limit: LIMITS.documentBytes }));
  api.use(register(context, HANDLERS));
  if (context.demoPassword !== null) api.use(register(context, standInHandlers));
  api.use(() => {
    throw new Refusal('notFound');
  });
  return api;
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
  // Ids of Ojo's own making are ASCII: nothing has one that cannot even be compared with them.
  if (codeOf(error).startsWith('ER_CANT_AGGREGATE_')) return new Refusal('notFound');
  if (error instanceof OutcomeUnknown) return new Refusal('outcomeUnknown');
  return isUnavailable(error) ? new Refusal('unavailable') : null;
}

/** A body that is too large, or a body or an address that nobody can read: broken compression, broken percent signs. */
function unreadable(error: unknown): Refusal | null {
  const { type, limit, message, status } = error as {
    type?: string;
    limit?: number;
    message?: string;
    status?: number;
  };
  if (type === 'entity.too.large')
    return new Refusal('badRequest', {
      because: { code: 'tooLarge', params: { most: Math.round((limit ?? 0) / 1024) } },
    });
  return status !== undefined && status >= 400 && status < 500
    ? new Refusal('badRequest', { because: { code: 'unreadableBody', params: { message } } })
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
    else if (refusal.status === 503) complaints.tell('requests are refused while the database is away', error);
    if (response.headersSent) return void response.end();
    const wait = refusal.grounds.retryAfterS ?? (refusal.status === 503 ? RETRY_AFTER_S : null);
    if (wait !== null) response.set('retry-after', String(wait));
    const problem = refusal.toProblem(request.acceptsLanguages([...LANGUAGES]) || undefined);
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}
