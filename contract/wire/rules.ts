import { LIMITS } from '../limits.ts';
import { ALL_OCCASIONS } from '../../core/rules/index.ts';
import { z } from 'zod';
import { FUNNEL_STEPS, type Explanation, SUGGESTIONS } from '../../core/decide/index.ts';
import type { ExplainedNode } from '../../core/rules/index.ts';
import { catchUpSchema, conditionSchema, paceSchema, ruleSchema, valueSchema } from '../documents/index.ts';
import { contentSchema, formSchema } from './content.ts';
import type { RouteContract } from './route.ts';
import {
  channelSchema,
  idSchema,
  itemNameSchema,
  reasonSchema,
  recipientIdSchema,
  segmentsSchema,
  urgencySchema,
  whenSchema,
  withheldReasonSchema,
} from './shared.ts';
import { sampleSchema } from './trail.ts';

const count = z.number().int().min(0);

const ruleRowSchema = z.strictObject({
  id: idSchema,
  state: z.enum(['draft', 'live', 'ended']),
  version: count,
  owner: idSchema,
  /** What is live, or was last. */
  live: ruleSchema.nullable(),
  liveFrom: whenSchema.nullable(),
  liveUntil: whenSchema.nullable(),
  isPaused: z.boolean(),
  /** Matches kept while it is paused. */
  kept: count,
  draft: ruleSchema.nullable(),
  draftRevision: count,
  draftBy: idSchema.nullable(),
  draftAt: whenSchema.nullable(),
  alerts: count,
  told: count,
  read: count,
  withheld: count,
  failed: count,
  /** Alerts that somebody still has to acknowledge, and those that somebody did. */
  waits: count,
  acknowledged: count,
  lastAt: whenSchema.nullable(),
  /** Instants of the last 30 days at which it caught something. */
  caught: z.array(whenSchema),
  mayEdit: z.boolean(),
  /** Whom somebody has asked to look after it, and since when that waits for an answer. */
  offer: z.strictObject({ to: idSchema, by: idSchema, at: whenSchema }).nullable(),
  /** That its edits wait for a second pair of eyes; told to those who may edit it. */
  ask: z.strictObject({ revision: count, by: idSchema, at: whenSchema, why: z.string().nullable() }).nullable(),
  /** What is wrong with it as the world now stands. */
  faults: z.array(z.strictObject({ code: z.string(), params: z.record(z.string(), z.unknown()) })),
});
export type RuleRow = z.output<typeof ruleRowSchema>;

const ruleVersionSchema = z.strictObject({
  version: count,
  document: ruleSchema,
  from: whenSchema,
  until: whenSchema.nullable(),
  by: idSchema,
  /** Who looked at it before it was live. */
  approvedBy: idSchema.nullable(),
  why: z.string().nullable(),
});
export type RuleVersion = z.output<typeof ruleVersionSchema>;

/** A recipient of a trial, with why they were reached and whether they were withheld. */
export const recipientRowSchema = z.strictObject({
  rule: idSchema,
  ruleName: z.string(),
  urgency: urgencySchema,
  soon: paceSchema,
  person: recipientIdSchema,
  reasons: z.array(reasonSchema),
  withheld: withheldReasonSchema.nullable(),
});
/** Somebody whom a rule reaches for an item: told, or withheld for a reason. */
export type RecipientRow = z.output<typeof recipientRowSchema>;

/** An eye that somebody keeps on something: the rule it is. */
export const eyeSchema = z.strictObject({ person: idSchema, rule: ruleSchema, mayEdit: z.boolean() });
/** Somebody who keeps an eye on something: by a rule of their own. */
export type EyeRow = z.output<typeof eyeSchema>;

const costSchema = z.strictObject({
  days: z.number().int(),
  steps: z.array(z.strictObject({ step: z.enum(FUNNEL_STEPS), left: count, dropped: z.array(sampleSchema) })),
  messages: count,
  withheld: count,
  /** Every change looked at, and every alert. */
  all: z.array(whenSchema),
  caught: z.array(z.string()),
  people: z.array(z.strictObject({ person: recipientIdSchema, messages: count, digests: count })),
});
/** What a rule would have done with the changes of the last days. */
export type Cost = z.output<typeof costSchema>;

const suggestionSchema = z.strictObject({
  code: z.enum(SUGGESTIONS),
  params: z.record(z.string(), z.string()),
  document: ruleSchema,
  alerts: count,
  messages: count,
});
/** A way to make a rule cheaper, with what it would then come to. */
export type CountedSuggestion = z.output<typeof suggestionSchema>;

const nodeSchema: z.ZodType<ExplainedNode> = z.lazy(() =>
  z.strictObject({
    path: z.string(),
    node: conditionSchema,
    held: z.boolean(),
    saw: z.array(z.strictObject({ field: z.string(), before: valueSchema, after: valueSchema })),
    parts: z.array(nodeSchema),
  }),
);
/** What a rule makes of one change: each part with what it saw, and whom it reaches. */
export const explanationSchema: z.ZodType<Explanation> = z.strictObject({
  rule: idSchema,
  version: count,
  change: z.string(),
  scope: z.strictObject({ held: z.boolean(), source: z.boolean(), where: nodeSchema.nullable() }),
  kinds: z.strictObject({ held: z.boolean(), kind: z.string() }),
  by: z.strictObject({ held: z.boolean(), actor: z.string() }),
  if: nodeSchema.nullable(),
  during: z.strictObject({ held: z.boolean() }),
  caught: z.boolean(),
  recipients: z.array(
    z.strictObject({
      to: recipientIdSchema,
      kind: z.enum(['person', 'contact', 'webhook']),
      reasons: z.array(reasonSchema),
      told: z.boolean(),
      withheld: withheldReasonSchema.nullable(),
    }),
  ),
});

const tryPageSchema = z.strictObject({
  sample: sampleSchema.nullable(),
  item: itemNameSchema.nullable(),
  examples: z.array(sampleSchema.extend({ isCaught: z.boolean() })),
  explanation: explanationSchema.nullable(),
  /** The change is not caught, or not alone: what would go out is shown as if it were. */
  isAsIf: z.boolean(),
  messages: z.array(
    z.strictObject({ to: recipientIdSchema, channel: channelSchema, at: whenSchema, form: formSchema }),
  ),
  withheld: z.array(z.strictObject({ person: recipientIdSchema, reason: withheldReasonSchema })),
  preview: z
    .strictObject({
      to: recipientIdSchema,
      content: contentSchema,
      subject: z.string(),
      html: z.string(),
      plain: z.string(),
      text: z.string(),
      /** What each placeholder that a text may use stands for here, by name. */
      values: z.record(z.string(), z.string()),
      segments: segmentsSchema,
    })
    .nullable(),
});
/** What a rule makes of one past change, or of an item as it stands. */
export type TryPage = z.output<typeof tryPageSchema>;

/** A document that is judged by what it says, part by part, so that every fault can be named. */
export const documentSchema = z.record(z.string(), z.unknown());
const draftSchema = z.strictObject({ revision: count, document: documentSchema });
const daysSchema = z.union([z.literal(7), z.literal(30), z.literal(90)]);
const countSchema = z.strictObject({ document: documentSchema, days: daysSchema.default(30) });
/** A rule tried on a past change, or on an item; the message shown is that of `person`. */
const tallyLineSchema = z.strictObject({
  from: whenSchema,
  until: whenSchema,
  /** Each part with its moves, in order of time; the first of them is where it began. */
  parts: z.array(
    z.strictObject({
      part: z.string(),
      name: z.string(),
      moves: z.array(z.strictObject({ at: whenSchema, value: z.number() })),
    }),
  ),
  /** How many parts there are besides. */
  more: z.number().int(),
});
/** How a rule's tally moved over the last days. */
export type TallyLine = z.output<typeof tallyLineSchema>;

const trySchema = z.strictObject({
  document: documentSchema,
  change: idSchema.optional(),
  item: idSchema.optional(),
  person: recipientIdSchema.optional(),
});
/** A message of a rule that is tried, sent to whoever tries it by one channel. */
const sendTrialSchema = trySchema.extend({ channel: z.enum(['inApp', 'email', 'text']) });
const putLiveSchema = z.strictObject({
  revision: count,
  why: z.string().trim().max(LIMITS.why).nullable().default(null),
  isSure: z.boolean().default(false),
});
const idsSchema = z.array(idSchema).min(1).max(200);
/** What is done to several rules at once. */
export const actsSchema = z.discriminatedUnion('act', [
  z.strictObject({ act: z.literal('pause'), ids: idsSchema }),
  z.strictObject({ act: z.literal('resume'), ids: idsSchema, catchUp: catchUpSchema }),
  z.strictObject({ act: z.literal('end'), ids: idsSchema }),
  /** Lets rules that have ended go on from now, as they were. */
  z.strictObject({ act: z.literal('revive'), ids: idsSchema }),
  /** Asks somebody to look after rules; to oneself they are handed at once. */
  z.strictObject({ act: z.literal('handOver'), ids: idsSchema, to: idSchema }),
  /** Whoever was asked takes them over. */
  z.strictObject({ act: z.literal('takeOver'), ids: idsSchema }),
  /** Whoever was asked says no, or whoever may edit them takes it back. */
  z.strictObject({ act: z.literal('leaveOffer'), ids: idsSchema }),
  z.strictObject({ act: z.literal('pace'), ids: idsSchema, pace: paceSchema }),
  z.strictObject({ act: z.literal('delete'), ids: idsSchema }),
  z.strictObject({ act: z.literal('undelete'), ids: idsSchema }),
]);
/** What is done to rules, one or several at once. */
export type RuleAct = z.output<typeof actsSchema>;
/** A rule for one person about something to keep an eye on; without `person`, for whoever asks. */
const keepEyeSchema = z.strictObject({ document: documentSchema, person: idSchema.optional() });

/** Nothing at all leaves it to Ojo's own words; a text says something. */
const isSaying = (text: string | null): boolean => text === null || text.trim() !== '';
const EMPTY = { params: { code: 'empty', params: {} } };

/** Where a wording stands for rules without words of their own: a source, or `null` for every one, and what they tell of. */
const usualSchema = z.strictObject({ source: idSchema.nullable(), occasion: z.enum(ALL_OCCASIONS) });

/** A shared wording as it is saved: name, subject and body, and where it is usual; that stays as it is where it is left out. */
export const wordingSchema = z
  .strictObject({
    id: z.string().optional(),
    name: z.string().trim().min(1).max(120),
    subject: z.string().max(500).nullable().refine(isSaying, EMPTY),
    body: z.string().max(20_000).nullable().refine(isSaying, EMPTY),
    usual: z.array(usualSchema).max(500).optional(),
  })
  .transform(({ name, subject, body, usual }) => ({ name, subject, body, usual }));
/** A shared wording as it is kept. */
export const storedWordingSchema = z.strictObject({
  id: idSchema,
  name: z.string(),
  subject: z.string().nullable(),
  body: z.string().nullable(),
  usual: z.array(usualSchema),
});
/** A shared wording, with where it is usual. */
export type WordingRow = z.output<typeof storedWordingSchema>;

/** A rule as it is being typed: the sentence so far, where the cursor stands in it, and what holds where it says nothing. */
const typedSchema = z.strictObject({
  text: z.string().max(LIMITS.sentence),
  cursor: count.nullable().default(null),
  sources: z.array(idSchema).max(50).default([]),
  zone: z.string().max(64).default('UTC'),
});
const typedRuleSchema = z.strictObject({
  /** The rule, as far as it is understood; its id, name and owner say nothing. */
  document: ruleSchema,
  /** Stretches of the text that are not understood, in order, each with what could stand there. */
  marks: z.array(z.strictObject({ from: count, to: count, code: z.string(), could: z.array(z.string()) })),
  /** Stretches that name something. */
  names: z.array(z.strictObject({ from: count, to: count, kind: z.string() })),
  /** What may be written at the cursor, in place of what stands there since `from`. */
  offered: z.array(z.strictObject({ text: z.string(), kind: z.string(), of: z.string().nullable(), from: count })),
});
/** What a typed sentence comes to. */
export type TypedRule = z.output<typeof typedRuleSchema>;

const COUNTED = ['badRule', 'tooMuchToCount', 'countDropped'] as const;

/** What the routes of rules, eyes and wordings take and answer. */
export const ruleRoutes = {
  'rules.list': { answer: z.array(ruleRowSchema) },
  'rules.create': {
    body: z.strictObject({ document: documentSchema }),
    answer: ruleRowSchema,
    status: 201,
    problems: ['badRule'],
  },
  /** Makes drafts of several documents, all or none; a fault's path begins with the place of its document. */
  'rules.import': {
    body: z.strictObject({ documents: z.array(documentSchema).min(1).max(200) }),
    answer: z.array(ruleRowSchema),
    status: 201,
    problems: ['badRule'],
  },
  'rules.acts': { body: actsSchema, answer: z.array(ruleRowSchema), problems: ['badRule'] },
  'rules.cost': { body: countSchema, answer: costSchema, problems: COUNTED },
  /** How a rule's tally moved over the last days. */
  'rules.tally': { body: countSchema, answer: tallyLineSchema, problems: COUNTED },
  'rules.suggestions': { body: countSchema, answer: z.array(suggestionSchema), problems: COUNTED },
  'rules.try': { body: trySchema, answer: tryPageSchema, problems: COUNTED },
  'rules.sendTrial': { body: sendTrialSchema, answer: z.strictObject({ address: z.string() }), problems: COUNTED },
  /** Reads a rule that is typed as a sentence. */
  'rules.typed': { body: typedSchema, answer: typedRuleSchema, problems: ['badRule'] },
  /** Says a rule as a sentence, which is read back to the same rule. */
  'rules.said': {
    body: z.strictObject({ document: documentSchema, zone: z.string().max(64).default('UTC') }),
    answer: z.strictObject({ sentence: z.string() }),
    problems: ['badRule'],
  },
  'rules.read': { answer: ruleRowSchema },
  'rules.keepDraft': { body: draftSchema, answer: ruleRowSchema, problems: ['badRule', 'editedMeanwhile'] },
  'rules.dropDraft': {},
  'rules.putLive': {
    body: putLiveSchema,
    answer: ruleRowSchema,
    problems: [...COUNTED, 'editedMeanwhile', 'secondLook'],
  },
  /** A steward has looked at the edits that somebody wants live: they are. */
  'rules.approve': {
    body: z.strictObject({ revision: count }),
    answer: ruleRowSchema,
    problems: ['badRule', 'editedMeanwhile'],
  },
  /** They do not go live yet; `why` is told to whoever asked, who may leave it out of their own. */
  'rules.sendBack': {
    body: z.strictObject({ why: z.string().trim().max(LIMITS.why).nullable().default(null) }),
    answer: ruleRowSchema,
  },
  'rules.versions': { answer: z.array(ruleVersionSchema) },
  /** Says that somebody has the rule open to edit it, and who else has. */
  'rules.editing': { answer: z.array(idSchema) },
  'eyes.keep': { body: keepEyeSchema, answer: ruleRowSchema, status: 201, problems: ['badRule'] },
  'wordings.create': { body: wordingSchema, answer: storedWordingSchema, status: 201, problems: ['badRule'] },
  'wordings.save': { body: wordingSchema, answer: storedWordingSchema, problems: ['badRule'] },
  'wordings.drop': {},
} as const satisfies Record<string, RouteContract>;
