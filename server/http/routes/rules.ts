import { Refusal } from '../../../contract/problems.ts';
import { phrasesFor } from '../../../core/messages/index.ts';
import { type Caller, editableRule, maySee, readRule, visibleRule, when, whenOrNull } from '../../access/index.ts';
import {
  actOnRules,
  approveRule,
  createRule,
  dropDraft,
  importRules,
  keepAnEye,
  keepDraft,
  putLive,
  sendBack,
  sendTrial,
} from '../../acts/index.ts';
import { costOf, dailyMessages, suggestionsOf, tallyOf, tryChange, tryItem, tryReport } from '../../replay/index.ts';
import { rows, run, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';
import { readRuleRow, ruleRows } from '../rule-row.ts';

/** A rule that would send more messages a day than this, counted over the last week, is looked at twice. */
const MANY_A_DAY = 60;
const WEEK = 7;
/** How long somebody counts as editing a rule after their page last said so, in milliseconds. */
const EDITING_MS = 45_000;

/** Rules: read, edited, put live, acted on. */
export const ruleHandlers: Handlers<
  | 'rules.list'
  | 'rules.create'
  | 'rules.import'
  | 'rules.acts'
  | 'rules.read'
  | 'rules.keepDraft'
  | 'rules.dropDraft'
  | 'rules.putLive'
  | 'rules.approve'
  | 'rules.sendBack'
  | 'rules.versions'
  | 'rules.editing'
  | 'eyes.keep'
> = {
  async 'rules.list'(context, { asking }) {
    const stored = await rows(context.pool, store.rules.all());
    return ruleRows(
      context,
      stored.filter((rule) => maySee(rule, asking)),
      asking,
    );
  },

  async 'rules.create'(context, { body, asking }) {
    return readRuleRow(context, await createRule(context, body.document, asking), asking);
  },

  async 'rules.import'(context, { body, asking }) {
    const ids = await importRules(context, body.documents, asking);
    return Promise.all(ids.map((id) => readRuleRow(context, id, asking)));
  },

  async 'rules.acts'(context, { body, asking }) {
    await actOnRules(context, body, asking);
    return body.act === 'delete' ? [] : Promise.all(body.ids.map((id) => readRuleRow(context, id, asking)));
  },

  async 'rules.read'(context, { params, asking }) {
    return readRuleRow(context, params.id, asking);
  },

  async 'rules.keepDraft'(context, { params, body, asking }) {
    await keepDraft(context, params.id, body, asking);
    return readRuleRow(context, params.id, asking);
  },

  async 'rules.dropDraft'(context, { params, asking }) {
    await dropDraft(context, params.id, asking);
  },

  async 'rules.putLive'(context, { params, body, asking }) {
    const { draft, live } = await editableRule(context.pool, params.id, asking);
    if (draft && !body.isSure) await lookTwice(context, draft, live, asking);
    await putLive(context, params.id, body, asking);
    return readRuleRow(context, params.id, asking);
  },

  async 'rules.approve'(context, { params, body, asking }) {
    await approveRule(context, params.id, body, asking);
    return readRuleRow(context, params.id, asking);
  },

  async 'rules.sendBack'(context, { params, body, asking }) {
    await sendBack(context, params.id, body.why, asking);
    return readRuleRow(context, params.id, asking);
  },

  async 'rules.versions'({ pool }, { params, asking }) {
    const { id } = await visibleRule(pool, params.id, asking);
    const versions = await rows(pool, store.rules.versions(id));
    return versions.map((version) => ({ ...version, from: when(version.from), until: whenOrNull(version.until) }));
  },

  async 'rules.editing'({ pool, clock }, { params, asking }) {
    const { id } = await editableRule(pool, params.id, asking);
    const now = clock.now();
    await run(pool, store.rules.noteEditing(id, asking.me.id, now + EDITING_MS));
    return (await rows(pool, store.rules.editors(id, now))).filter((person) => person !== asking.me.id);
  },

  async 'eyes.keep'(context, { body, asking }) {
    const id = await keepAnEye(context, body.document, body.person ?? asking.me.id, asking);
    return readRuleRow(context, id, asking);
  },
};

type Document = Parameters<typeof dailyMessages>[1];

/** Refuses what would flood people, with how much it would have been, unless it was live already and was no quieter. */
async function lookTwice(context: Context, draft: Document, live: Document | null, asking: Caller): Promise<void> {
  const daily = await dailyMessages(context, draft, WEEK, asking);
  if (daily <= MANY_A_DAY || (live && (await dailyMessages(context, live, WEEK, asking)) >= daily)) return;
  throw new Refusal('secondLook', {
    because: { code: 'manyADay', params: { daily: Math.round(daily), many: MANY_A_DAY } },
  });
}

// What it would catch is worth knowing before it is said who hears.
const ruleIn = (document: Record<string, unknown>, asking: Caller) =>
  readRule({ id: 'draft', ...document, owner: asking.me.id }, asking, ['nobodyHears']);

type Tried = { document: Record<string, unknown>; change?: string; item?: string; person?: string };

function tried(context: Context, body: Tried, asking: Caller) {
  const rule = ruleIn(body.document, asking);
  if (rule.report) return tryReport(context, rule, rule.report, body, asking);
  return rule.when || rule.tally ? tryChange(context, rule, body, asking) : tryItem(context, rule, body, asking);
}

/** Trying a rule before it is live: what it would have cost, what would make it cheaper, and one change in full. */
export const tryingHandlers: Handlers<
  'rules.cost' | 'rules.suggestions' | 'rules.tally' | 'rules.try' | 'rules.sendTrial'
> = {
  async 'rules.cost'(context, { body, asking, signal }) {
    return costOf(context, ruleIn(body.document, asking), body.days, asking, signal);
  },

  async 'rules.suggestions'(context, { body, asking, signal }) {
    return suggestionsOf(context, ruleIn(body.document, asking), body.days, asking, signal);
  },

  async 'rules.tally'(context, { body, asking, signal }) {
    return tallyOf(context, ruleIn(body.document, asking), body.days, asking, signal);
  },

  async 'rules.try'(context, { body, asking }) {
    return tried(context, body, asking);
  },

  /** Sends what is being tried to whoever tries it, by one channel: the message of whoever was chosen, said to be a trial. */
  async 'rules.sendTrial'(context, { body, asking }) {
    const { preview } = await tried(context, body, asking);
    if (!preview) throw new Refusal('badRequest', { because: 'nothingToSend' });
    const { language } = preview.content;
    const headline = phrasesFor(language).say('trial.of', { headline: preview.subject });
    const content = {
      ...preview.content,
      headline,
      entries: preview.content.entries.map((entry) => ({ ...entry, asks: false })),
    };
    const own = content.own ? { own: { ...content.own, subject: headline } } : {};
    return { address: await sendTrial(context, asking.me, body.channel, () => ({ ...content, ...own })) };
  },
};
