import express, { type Request, type Response, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { LIMITS } from '../../contract/limits.ts';
import { openApi } from '../../contract/openapi.ts';
import { Refusal } from '../../contract/problems.ts';
import type { DoorMember } from '../../contract/wire/index.ts';
import { doorNamedBy, keyHash, takeEvents } from '../acts/index.ts';
import { type Door, one, store } from '../store/index.ts';
import type { Context } from './context.ts';

/** While so many changes wait to be decided, whoever hands in more is asked to wait. */
const MOST_WAITING = 5000;
/** For so long, in seconds. */
const WAIT_S = 5;
/** So many requests a minute are taken by one door, and so many from one address that bear no key that is right. */
const MOST_A_MINUTE = 1200;
const MOST_WRONG = 60;

/**
 * Where other programs hand changes in, as events (CloudEvents 1.0 over HTTP): one in structured or binary mode, or several
 * in batched mode. Whoever has a door's key opens that door alone.
 */
export function changesDoor(context: Context): Router {
  const routes = Router();
  const refuse = () => {
    throw new Refusal('tooMany');
  };
  const wrong = rateLimit({
    windowMs: 60_000,
    limit: MOST_WRONG,
    standardHeaders: true,
    legacyHeaders: false,
    skipSuccessfulRequests: true,
    requestWasSuccessful: (_request, { statusCode }) => statusCode !== 401,
    handler: refuse,
  });
  const busy = rateLimit({
    windowMs: 60_000,
    limit: MOST_A_MINUTE,
    standardHeaders: true,
    legacyHeaders: false,
    keyGenerator: (_request, { locals }) => (locals.door as Door).id,
    handler: refuse,
  });
  let described: string | null = null;
  routes.get('/openapi.json', (_request, response) => {
    described ??= JSON.stringify(openApi(context.site.base));
    response.type('application/json').send(described);
  });
  const text = express.text({ type: () => true, limit: LIMITS.doorBytes });
  routes.post('/changes', wrong, opens(context), busy, text, async (request, response) => {
    await expectRoom(context, response);
    const { events, isBatch } = eventsOf(request);
    const directory = await context.directory.current(context.pool);
    const members = await takeEvents(context, response.locals.door as Door, events, directory);
    answer(response, members, isBatch);
  });
  return routes;
}

/** Lets whoever bears a door's key through to that door. */
const opens =
  ({ pool }: Context) =>
  async (request: Request, response: Response, next: () => void): Promise<void> => {
    const key = /^Bearer (\S+)$/.exec(request.get('authorization') ?? '')?.[1] ?? '';
    const id = doorNamedBy(key);
    const door = id === null ? undefined : await one(pool, store.doors.byId(id));
    if (!door || door.keyHash !== keyHash(key)) throw new Refusal('notSignedIn', { because: 'noDoorKey' });
    if (!door.isOpen) throw new Refusal('notAllowed', { because: 'doorIsClosed' });
    response.locals.door = door;
    next();
  };

async function expectRoom({ pool }: Context, response: Response): Promise<void> {
  const waiting = (await one(pool, store.running.undecided(MOST_WAITING))) ?? 0;
  if (waiting < MOST_WAITING) return;
  response.set('retry-after', String(WAIT_S));
  throw new Refusal('tooMany', { because: 'muchIsWaiting' });
}

/** The events of a request, in whichever of the three modes it has them. */
function eventsOf(request: Request): { events: unknown[]; isBatch: boolean } {
  const type = (request.get('content-type') ?? '').split(';')[0]?.trim().toLowerCase() ?? '';
  const body = typeof request.body === 'string' ? request.body : '';
  if (type === 'application/cloudevents-batch+json') {
    const events = readJson(body);
    if (!Array.isArray(events)) throw new Refusal('badRequest', { because: 'noBatch' });
    if (events.length > LIMITS.doorEvents)
      throw new Refusal('badRequest', { because: { code: 'tooManyEvents', params: { most: LIMITS.doorEvents } } });
    return { events, isBatch: true };
  }
  if (type === 'application/cloudevents+json') return { events: [readJson(body)], isBatch: false };
  if (request.get('ce-specversion') === undefined) throw new Refusal('badRequest', { because: 'noEvent' });
  return { events: [inBinaryMode(request, type, body)], isBatch: false };
}

function readJson(body: string): unknown {
  try {
    return JSON.parse(body);
  } catch (error) {
    throw new Refusal('badRequest', {
      because: { code: 'unreadableBody', params: { message: (error as Error).message } },
    });
  }
}

/** An event whose attributes are headers and whose data is the body; signs outside ASCII are percent-encoded there. */
function inBinaryMode({ headers }: Request, type: string, body: string): Record<string, unknown> {
  const attributes = Object.entries(headers).flatMap(([name, value]): [string, string][] => {
    if (!name.startsWith('ce-') || typeof value !== 'string') return [];
    return [[name.slice(3), decoded(value)]];
  });
  const isJson = /^application\/(?:[\w.-]+\+)?json$/.test(type);
  const data = isJson ? readJson(body) : body;
  return { ...Object.fromEntries(attributes), ...(type ? { datacontenttype: type } : {}), ...(body ? { data } : {}) };
}

const decoded = (value: string): string => {
  try {
    return decodeURIComponent(value);
  } catch {
    return value;
  }
};

/** A batch says what became of each member; a single event is answered by its own status. */
function answer(response: Response, members: readonly DoorMember[], isBatch: boolean): void {
  const [only] = members;
  const status = !isBatch && only?.outcome === 'refused' ? 422 : 200;
  response
    .status(status)
    .type('application/json')
    .send(JSON.stringify(isBatch ? members : only));
}
