import { z } from 'zod';
import { LIMITS } from '../limits.ts';
import type { FaultAt } from '../problems.ts';

type Issue = z.core.$ZodIssue;

/** The faults of a document that its schema refuses, all at once; of shapes that a part may have, the one it comes nearest to. */
export function schemaFaults(error: z.ZodError, schema?: z.ZodType): FaultAt[] {
  const found: FaultAt[] = [];
  for (const issue of error.issues) {
    found.push(...faultsOf(issue, [], schema));
    if (found.length > LIMITS.faults) return [...found.slice(0, LIMITS.faults), { code: 'more', path: '', params: {} }];
  }
  return found;
}

function faultsOf(issue: Issue, above: PropertyKey[], schema?: z.ZodType): FaultAt[] {
  const path = [...above, ...issue.path];
  const at = path.map(String).join('.');
  if (issue.code === 'invalid_union' && issue.errors.length > 0) {
    const branches = issue.errors.map((issues) => ({ issues, misses: issues.filter(isOfWholeShape).length }));
    const nearest = Math.min(...branches.map(({ misses }) => misses));
    const best = branches
      .filter(({ misses }) => misses === nearest)
      .sort((a, b) => depth(b.issues) - depth(a.issues))[0];
    if (best && nearest === 0)
      return best.issues
        .slice(0, LIMITS.faults + 1)
        .flatMap((one) => faultsOf(one, path, schema))
        .slice(0, LIMITS.faults + 1);
    const allowed = [...new Set(issue.errors.flatMap((issues) => issues.slice(0, 3)).flatMap(keysMissing))];
    return [{ code: 'noneOfTheShapes', path: at, params: { allowed: allowed.length > 0 ? allowed : [issue.message] } }];
  }
  if (issue.code === 'unrecognized_keys') {
    const allowed = keysAt(schema, path);
    return issue.keys.map((key) => ({ code: 'unknownKey', path: at ? `${at}.${key}` : key, params: { key, allowed } }));
  }
  if (issue.code === 'invalid_value')
    return [{ code: 'notOneOf', path: at, params: { allowed: issue.values.map(String) } }];
  if (issue.code === 'invalid_type')
    return [
      {
        code: issue.input === undefined && / undefined$/.test(issue.message) ? 'missing' : 'wrongType',
        path: at,
        params: { expected: issue.expected },
      },
    ];
  const known = faultOfText(issue) ?? faultOfSize(issue);
  return [known ? { path: at, ...known } : { code: 'invalid', path: at, params: { message: issue.message } }];
}

/** What is wrong with a text, by a code of its own. A schema says which by its message, where its own check fails. */
function faultOfText(issue: Issue): Omit<FaultAt, 'path'> | null {
  if (issue.code === 'too_small' && issue.origin === 'string')
    return Number(issue.minimum) > 1
      ? { code: 'tooShort', params: { least: String(issue.minimum) } }
      : { code: 'empty', params: {} };
  if (issue.code === 'too_big' && issue.origin === 'string')
    return { code: 'longText', params: { most: String(issue.maximum) } };
  if (issue.code === 'custom') return isFault(issue.params) ? issue.params : null;
  if (issue.code !== 'invalid_format') return null;
  if (issue.format === 'email') return { code: 'noAddress', params: {} };
  return isTextFault(issue.message) ? { code: issue.message, params: {} } : null;
}

/** What is wrong with how large a number is, or how long a list. */
function faultOfSize(issue: Issue): Omit<FaultAt, 'path'> | null {
  if (issue.code === 'too_small' && issue.inclusive)
    return issue.origin === 'array' && Number(issue.minimum) === 1
      ? { code: 'empty', params: {} }
      : { code: issue.origin === 'array' ? 'tooFew' : 'tooLow', params: { least: String(issue.minimum) } };
  if (issue.code === 'too_big' && issue.inclusive)
    return { code: issue.origin === 'array' ? 'tooLong' : 'tooHigh', params: { most: String(issue.maximum) } };
  return null;
}

/** What a schema's own check says is wrong, as its parameters. */
const isFault = (params: unknown): params is Omit<FaultAt, 'path'> =>
  typeof params === 'object' && params !== null && 'code' in params && 'params' in params;

/** Faults of texts that schemas name by their codes. */
const TEXT_FAULTS = ['noTelephone', 'noCode'] as const;
const isTextFault = (message: string): message is (typeof TEXT_FAULTS)[number] =>
  (TEXT_FAULTS as readonly string[]).includes(message);

/** Whether an issue says that a shape is not meant at all, rather than that something within it is wrong. */
const isOfWholeShape = (issue: Issue) =>
  issue.path.length === 0 ||
  (issue.path.length === 1 && issue.code === 'invalid_type' && / undefined$/.test(issue.message));

function keysMissing(issue: Issue): string[] {
  if (issue.path.length === 1) return [String(issue.path[0])];
  return issue.path.length === 0 && issue.code === 'invalid_value' ? issue.values.map(String) : [];
}

const depth = (issues: Issue[]) => Math.max(0, ...issues.map((issue) => issue.path.length));

/** The keys that an object at a path may have, as far as the schema can say. */
function keysAt(schema: z.ZodType | undefined, path: PropertyKey[]): string[] {
  let nodes: z.ZodType[] = schema ? unwrapped(schema) : [];
  for (const step of path) {
    nodes = nodes.flatMap((node) => {
      if (node instanceof z.ZodArray) return unwrapped(node.element as z.ZodType);
      const next = node instanceof z.ZodObject ? (node.shape as Record<string, z.ZodType>)[String(step)] : undefined;
      return next ? unwrapped(next) : [];
    });
  }
  return [...new Set(nodes.flatMap((node) => (node instanceof z.ZodObject ? Object.keys(node.shape) : [])))];
}

/** A schema without what stands around it; of a union each of its parts. */
function unwrapped(schema: z.ZodType): z.ZodType[] {
  if (
    schema instanceof z.ZodDefault ||
    schema instanceof z.ZodNullable ||
    schema instanceof z.ZodOptional ||
    schema instanceof z.ZodLazy
  )
    return unwrapped(schema.unwrap() as z.ZodType);
  if (schema instanceof z.ZodPipe) return unwrapped(schema.in as z.ZodType);
  if (schema instanceof z.ZodUnion) return (schema.options as z.ZodType[]).flatMap(unwrapped);
  return [schema];
}
