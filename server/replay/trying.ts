import type { Cost, CountedSuggestion, TallyLine, TryPage } from '../../contract/wire/index.ts';
import { type Funnel, type Message, type Trial, trial } from '../../core/decide/index.ts';
import {
  forPages,
  htmlMail,
  placeholdersOf,
  type Paper,
  plainLinks,
  segmentsOf,
  type Site,
  subjectOf,
  withoutMarks,
  wordsOf,
} from '../../core/messages/index.ts';
import { compileRule, type Report, type Rule } from '../../core/rules/index.ts';
import { fieldOf, isLinkType, isPersonType, optionName, type Source } from '../../core/values/index.ts';
import { type Caller, readableAmong, readableChange, samplesOf, when } from '../access/index.ts';
import { readableItems, rows, store, worldOf } from '../store/index.ts';
import type { ReplayContext } from './context.ts';
import { momentOf, pastOf, reportedOf, standingOf } from './past.ts';

/** So many past changes are offered to try a rule on: half of them caught, if there are. */
const EXAMPLES = 12;
const EXAMPLE_DAYS = 90;

type TryContext = ReplayContext & { site: Site };

/** On what a rule is tried, and whose message is shown. */
interface Wanted {
  change?: string;
  item?: string;
  person?: string;
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

/** How many messages a rule would send, by what was counted. */
export const messagesIn = ({ messages }: Pick<Funnel, 'messages'>): number =>
  messages.reduce((sum, one) => sum + one.count, 0);

/** How many messages a day a rule would have sent over the last days. */
export async function dailyMessages(context: ReplayContext, rule: Rule, days: number, asking: Caller): Promise<number> {
  const past = await pastOf(context, rule, asking, days);
  return messagesIn(await context.counter.ask(asking.me.id, 'funnel', { rule, ...past })) / days;
}

/** What would make a rule cheaper, each with its own count. */
export async function suggestionsOf(
  context: ReplayContext,
  rule: Rule,
  days: number,
  asking: Caller,
  signal: AbortSignal,
): Promise<CountedSuggestion[]> {
  const past = await pastOf(context, rule, asking, days);
  const counted = await context.counter.ask(asking.me.id, 'suggestions', { rule, ...past }, signal);
  return counted.map(({ suggestion, counted: left }) => ({
    code: suggestion.code,
    params: suggestion.params,
    document: suggestion.rule,
    alerts: left.alerts.length,
    messages: messagesIn(left),
  }));
}

/** What a rule would have cost in the last days, step by step. */
export async function costOf(
  context: ReplayContext,
  rule: Rule,
  days: number,
  asking: Caller,
  signal: AbortSignal,
): Promise<Cost> {
  const past = await pastOf(context, rule, asking, days);
  const result = await context.counter.ask(asking.me.id, 'funnel', { rule, ...past }, signal);
  const { changes } = past;
  const byId = new Map(changes.map((change) => [change.id, change]));
  const dropped = result.steps.flatMap((step) => step.dropped.flatMap((id) => byId.get(id) ?? []));
  const samples = new Map((await samplesOf(context.pool, dropped, asking)).map((sample) => [sample.row.id, sample]));
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

/** A rule tried on one past change; on the newest that it would catch where none is named. */
export async function tryChange(
  context: TryContext,
  rule: Rule,
  { change: wanted, person }: Wanted,
  asking: Caller,
): Promise<TryPage> {
  const { changes } = await pastOf(context, rule, asking, EXAMPLE_DAYS);
  const compiled = compileRule(rule, asking.directory.sources);
  const known = wanted === undefined ? null : await readableChange(context.pool, rule.scope.sources, wanted, asking);
  const world = worldOf(asking.directory, new Map());
  const newest = changes.toReversed();
  const caught = newest.filter((change) => compiled.catches(change, world));
  const others = newest.filter((change) => !caught.includes(change) && compiled.inScope(change, world));
  const examples = [...caught.slice(0, Math.max(EXAMPLES / 2, EXAMPLES - others.length)), ...others]
    .slice(0, EXAMPLES)
    .sort((a, b) => b.at - a.at);
  const change = known ?? caught[0] ?? examples[0] ?? newest[0];
  if (!change) return { ...NOTHING, examples: [] };
  const moment = await momentOf(context, asking, change);
  const tried = trial(rule, moment, change);
  const shown = await samplesOf(context.pool, examples, asking);
  const [sample = null] = await samplesOf(context.pool, [change], asking);
  return {
    sample,
    item: null,
    examples: shown.map((one) => ({ ...one, isCaught: caught.some(({ id }) => id === one.row.id) })),
    explanation: tried.explanation,
    isAsIf: tried.isAsIf,
    ...outcomeOf(context, tried, rule, person, asking, (other) => trial(other, moment, change)),
  };
}

/** A rule of dates or standstills tried on an item; on the newest of which it would tell where none is named. */
export async function tryItem(
  context: TryContext,
  rule: Rule,
  { item: wanted, person }: Wanted,
  asking: Caller,
): Promise<TryPage> {
  const found = await rows(
    context.pool,
    wanted === undefined
      ? store.items.last(rule.scope.sources, readableItems(asking.me.id, asking.directory), 200)
      : store.items.byIds([wanted]),
  );
  const readable = await readableAmong(
    context.pool,
    found.map(({ id }) => id),
    asking.me.id,
    asking.directory,
  );
  for (const item of readable.values()) {
    const standing = await standingOf(context, asking, item);
    const tried = trial(rule, standing, null);
    if (tried.messages.length + tried.withheld.length === 0) continue;
    return {
      ...NOTHING,
      item: { id: item.id, title: item.title, source: item.source },
      ...outcomeOf(context, tried, rule, person, asking, (other) => trial(other, standing, null)),
    };
  }
  return NOTHING;
}

/** So many parts of a tally are drawn, those that came to most; and so many moves of each. */
const MOST_PARTS = 8;
const MOST_MOVES = 500;

/** How a rule's tally moved over the last days, part by part, those that came to most first. */
export async function tallyOf(
  context: ReplayContext,
  rule: Rule,
  days: number,
  asking: Caller,
  signal: AbortSignal,
): Promise<TallyLine> {
  const past = await pastOf(context, rule, asking, days);
  const points = await context.counter.ask(asking.me.id, 'tally', { rule, ...past }, signal);
  const byPart = new Map<string, { at: string; value: number }[]>();
  for (const { part, at, value } of points)
    byPart.set(part, [...(byPart.get(part) ?? []), { at: when(at), value: Number(value) }]);
  const source = asking.directory.sources.get(rule.scope.sources[0] ?? '');
  const field = source && rule.tally?.per ? fieldOf(source, rule.tally.per) : undefined;
  const linked = field && isLinkType(field.type) ? [...byPart.keys()].filter(Boolean) : [];
  const titles = await readableAmong(context.pool, linked, asking.me.id, asking.directory);
  const nameOf = (part: string): string => {
    if (!field) return '';
    if (isLinkType(field.type)) return titles.get(part)?.title ?? '';
    return isPersonType(field.type) ? (asking.directory.people.get(part)?.name ?? part) : optionName(field, part);
  };
  const most = (moves: { value: number }[]) => Math.max(...moves.map(({ value }) => value));
  const parts = [...byPart].sort(([, a], [, b]) => most(b) - most(a));
  return {
    from: when(past.setting.start),
    until: when(past.setting.end),
    parts: parts
      .slice(0, MOST_PARTS)
      .map(([part, moves]) => ({ part, name: part === '' ? '' : nameOf(part), moves: moves.slice(-MOST_MOVES) })),
    more: Math.max(0, parts.length - MOST_PARTS),
  };
}

/** A report as it would go out at its next instant, were all as it is now. */
export async function tryReport(
  context: TryContext,
  rule: Rule,
  report: Report,
  { person }: Wanted,
  asking: Caller,
): Promise<TryPage> {
  const setting = await reportedOf(context, rule, report, asking);
  const tried = trial(rule, setting, null);
  return { ...NOTHING, ...outcomeOf(context, tried, rule, person, asking, (other) => trial(other, setting, null)) };
}

function outcomeOf(
  { site }: TryContext,
  { messages, withheld }: Trial,
  rule: Rule,
  person: string | undefined,
  { me, directory }: Caller,
  again: (rule: Rule) => Trial,
): Pick<TryPage, 'messages' | 'withheld' | 'preview'> {
  const shown = messages.find((one) => one.to === person) ?? messages.find((one) => one.to === me.id) ?? messages[0];
  return {
    messages: messages.map(({ to, channel, at, form }) => ({ to, channel, at: when(at), form })),
    withheld: [...new Map(withheld.map((row) => [row.person, { person: row.person, reason: row.reason }])).values()],
    preview: shown
      ? { ...previewOf(site, shown, directory.house), values: valuesFor(shown.to, rule, directory.sources, again) }
      : null,
  };
}

/** Parts what placeholders stand for; no value holds it. */
const PARTED = '\u001f';

/** What each placeholder of a text stands for in the message of somebody: it is put together once more, of nothing else. */
function valuesFor(
  to: string,
  rule: Rule,
  sources: ReadonlyMap<string, Source>,
  again: (rule: Rule) => Trial,
): Record<string, string> {
  const names = placeholdersOf(
    rule.scope.sources.flatMap((id) => sources.get(id) ?? []),
    sources,
  );
  const body = names.map((name) => `{{ ${name} }}`).join(PARTED);
  const asked = again({ ...rule, message: { ...rule.message, wording: null, subject: null, body } });
  const said = asked.messages.find((one) => one.to === to)?.content.own?.body?.split(PARTED) ?? [];
  return Object.fromEntries(names.map((name, at) => [name, withoutMarks(said[at] ?? '')]));
}

function previewOf(
  site: Site,
  { to, content }: Message,
  paper: Paper,
): Omit<NonNullable<TryPage['preview']>, 'values'> {
  const links = plainLinks(site, undefined, 'K7PM', paper);
  const text = wordsOf(content, 'text', links);
  return {
    to,
    content: forPages(content),
    subject: subjectOf(content, links),
    html: htmlMail(content, links),
    plain: wordsOf(content, 'email', links),
    text,
    segments: segmentsOf(text),
  };
}
