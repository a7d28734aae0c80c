import { Router } from 'express';
import { type Cost, costSchema, type CountedMend, trySchema, type TryPage } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { type Funnel, type Message, trial } from '../../core/decide/index.ts';
import { htmlMail, plainLinks, segmentsOf, subjectOf, wordsOf } from '../../core/messages/index.ts';
import { compileRule, type Rule } from '../../core/rules/index.ts';
import {
  changesByIdQuery,
  itemsQuery,
  lastItemsQuery,
  one,
  readableItems,
  rows,
  type StoredChange,
  toChange,
  worldOf,
} from '../store/index.ts';
import { type Caller, caller, type Context, param, readableAmong, take, when, whileOpen } from './context.ts';
import { readRule } from './rule-documents.ts';
import { momentOf, type Past, pastOf, standingOf } from './past.ts';
import { samplesOf } from './shown.ts';

/** So many past changes are offered to try a rule on: half of them caught, if there are. */
const EXAMPLES = 12;
const EXAMPLE_DAYS = 90;

/** Trying a rule before it is live: what it would have cost, what would make it cheaper, and one change in full. */
export function tryingRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;
  // What it would catch is worth knowing before it is said who hears.
  const ruleIn = (document: Record<string, unknown>, asking: Caller) =>
    readRule({ id: 'draft', ...document, owner: asking.me.id }, asking, ['nobodyHears']);

  routes.post('/rules/cost', async (request, response) => {
    const asking = caller(response);
    const { document, days } = take(costSchema, request.body);
    const rule = ruleIn(document, asking);
    response.json(await costOf(rule, await pastOf(context, rule, asking, days), days, asking, whileOpen(response)));
  });

  routes.post('/rules/mends', async (request, response) => {
    const asking = caller(response);
    const { document, days } = take(costSchema, request.body);
    const rule = ruleIn(document, asking);
    const counted = (
      await context.counter.ask(
        asking.me.id,
        'mends',
        { rule, ...(await pastOf(context, rule, asking, days)) },
        whileOpen(response),
      )
    ).map(
      ({ mend, counted: left }): CountedMend => ({
        code: mend.code,
        params: mend.params,
        document: mend.rule,
        alerts: left.alerts.length,
        messages: messagesIn(left),
      }),
    );
    response.json(counted);
  });

  routes.post('/rules/try', async (request, response) => {
    const asking = caller(response);
    const { document, change, item, person } = take(trySchema, request.body);
    const rule = ruleIn(document, asking);
    response.json(
      rule.when
        ? await tryChange(rule, change ?? null, person ?? null, asking)
        : await tryItem(rule, item ?? null, person ?? null, asking),
    );
  });

  /** One past change, to start a rule from. */
  routes.get('/changes/:source/:id', async (request, response) => {
    const asking = caller(response);
    const change = await changeOf([param(request, 'source')], param(request, 'id'), asking);
    response.json((await samplesOf(pool, [change], asking))[0]);
  });

  async function costOf(rule: Rule, past: Past, days: number, asking: Caller, signal: AbortSignal): Promise<Cost> {
    const result = await context.counter.ask(asking.me.id, 'funnel', { rule, ...past }, signal);
    const { changes } = past;
    const byId = new Map(changes.map((change) => [change.id, change]));
    const dropped = result.steps.flatMap((step) => step.dropped.flatMap((id) => byId.get(id) ?? []));
    const samples = new Map((await samplesOf(pool, dropped, asking)).map((sample) => [sample.row.id, sample]));
    const people = new Map<string, { messages: number; digests: number }>();
    for (const { to, form, count } of result.messages) {
      const known = people.get(to) ?? { messages: 0, digests: 0 };
      people.set(to, { messages: known.messages + count, digests: known.digests + (form === 'digest' ? count : 0) });
    }
    return {
      days,
      steps: result.steps.map(({ step, left, dropped: ids }) => ({
        step,
        left,
        dropped: ids.flatMap((id) => samples.get(id) ?? []),
      })),
      messages: messagesIn(result),
      withheld: result.withheld,
      all: changes.map((change) => when(change.at)),
      caught: result.alerts,
      people: [...people].map(([person, counts]) => ({ person, ...counts })).sort((a, b) => b.messages - a.messages),
    };
  }

  async function tryChange(rule: Rule, wanted: string | null, person: string | null, asking: Caller): Promise<TryPage> {
    const { changes } = await pastOf(context, rule, asking, EXAMPLE_DAYS);
    const compiled = compileRule(rule, asking.directory.sources);
    const known = wanted === null ? null : await changeOf(rule.scope.sources, wanted, asking);
    const world = worldOf(asking.directory, new Map());
    const newest = changes.toReversed();
    const caught = newest.filter((change) => compiled.catches(change, world));
    const others = newest.filter((change) => !caught.includes(change) && compiled.inScope(change, world));
    const examples = [...caught.slice(0, Math.max(EXAMPLES / 2, EXAMPLES - others.length)), ...others]
      .slice(0, EXAMPLES)
      .sort((a, b) => b.at - a.at);
    const change = known ?? caught[0] ?? examples[0] ?? newest[0];
    if (!change) return { ...NOTHING, examples: [] };
    const tried = trial(rule, await momentOf(context, asking, change), change);
    const shown = await samplesOf(pool, examples, asking);
    const [sample = null] = await samplesOf(pool, [change], asking);
    return {
      sample,
      item: null,
      examples: shown.map((one) => ({ ...one, isCaught: caught.some(({ id }) => id === one.row.id) })),
      explanation: tried.explanation,
      isAsIf: tried.isAsIf,
      ...outcomeOf(tried, person, asking),
    };
  }

  /** A change that the caller may read, by its id, in one of the sources. */
  async function changeOf(sources: string[], id: string, { me, directory }: Caller): Promise<StoredChange> {
    const row = await one(pool, changesByIdQuery(sources.map((source): [string, string] => [source, id])));
    const change = row && toChange(row);
    if (!change || !(await readableAmong(pool, [change.item], me.id, directory)).has(change.item))
      throw new Refusal('notFound');
    return change;
  }

  async function tryItem(rule: Rule, wanted: string | null, person: string | null, asking: Caller): Promise<TryPage> {
    const found =
      wanted === null
        ? await rows(pool, lastItemsQuery(rule.scope.sources, readableItems(asking.me.id, asking.directory), 200))
        : await rows(pool, itemsQuery([wanted]));
    const readable = await readableAmong(
      pool,
      found.map((row) => String(row.id)),
      asking.me.id,
      asking.directory,
    );
    for (const item of readable.values()) {
      const tried = trial(rule, await standingOf(context, asking, item), null);
      if (tried.messages.length + tried.withheld.length === 0) continue;
      return {
        ...NOTHING,
        item: { id: item.id, title: item.title, source: item.source },
        ...outcomeOf(tried, person, asking),
      };
    }
    return NOTHING;
  }

  function outcomeOf(
    {
      messages,
      withheld,
    }: { messages: Message[]; withheld: { person: string; reason: TryPage['withheld'][number]['reason'] }[] },
    person: string | null,
    { me }: Caller,
  ): Pick<TryPage, 'messages' | 'withheld' | 'preview'> {
    const shown = messages.find((one) => one.to === person) ?? messages.find((one) => one.to === me.id) ?? messages[0];
    return {
      messages: messages.map(({ to, channel, at, form }) => ({ to, channel, at: when(at), form })),
      withheld: [...new Map(withheld.map((row) => [row.person, { person: row.person, reason: row.reason }])).values()],
      preview: shown ? previewOf(shown) : null,
    };
  }

  function previewOf({ to, content }: Message): TryPage['preview'] {
    const letter = plainLinks(context.site, undefined, 'K7PM');
    const text = wordsOf(content, 'text', letter);
    return {
      to,
      content,
      subject: subjectOf(content, letter),
      html: htmlMail(content, letter),
      plain: wordsOf(content, 'email', letter),
      text,
      segments: segmentsOf(text),
    };
  }

  return routes;
}

const NOTHING: TryPage = {
  sample: null,
  item: null,
  examples: [],
  explanation: null,
  isAsIf: false,
  messages: [],
  withheld: [],
  preview: null,
};

export const messagesIn = ({ messages }: Pick<Funnel, 'messages'>): number =>
  messages.reduce((sum, one) => sum + one.count, 0);
