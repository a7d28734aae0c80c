import type { ReactNode } from 'react';
import type { Sample, TryPage } from '../../../../contract/wire/index.ts';
import { conditionWords, plainWords } from '../../../../core/messages/index.ts';
import { type ExplainedNode, type Rule, isOpen } from '../../../../core/rules/index.ts';
import { fieldOf, formatValue, type Source } from '../../../../core/values/index.ts';
import {
  Hour,
  Said,
  useViewer,
  type Viewer,
  WhatHappened,
  kindName,
  selectorWords,
  kindNames,
  phrasingOf,
} from '../../../parts/index.ts';
import { groupWords, groupOf } from '../editors/condition-groups.ts';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/rule.ts';

interface Knot {
  key: string;
  depth: number;
  words: ReactNode;
  saw: ReactNode;
  held: boolean;
}

/** One change as a thread through the rule: it runs through what held and ends at what did not. */
export function RuleLine({
  rule,
  source,
  explanation,
  sample,
}: {
  rule: Rule;
  source: Source;
  explanation: Explanation;
  sample: Sample;
}) {
  const viewer = useViewer();
  const knots = knotsOf(rule, source, explanation, sample, viewer);
  // The thread ends at the first part of the rule that did not hold.
  const end = knots.findIndex((knot) => knot.depth === 0 && !knot.held);
  return (
    <ol className="rule-line" aria-label={t('theChangeThroughTheRule')}>
      <li className="rule-line-start">
        <Hour at={sample.row.at} />
        <i aria-hidden="true" />
        <span>
          <strong>{sample.title}</strong> {kindName(sample.row.kind)}
        </span>
        <span className="saw">
          <WhatHappened row={sample.row} source={source} most={2} />{' '}
          <span className="quiet">{t('by', { person: viewer.person(sample.row.actor) })}</span>
        </span>
        <span />
      </li>
      {knots.map((knot, at) => (
        <li
          key={knot.key}
          className={`${knot.held ? 'is-held' : 'is-not'}${end >= 0 && at > end ? ' is-past' : ''}${at === end ? ' is-end' : ''}`}
          style={{ '--depth': knot.depth } as React.CSSProperties}
        >
          <span />
          <i aria-hidden="true" />
          <span className="said">{knot.words}</span>
          <span className="saw">{knot.saw}</span>
          <span className="held">{knot.held ? t('held') : t('notHeld')}</span>
        </li>
      ))}
    </ol>
  );
}

type Explanation = NonNullable<TryPage['explanation']>;

/** What the parts of a rule are worded with. */
interface Wording {
  rule: Rule;
  source: Source;
  sample: Sample;
  viewer: Viewer;
}

/** The parts of a rule that say something, in the order in which a change runs through them. */
const knotsOf = (rule: Rule, source: Source, made: Explanation, sample: Sample, viewer: Viewer): Knot[] => {
  const by: Wording = { rule, source, sample, viewer };
  return [
    ...placeKnots(by, made),
    ...kindKnots(by, made),
    ...(made.if && rule.when && !isOpen(rule.when.if) ? nodeKnots(by, made.if, 0) : []),
    actorKnot(by, made),
    ...duringKnots(by, made),
  ];
};

function placeKnots(by: Wording, { scope }: Explanation): Knot[] {
  const { rule, sample, viewer } = by;
  const { sources, under, items, where, linked } = rule.scope;
  const source: Knot = {
    key: 'scope',
    depth: 0,
    words: t.rich('in', { sources: phrases().or(sources.map((id) => viewer.source(id)?.name ?? id)) }),
    saw: `${viewer.source(sample.source)?.name}`,
    held: scope.source,
  };
  const place: Knot = {
    key: 'place',
    depth: 0,
    words:
      under.length > 0
        ? t.rich('below', { under: phrases().or(under.map((id) => viewer.folder(id)?.name ?? id)) })
        : t(linked ? 'oneOfItemsOrLinked' : 'oneOfItems', { items: items.length }),
    saw: viewer.folder(sample.row.folder ?? '')?.name ?? sample.title,
    held: scope.held || (scope.where !== null && !scope.where.held),
  };
  return [
    source,
    ...(under.length > 0 || items.length > 0 ? [place] : []),
    ...(!isOpen(where) && scope.where ? nodeKnots(by, scope.where, 0, true) : []),
  ];
}

const kindKnots = ({ rule, sample }: Wording, { kinds }: Explanation): Knot[] =>
  rule.when && rule.when.kinds.length > 0
    ? [
        {
          key: 'kinds',
          depth: 0,
          words: t.rich('itIs', { kinds: kindNames(rule.when.kinds) }),
          saw: t('itWas', { kind: kindName(sample.row.kind) }),
          held: kinds.held,
        },
      ]
    : [];

function actorKnot({ rule, source, viewer }: Wording, { by }: Explanation): Knot {
  const who = (selectors: Rule['to']) =>
    phrases().or(selectors.map((one) => plainWords(selectorWords(one, viewer, source))));
  return {
    key: 'by',
    depth: 0,
    words: (
      <>
        {t('causedBy')} {rule.by.only.length > 0 ? <strong>{who(rule.by.only)}</strong> : t('anyone')}
        {rule.by.except.length > 0 && <> {t.rich('but', { who: who(rule.by.except) })}</>}
      </>
    ),
    saw: viewer.person(by.actor),
    held: by.held,
  };
}

const duringKnots = ({ rule }: Wording, { during }: Explanation): Knot[] =>
  rule.during.from || rule.during.until || rule.during.near
    ? [{ key: 'during', depth: 0, words: t('atThatTime'), saw: '', held: during.held }]
    : [];

/** A condition's knots: a group, and below it what it joins; or one test. */
function nodeKnots(by: Wording, node: ExplainedNode, depth: number, isWhere = false): Knot[] {
  const group = groupOf(node.node);
  if (!group) return [testKnot(by, node, depth, isWhere)];
  const parts = group.turn === null ? node.parts : (node.parts[0]?.parts ?? []);
  const held = parts.filter((part) => part.held).length;
  return [
    {
      key: node.path,
      depth,
      words: t.rich(isWhere ? 'whereThese' : 'these', { group: groupWords()[group.kind] }),
      saw: t('of2', { held, parts: parts.length }),
      held: node.held,
    },
    ...parts.flatMap((part) => nodeKnots(by, part, depth + 1)),
  ];
}

function testKnot({ source, viewer }: Wording, node: ExplainedNode, depth: number, isWhere: boolean): Knot {
  const phrasing = phrasingOf(source, viewer);
  return {
    key: node.path,
    depth,
    words: (
      <>
        {isWhere && `${t('where')} `}
        <Said words={conditionWords(node.node, phrasing)} />
      </>
    ),
    saw: sawWords(node, source, viewer),
    held: node.held,
  };
}

/** What a test saw: a value as it was and is, or as it was both before and after. */
function sawWords(node: ExplainedNode, source: Source, viewer: Viewer): ReactNode {
  const values = node.saw.length > 0 ? node.saw : node.parts.flatMap((part) => part.saw);
  const [first] = values;
  const field = first && fieldOf(source, first.field);
  if (!first || !field) return '';
  const say = (value: typeof first.before) => formatValue(field, value, viewer.me, viewer.names()) || t('empty');
  const [before, after] = [say(first.before), say(first.after)];
  return before === after ? t('beforeAndAfter', { after }) : t.rich('wasIs', { before, after });
}
