import { z } from 'zod';
import { isByPeople } from './by-people.ts';
import { PATHS, type RouteName } from './paths.ts';
import { problemSchema, PROBLEMS } from './problems.ts';
import { ROUTES } from './routes.ts';
import { COMMON_PROBLEMS, type RouteContract } from './wire/route.ts';
import { doorAnswerSchema, outsideEventSchema } from './wire/doors.ts';

type Json = Record<string, unknown>;

/** Routes that are no part of what programs are offered: of tests, of the demo's stand-ins, and streams for open pages. */
const LEFT_OUT = /^(?:test|standins|welcome)\.|^session\.(?:demo|events)$/;

/** Schemas that go round in themselves, by the name under which the whole description has them. */
type Shared = Record<string, Json>;

/**
 * A schema as JSON Schema has it (2020-12), in the form that is sent or the one that is read. What it refers to within
 * itself is put among the shared ones, under names that begin with its own.
 */
function schemaOf(schema: z.ZodType, io: 'input' | 'output', name: string, shared: Shared): Json {
  const made = z.toJSONSchema(schema, { io, unrepresentable: 'any', cycles: 'ref', reused: 'inline' }) as Json;
  const { $schema: _, $defs = {}, ...json } = made;
  const named = (ref: string) => (ref === '#' ? name : `${name}.${ref.split('/').at(-1)}`);
  const led = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(led);
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(
      Object.entries(value).map(([key, one]) =>
        key === '$ref' ? [key, `#/components/schemas/${named(String(one))}`] : [key, led(one)],
      ),
    );
  };
  for (const [own, one] of Object.entries($defs as Record<string, Json>)) shared[`${name}.${own}`] = led(one) as Json;
  const whole = led(json) as Json;
  if (JSON.stringify(made).includes('"$ref":"#"')) shared[name] = whole;
  return whole;
}

const parametersOf = (name: string, path: string, query: z.ZodType | undefined, shared: Shared): Json[] => {
  const inPath = [...path.matchAll(/:(\w+)/g)].map(([, part]) => ({
    name: part,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const asked = query ? schemaOf(query, 'input', `${name}.query`, shared) : {};
  const required = new Set((asked.required as string[] | undefined) ?? []);
  const inQuery = Object.entries((asked.properties as Record<string, Json> | undefined) ?? {}).map(
    ([name, schema]) => ({
      name,
      in: 'query',
      required: required.has(name),
      schema,
    }),
  );
  return [...inPath, ...inQuery];
};

const problemAs = (description: string) => ({
  description,
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
});

/** What a route may refuse a request for, by status. */
function refusalsOf({ problems = [] }: RouteContract): Record<string, Json> {
  const byStatus = new Map<number, string[]>();
  for (const code of [...COMMON_PROBLEMS, ...problems]) {
    const status = PROBLEMS[code];
    byStatus.set(status, [...(byStatus.get(status) ?? []), code]);
  }
  return Object.fromEntries(
    [...byStatus].sort(([a], [b]) => a - b).map(([status, codes]) => [String(status), problemAs(codes.join(', '))]),
  );
}

function operationOf(name: RouteName, path: string, route: RouteContract, shared: Shared): Json {
  const [tag = ''] = name.split('.');
  const said = route.answer
    ? {
        description: 'Done.',
        content: { 'application/json': { schema: schemaOf(route.answer, 'output', `${name}.answer`, shared) } },
      }
    : { description: route.isRaw ? 'The contents themselves.' : 'Done; there is nothing to say.' };
  return {
    operationId: name,
    tags: [tag],
    // What no token may do is said where it stands.
    ...(isByPeople(name)
      ? { summary: 'By people who are signed in, and by no token.', security: [{ session: [] }] }
      : {}),
    parameters: parametersOf(name, path, route.query, shared),
    ...(route.body
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: schemaOf(route.body, 'input', `${name}.body`, shared) } },
          },
        }
      : {}),
    responses: { [String(route.status ?? (route.answer || route.isRaw ? 200 : 204))]: said, ...refusalsOf(route) },
  };
}

const eventMode = (schema: Json) => ({ schema });
/** The door for events is no route of the pages: it is opened by a key. */
function doorOperation(shared: Shared): Json {
  const event = schemaOf(outsideEventSchema, 'input', 'changes.event', shared);
  const members = schemaOf(doorAnswerSchema, 'output', 'changes.members', shared);
  return {
    operationId: 'changes.handIn',
    tags: ['changes'],
    summary: 'Hands in events (CloudEvents 1.0): one in structured or binary mode, or up to 500 in batched mode.',
    description:
      'An event is told from others by its source and id: whatever is sent again is taken once. In binary mode its attributes are headers (ce-specversion, ce-id, ce-source, ce-type, …) and its data is the body. A batch is answered with what became of each member, in order.',
    security: [{ doorKey: [] }],
    requestBody: {
      required: true,
      content: {
        'application/cloudevents+json': eventMode(event),
        'application/cloudevents-batch+json': eventMode({ type: 'array', maxItems: 500, items: event }),
        'application/json': eventMode({}),
      },
    },
    responses: {
      '200': {
        description: 'What became of the event, or of each of a batch.',
        content: { 'application/json': { schema: { oneOf: [members.items as Json, members] } } },
      },
      '400': problemAs('badRequest'),
      '401': problemAs('notSignedIn'),
      '403': problemAs('notAllowed'),
      '422': { description: 'A single event that was refused, with its faults.' },
      '429': problemAs('tooMany; the header Retry-After says when to come again'),
      '503': problemAs('unavailable, closing'),
    },
  };
}

/** The description of the API (OpenAPI 3.1), made from the contract by which the server registers its routes. */
export function openApi(base: string): Json {
  const shared: Shared = {};
  const paths: Record<string, Record<string, Json>> = { '/changes': { post: doorOperation(shared) } };
  for (const name of Object.keys(PATHS) as RouteName[]) {
    if (LEFT_OUT.test(name)) continue;
    const [method = '', path = ''] = PATHS[name].split(' ');
    const shown = path.replace(/:(\w+)/g, '{$1}');
    paths[shown] = { ...paths[shown], [method.toLowerCase()]: operationOf(name, path, ROUTES[name], shared) };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Ojo',
      version: '1',
      description:
        'What the pages of Ojo ask is open to programs as well, in the name of whoever made their token: Authorization: Bearer ojo-token-…  Refusals are problems (RFC 9457).',
    },
    servers: [{ url: `${base}/api` }],
    security: [{ personalToken: [] }],
    paths,
    components: {
      securitySchemes: {
        personalToken: { type: 'http', scheme: 'bearer', description: 'A token of one’s own, made under Programs.' },
        session: {
          type: 'apiKey',
          in: 'cookie',
          name: 'ojo-session',
          description: 'Somebody who is signed in; over TLS its name begins with `__Host-`.',
        },
        doorKey: { type: 'http', scheme: 'bearer', description: 'The key of a door into one source.' },
      },
      schemas: { Problem: schemaOf(problemSchema, 'output', 'Problem', shared), ...shared },
    },
  };
}
