import type { z } from 'zod';
import type { RouteName } from './paths.ts';
import { accessRoutes } from './wire/access.ts';
import { accountRoutes } from './wire/accounts.ts';
import { auditRoutes } from './wire/audit.ts';
import { calendarRoutes } from './wire/calendars.ts';
import { definingRoutes } from './wire/defining.ts';
import { doorRoutes } from './wire/doors.ts';
import { tokenRoutes } from './wire/tokens.ts';
import { documentRoutes } from './wire/documents.ts';
import { formRoutes } from './wire/forms.ts';
import { houseRoutes } from './wire/house.ts';
import { inboxRoutes } from './wire/inbox.ts';
import { machineRoutes } from './wire/machines.ts';
import { outboxRoutes } from './wire/outbox.ts';
import { peopleRoutes } from './wire/people.ts';
import type { RouteContract } from './wire/route.ts';
import { ruleRoutes } from './wire/rules.ts';
import { runningRoutes } from './wire/running.ts';
import { sessionRoutes } from './wire/session.ts';
import { signingInRoutes } from './wire/signing-in.ts';
import { sourceRoutes } from './wire/sources.ts';
import { standInRoutes } from './wire/standins.ts';
import { sheetRoutes } from './wire/sheets.ts';
import { tableRoutes } from './wire/tables.ts';
import { trailRoutes } from './wire/trail.ts';
import { whyRoutes } from './wire/why.ts';

/** Every route: what it takes, what it answers, what it may refuse. The server registers from here, the pages are typed by it. */
export const ROUTES = {
  ...sessionRoutes,
  ...signingInRoutes,
  ...sourceRoutes,
  ...documentRoutes,
  ...tableRoutes,
  ...definingRoutes,
  ...formRoutes,
  ...doorRoutes,
  ...tokenRoutes,
  ...calendarRoutes,
  ...auditRoutes,
  ...accessRoutes,
  ...sheetRoutes,
  ...trailRoutes,
  ...whyRoutes,
  ...inboxRoutes,
  ...outboxRoutes,
  ...ruleRoutes,
  ...houseRoutes,
  ...peopleRoutes,
  ...accountRoutes,
  ...machineRoutes,
  ...runningRoutes,
  ...standInRoutes,
} as const satisfies Record<RouteName, RouteContract>;

type Part<N extends RouteName, P extends keyof RouteContract> =
  (typeof ROUTES)[N] extends Record<P, infer S extends z.ZodType> ? S : never;

/** What a request carries, before and after it has been read; `undefined` where it carries nothing. */
export type BodyOf<N extends RouteName> = [Part<N, 'body'>] extends [never] ? undefined : z.input<Part<N, 'body'>>;
/** What the server gets of a route's body, once its schema has read it; `undefined` where it takes none. */
export type ReadBodyOf<N extends RouteName> = [Part<N, 'body'>] extends [never] ? undefined : z.output<Part<N, 'body'>>;
/** What is sent in a route's query; `undefined` where it takes none. */
export type QueryOf<N extends RouteName> = [Part<N, 'query'>] extends [never] ? undefined : z.input<Part<N, 'query'>>;
/** What the server gets of a route's query, once its schema has read it. */
export type ReadQueryOf<N extends RouteName> = [Part<N, 'query'>] extends [never]
  ? undefined
  : z.output<Part<N, 'query'>>;
/** What a route answers; `undefined` where it says nothing. */
export type AnswerOf<N extends RouteName> = [Part<N, 'answer'>] extends [never]
  ? undefined
  : z.output<Part<N, 'answer'>>;
