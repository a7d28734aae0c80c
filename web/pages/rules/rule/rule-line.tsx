import type { ReactNode } from 'react';
import type { Sample, TryPage } from '../../../../contract/wire/index.ts';
import { conditionWords, plainWords } from '../../../../core/messages/index.ts';
import { type ExplainedNode, type Rule, isOpen } from '../../../../core/rules/index.ts';
import { fieldOf, formatValue, type Source } from '../../../../core/values/index.ts';
import { Hour, Said, useViewer, WhatHappened, joined, kindName, selectorWords } from '../../../parts/index.ts';
import { GROUP_WORDS, groupOf } from '../editors/condition-groups.ts';

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
  explanation: NonNullable<TryPage['explanation']>;
  sample: Sample;
}) {
  const viewer = useViewer();
  const knots = knotsOf(rule, source, explanation, sample, viewer);
  // The thread ends at the first part of the rule that did not hold.
  const end = knots.findIndex((knot) => knot.depth === 0 && !knot.held);
  return (
    <ol className="thread" aria-label="The change through the rule">
      <li className="thread-start">
        <Hour at={sample.row.at} />
        <i aria-hidden="true" />
        <span>
          <strong>{sample.title}</strong> {kindName(sample.row.kind)}
        </span>
        <span className="saw">
          <WhatHappened row={sample.row} source={source} most={2} />{' '}
          <span className="quiet">by {viewer.person(sample.row.actor)}</span>
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
          <span className="held">{knot.held ? 'held' : 'not held'}</span>
        </li>
      ))}
    </ol>
  );
}

function knotsOf(
  rule: Rule,
  source: Source,
  { scope, kinds, by, if: condition, during }: NonNullable<TryPage['explanation']>,
  sample: Sample,
  viewer: ReturnType<typeof useViewer>,
): Knot[] {
  const phrasing = { source, reader: viewer.me, names: viewer.names() };
  const found: Knot[] = [
    {
      key: 'scope',
      depth: 0,
      words: (
        <>
          in{' '}
          <strong>
            {joined(
              rule.scope.sources.map((id) => viewer.source(id)?.name ?? id),
              'or',
            )}
          </strong>
        </>
      ),
      saw: `${viewer.source(sample.source)?.name}`,
      held: scope.source,
    },
  ];
  const { under, items, where } = rule.scope;
  if (under.length > 0 || items.length > 0)
    found.push({
      key: 'place',
      depth: 0,
      words:
        under.length > 0 ? (
          <>
            below{' '}
            <strong>
              {joined(
                under.map((id) => viewer.folder(id)?.name ?? id),
                'or',
              )}
            </strong>
          </>
        ) : (
          <>
            one of {items.length} items{rule.scope.linked && ', or linked with one'}
          </>
        ),
      saw: viewer.folder(sample.row.folder ?? '')?.name ?? sample.title,
      held: scope.held || (scope.where !== null && !scope.where.held),
    });
  if (!isOpen(where) && scope.where) found.push(...nodeKnots(scope.where, 0, 'where '));
  if (rule.when && rule.when.kinds.length > 0)
    found.push({
      key: 'kinds',
      depth: 0,
      words: (
        <>
          it is <strong>{joined(rule.when.kinds.map(kindName), 'or')}</strong>
        </>
      ),
      saw: `it was ${kindName(sample.row.kind)}`,
      held: kinds.held,
    });
  if (condition && rule.when && !isOpen(rule.when.if)) found.push(...nodeKnots(condition, 0, ''));
  const who = (selectors: Rule['to']) =>
    joined(
      selectors.map((one) => plainWords(selectorWords(one, viewer, source))),
      'or',
    );
  found.push({
    key: 'by',
    depth: 0,
    words: (
      <>
        caused by {rule.by.only.length > 0 ? <strong>{who(rule.by.only)}</strong> : 'anyone'}
        {rule.by.except.length > 0 && (
          <>
            {' '}
            but <strong>{who(rule.by.except)}</strong>
          </>
        )}
      </>
    ),
    saw: viewer.person(by.actor),
    held: by.held,
  });
  if (rule.during.from || rule.during.until || rule.during.near)
    found.push({ key: 'during', depth: 0, words: 'at that time', saw: '', held: during.held });
  return found;

  function nodeKnots(node: ExplainedNode, depth: number, before: string): Knot[] {
    const group = groupOf(node.node);
    if (!group)
      return [
        {
          key: node.path,
          depth,
          words: (
            <>
              {before}
              <Said words={conditionWords(node.node, phrasing)} />
            </>
          ),
          saw: sawWords(node),
          held: node.held,
        },
      ];
    const parts = group.turn === null ? node.parts : (node.parts[0]?.parts ?? []);
    const held = parts.filter((part) => part.held).length;
    return [
      {
        key: node.path,
        depth,
        words: (
          <>
            {before}
            <strong>{GROUP_WORDS[group.kind]}</strong> these
          </>
        ),
        saw: `${held} of ${parts.length}`,
        held: node.held,
      },
      ...parts.flatMap((part) => nodeKnots(part, depth + 1, '')),
    ];
  }

  function sawWords(node: ExplainedNode): ReactNode {
    const values = node.saw.length > 0 ? node.saw : node.parts.flatMap((part) => part.saw);
    const [first] = values;
    const field = first && fieldOf(source, first.field);
    if (!first || !field) return '';
    const say = (value: typeof first.before) => formatValue(field, value, viewer.me, phrasing.names) || 'empty';
    const [before, after] = [say(first.before), say(first.after)];
    return before === after ? (
      <>{after} before and after</>
    ) : (
      <>
        was <strong>{before}</strong>, is <strong>{after}</strong>
      </>
    );
  }
}
