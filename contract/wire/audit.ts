import { z } from 'zod';
import type { RouteContract } from './route.ts';
import { whenSchema } from './shared.ts';

const auditedSchema = z.enum([
  'signedIn',
  'signInRefused',
  'signedOut',
  'accessChanged',
  'looksNoted',
  'ruleLive',
  'ruleApproved',
  'exported',
  'imported',
  'sourceDefined',
  'personChanged',
  'passwordChosen',
  'secondFactorChanged',
  'sessionsEnded',
  'groupChanged',
  'contactChanged',
  'machineChanged',
  'doorChanged',
  'keepingChanged',
  'tokenMade',
  'tokenEnded',
  'startsChanged',
]);
/** A sort of entry of the audit trail. */
export type AuditedKind = z.output<typeof auditedSchema>;
/** Every sort of entry. */
export const AUDITED_KINDS = auditedSchema.options;

const entrySchema = z.strictObject({
  seq: z.number().int(),
  at: whenSchema,
  kind: auditedSchema,
  actor: z.string(),
  origin: z.string().nullable(),
  about: z.record(z.string(), z.union([z.string(), z.number()])),
});
/** An entry of the audit trail. */
export type AuditRow = z.output<typeof entrySchema>;

const pageSchema = z.strictObject({ entries: z.array(entrySchema), next: z.number().int().nullable() });
/** A page of the audit trail, the newest first. */
export type AuditPage = z.output<typeof pageSchema>;

/** What the route of the audit trail takes and answers. */
export const auditRoutes = {
  'audit.list': {
    query: z.object({ before: z.coerce.number().int().min(1).optional(), kind: auditedSchema.optional() }),
    answer: pageSchema,
  },
} as const satisfies Record<string, RouteContract>;
