import { senderName } from './senders.ts';
import { conditionWords, durationWords, occasionWords, paceWords, plainWords } from '../../core/messages/index.ts';
import type { Pace, Selector } from '../../core/people/index.ts';
import { type Condition, isOpen, type Repeat, type Rule } from '../../core/rules/index.ts';
import { formatDay, type Source } from '../../core/values/index.ts';
import { phrases } from '../words/index.ts';
import { t } from '../words/parts.ts';
import { aboutWords, type RulePart } from './rule-parts.ts';
import { channelsWords, kindNames } from './names.ts';
import { folderNames, phrasingOf, selectorWords } from './rule-words.ts';
import { urgencyName } from './signs.tsx';
import type { Viewer } from './viewer.tsx';

interface PartView {
  rule: Rule;
  viewer: Viewer;
  source: Source | undefined;
  /** What items are called, by id, as far as it is known. */
  items: Record<string, string>;
}

const listed = (parts: (string | false | null | undefined)[]): string => parts.filter(Boolean).join(', ');
const long = (duration: string): string => durationWords(duration, phrases());
const yesNo = (isSo: boolean): string => (isSo ? t('yes') : t('no'));

const nameOf = (field: string, { source }: PartView): string =>
  source?.fields.find((one) => one.id === field)?.name ?? field;

const who = (selectors: readonly Selector[], { viewer, source }: PartView): string =>
  phrases().and(selectors.map((one) => plainWords(selectorWords(one, viewer, source)))) || t('nobody');

/** A condition in words; the empty string of one that is open to everything. */
const held = (node: Condition, { source, viewer, items }: PartView): string =>
  source ? plainWords(conditionWords(node, phrasingOf(source, viewer, items))) : '';

function scopeWords(view: PartView): string {
  const { rule, viewer } = view;
  const { sources, under, items, linked, where } = rule.scope;
  const narrowed = held(where, view);
  const named = phrases().or(items.map((id) => view.items[id] ?? id));
  return listed([
    phrases().and(sources.map((id) => viewer.source(id)?.name ?? id)),
    under.length > 0 && t('below', { under: folderNames(under, viewer) }),
    items.length > 0 && named,
    linked && t('andWhatIsLinked'),
    narrowed && t('where', { narrowed }),
  ]);
}

function whenWords(view: PartView): string {
  const { when } = view.rule;
  if (!when) return t('nothing');
  const { kinds, burst } = when;
  return listed([
    kinds.length > 0 && t('is', { kinds: kindNames(kinds) }),
    isOpen(when.if) ? kinds.length === 0 && t('anythingThatHappens') : held(when.if, view),
    burst && `${t('timesWithin', { count: burst.count, duration: long(burst.within) })} ${t(`per.${burst.per}`)}`,
  ]);
}

const repeatWords = (repeat: Repeat | null) =>
  repeat && t('againEvery', { duration: long(repeat.every), times: repeat.times });

function whileWords(node: Condition, view: PartView): string | false {
  const words = held(node, view);
  return words !== '' && t('while', { held: words });
}

function dueWords(view: PartView): string {
  const { due } = view.rule;
  if (!due || !view.source) return t('nothing');
  return listed([
    occasionWords({ due }, view.source, phrases()),
    due.at && t('atTime', { at: due.at }),
    whileWords(due.if, view),
    repeatWords(due.repeat),
    due.late === 'skip' && t('notWhenLate'),
  ]);
}

function idleWords(view: PartView): string {
  const { idle } = view.rule;
  if (!idle || !view.source) return t('nothing');
  const words = occasionWords({ idle }, view.source, phrases());
  return listed([words, whileWords(idle.if, view), repeatWords(idle.repeat)]);
}

function tallyWords(view: PartView): string {
  const { tally } = view.rule;
  if (!tally || !view.source) return t('nothing');
  return listed([
    occasionWords({ tally }, view.source, phrases()),
    tally.kinds.length > 0 && t('toldIf', { kinds: kindNames(tally.kinds) }),
  ]);
}

function reportWords(view: PartView): string {
  const { report } = view.rule;
  if (!report || !view.source) return t('nothing');
  return listed([
    occasionWords({ report }, view.source, phrases()),
    whileWords(report.if, view),
    report.empty && t('evenWithNothing'),
  ]);
}

function causeWords(view: PartView): string {
  const { only, except } = view.rule.by;
  const but = except.length > 0 ? t('butNot', { who: who(except, view) }) : '';
  return `${only.length > 0 ? who(only, view) : t('anyone')} ${but}`.trim();
}

function duringWords(view: PartView): string {
  const { from, until, near } = view.rule.during;
  const { locale } = view.viewer.me;
  const parts = [
    from && t('from', { from: formatDay(from, locale) }),
    until && t('until', { until: formatDay(until, locale) }),
    near && t('before', { duration: long(near.ahead), name: nameOf(near.field, view) }),
    near && /[1-9]/.test(near.behind) && t('andAfter', { duration: long(near.behind) }),
  ];
  return listed(parts) || t('always');
}

function fullPaceWords(pace: Pace): string {
  const words = paceWords(pace, phrases());
  if (pace.kind === 'settled') return listed([words, t('atTheLatest', { duration: long(pace.most) })]);
  return listed([words, pace.kind === 'digest' && pace.zone]);
}

function ackWords(view: PartView): string {
  const { ack } = view.rule;
  if (!ack) return t('nobodyHasTo');
  const { remind } = ack;
  return listed([
    ack.by === 'anyone' ? t('oneOfThemAcknowledges') : t('eachOfThemAcknowledges'),
    remind && t('remindedAfter', { duration: long(remind.after), times: remind.times }),
    ...ack.escalate.map(({ after, to }) => t('thenHears', { duration: long(after), who: who(to, view) })),
    !ack.closeWhenCeased && t('staysOpen'),
    ack.allClear && t('allClearAfter'),
  ]);
}

function messageWords(view: PartView): string {
  const { wording, subject, body, show, doNow, from, replyTo, attach = [] } = view.rule.message;
  const shared = view.viewer.directory.wordings.find((one) => one.id === wording)?.name ?? wording;
  return listed([
    subject ?? (shared === null ? t('whatChanged') : t('asWording', { name: shared })),
    body && `“${body}”`,
    attach.length > 0 && t('withFiles', { kinds: phrases().and(attach.map((kind) => kind.toUpperCase())) }),
    show.length > 0 && t('with', { show: phrases().and(show.map((id) => nameOf(id, view))) }),
    doNow && t('doNow', { doNow }),
    from !== 'ojo' && t('inTheNameOf', { name: senderName(view.rule, view.viewer) }),
    replyTo && t('answersGoTo', { replyTo }),
  ]);
}

function limitWords({ rule: { limit } }: PartView): string {
  if (!limit) return t('asOftenAsItHappens');
  return `${t('oneIn', { duration: long(limit.within) })} ${t(`per.${limit.per}`)}`;
}

/** One part of a rule in a line: of two that differ, the lines differ. */
const PART_WORDS: { [Part in RulePart]: (view: PartView) => string } = {
  name: ({ rule }) => rule.name,
  urgency: ({ rule }) => urgencyName(rule.urgency),
  scope: scopeWords,
  when: whenWords,
  due: dueWords,
  idle: idleWords,
  tally: tallyWords,
  report: reportWords,
  by: causeWords,
  during: duringWords,
  about: ({ rule }) => aboutWords(rule.about),
  to: (view) => who(view.rule.to, view),
  except: (view) => who(view.rule.except, view),
  channels: ({ rule }) => channelsWords(rule.channels),
  pace: ({ rule }) => fullPaceWords(rule.pace),
  limit: limitWords,
  together: ({ rule }) => yesNo(rule.together),
  message: messageWords,
  ack: ackWords,
  ownChanges: ({ rule }) => yesNo(rule.ownChanges),
  zone: ({ rule }) => rule.zone,
};

/** One part of a rule in a line, for comparing it with another version's; `items` are titles by id. */
export const partWords = (rule: Rule, part: RulePart, viewer: Viewer, items: Record<string, string> = {}): string =>
  PART_WORDS[part]({ rule, viewer, items, source: viewer.source(rule.scope.sources[0] ?? '') });
