import type { DirectoryPage } from '../../contract/wire/index.ts';
import { conditionWords, durationWords, paceWords, plainWords } from '../../core/messages/index.ts';
import type { Selector } from '../../core/people/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import type { Source } from '../../core/values/index.ts';
import { phrases } from '../words/index.ts';
import { t } from '../words/parts.ts';
import { channelsWords, folderNames, phrasingOf, selectorWords, whatWords } from './rule-words.ts';
import type { Viewer } from './viewer.tsx';
import { urgencyName } from './signs.tsx';

/** The parts of a rule that can be edited, for telling which of them differ from what is live. */
export const PARTS = [
  'name',
  'urgency',
  'scope',
  'when',
  'due',
  'idle',
  'by',
  'during',
  'about',
  'to',
  'except',
  'channels',
  'pace',
  'limit',
  'together',
  'message',
  'ack',
  'ownChanges',
] as const satisfies readonly (keyof Rule)[];
export type RulePart = (typeof PARTS)[number];

export const editedParts = (draft: Rule, live: Rule): RulePart[] =>
  PARTS.filter((part) => JSON.stringify(draft[part]) !== JSON.stringify(live[part]));

/** What a part is called, where versions are told apart by their parts. */
export const partName = (part: RulePart): string => t(`part.${part}`);

/** Of which of what it catches each recipient hears. */
export const aboutWords = (about: Rule['about']): string => t(`about.${about}`);

interface PartView {
  rule: Rule;
  viewer: Viewer;
  source: Source | undefined;
}

const listed = (parts: (string | false | null | undefined)[]): string => parts.filter(Boolean).join(', ');

const nameOf = (field: string, { source }: PartView): string =>
  source?.fields.find((one) => one.id === field)?.name ?? field;

const who = (selectors: readonly Selector[], { viewer, source }: PartView): string =>
  phrases().and(selectors.map((one) => plainWords(selectorWords(one, viewer, source)))) || t('nobody');

function scopeWords({ rule, viewer, source }: PartView): string {
  const { sources, under, items, linked, where } = rule.scope;
  const narrowed = source ? plainWords(conditionWords(where, phrasingOf(source, viewer))) : '';
  return listed([
    phrases().and(sources.map((id) => viewer.source(id)?.name ?? id)),
    under.length > 0 && t('below', { under: folderNames(under, viewer) }),
    items.length > 0 && t(linked ? 'itemsAndLinked' : 'items', { items: items.length }),
    narrowed && t('where', { narrowed }),
  ]);
}

const occasionPart =
  (part: 'when' | 'due' | 'idle') =>
  ({ rule, viewer, source }: PartView): string => {
    if (rule[part] === null) return t('nothing');
    const burst = rule.when?.burst;
    const state = rule.due?.if ?? rule.idle?.if;
    const held = state && source ? plainWords(conditionWords(state, phrasingOf(source, viewer))) : '';
    return listed([
      plainWords(whatWords(rule, viewer)),
      burst && t('timesWithin', { count: burst.count, duration: durationWords(burst.within, phrases()) }),
      held && t('while', { held }),
    ]);
  };

function causeWords(view: PartView): string {
  const { only, except } = view.rule.by;
  const but = except.length > 0 ? t('butNot', { who: who(except, view) }) : '';
  return `${only.length > 0 ? who(only, view) : t('anyone')} ${but}`.trim();
}

function duringWords(view: PartView): string {
  const { from, until, near } = view.rule.during;
  const nearWords = near && {
    duration: durationWords(near.ahead, phrases()),
    name: nameOf(near.field, view),
  };
  const parts = [from && t('from', { from }), until && t('until', { until }), nearWords && t('before', nearWords)];
  return listed(parts) || t('always');
}

function ackWords({ rule }: PartView): string {
  if (!rule.ack) return t('nobodyHasTo');
  return rule.ack.by === 'anyone' ? t('oneOfThemAcknowledges') : t('eachOfThemAcknowledges');
}

function messageWords(view: PartView): string {
  const { wording, subject, body, show, doNow } = view.rule.message;
  const shared = view.viewer.directory.wordings.find((one) => one.id === wording)?.name;
  const own = body === null ? (shared ?? t('whatChanged')) : t('wordsOfItsOwn');
  return listed([
    subject ?? own,
    show.length > 0 && t('with', { show: phrases().and(show.map((id) => nameOf(id, view))) }),
    doNow && t('doNow', { doNow }),
  ]);
}

const yesNo = (isSo: boolean): string => (isSo ? t('yes') : t('no'));

/** One part of a rule in a line, for comparing it with another version's. */
const PART_WORDS: { [Part in RulePart]: (view: PartView) => string } = {
  name: ({ rule }) => rule.name,
  urgency: ({ rule }) => urgencyName(rule.urgency),
  scope: scopeWords,
  when: occasionPart('when'),
  due: occasionPart('due'),
  idle: occasionPart('idle'),
  by: causeWords,
  during: duringWords,
  about: ({ rule }) => aboutWords(rule.about),
  to: (view) => who(view.rule.to, view),
  except: (view) => who(view.rule.except, view),
  channels: ({ rule }) => channelsWords(rule.channels),
  pace: ({ rule }) => paceWords(rule.pace, phrases()),
  limit: ({ rule }) =>
    rule.limit ? t('oneIn', { duration: durationWords(rule.limit.within, phrases()) }) : t('asOftenAsItHappens'),
  together: ({ rule }) => yesNo(rule.together),
  message: messageWords,
  ack: ackWords,
  ownChanges: ({ rule }) => yesNo(rule.ownChanges),
};

export const partWords = (rule: Rule, part: RulePart, viewer: Viewer): string =>
  PART_WORDS[part]({ rule, viewer, source: viewer.source(rule.scope.sources[0] ?? '') });

/** The world that `checkRule` asks for, from the directory that the page has. */
export const worldFrom = (directory: DirectoryPage) => ({
  people: new Map(
    directory.people.map((one) => [
      one.id,
      {
        id: one.id,
        name: one.name,
        email: null,
        phone: null,
        zone: 'UTC',
        locale: 'en-GB',
        manager: null,
        active: one.isActive,
        plan: null,
      },
    ]),
  ),
  groups: new Map(directory.groups.map((one) => [one.id, one])),
  sources: new Map(directory.sources.map((one) => [one.id, one as Source])),
  folders: new Map(directory.folders.map((one) => [one.id, one])),
  access: [],
  item: () => undefined,
});
