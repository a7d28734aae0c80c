import type { World } from '../people/index.ts';
import { type Change, fieldOf, type Source, type Value } from '../values/index.ts';
import type { CompiledRule } from './compile.ts';
import { compileCondition, compileState } from './condition.ts';
import type { Condition, StateTest } from './rule.ts';

/** A node of a rule's condition with what a change made of it. */
export interface ExplainedNode {
  /** Where the node stands in the rule: `when.if.all.0`. */
  path: string;
  node: Condition;
  held: boolean;
  /** Of a test, the values that it saw on both sides. */
  saw: { field: string; before: Value; after: Value }[];
  parts: ExplainedNode[];
}

/** Each part of a rule with whether a change passed it. */
export interface ExplainedRule {
  scope: { held: boolean; source: boolean; where: ExplainedNode | null };
  kinds: { held: boolean; kind: string };
  by: { held: boolean; actor: string };
  if: ExplainedNode | null;
  during: { held: boolean };
  caught: boolean;
}

/** What a rule makes of a change, part by part and node by node. */
export function explainRule(compiled: CompiledRule, change: Change, world: World): ExplainedRule {
  const { rule } = compiled;
  const source = rule.scope.sources.includes(change.source) ? world.sources.get(change.source) : undefined;
  const parts = {
    scope: {
      held: compiled.inScope(change, world),
      source: source !== undefined,
      where: source ? explainNode(rule.scope.where, 'scope.where', source, rule.zone, change) : null,
    },
    kinds: { held: compiled.ofKind(change), kind: change.kind },
    by: { held: compiled.byActor(change, world), actor: change.actor },
    if: source && rule.when ? explainNode(rule.when.if, 'when.if', source, rule.zone, change) : null,
    during: { held: source !== undefined && compiled.inDates(change) },
  };
  return {
    ...parts,
    caught: parts.scope.held && parts.kinds.held && parts.by.held && (parts.if?.held ?? false) && parts.during.held,
  };
}

function explainNode(node: Condition, path: string, source: Source, zone: string, change: Change): ExplainedNode {
  const held = compileCondition(node, source, zone)(change);
  return { path, node, held, saw: sawOf(node, source, change), parts: partsOf(node, path, source, zone, change) };
}

function partsOf(node: Condition, path: string, source: Source, zone: string, change: Change): ExplainedNode[] {
  const inner = 'all' in node ? node.all : 'any' in node ? node.any : 'none' in node ? node.none : null;
  if (inner)
    return inner.map((part, at) => explainNode(part, `${path}.${Object.keys(node)[0]}.${at}`, source, zone, change));
  if ('was' in node) return [explainState(node.was, `${path}.was`, 'before', source, zone, change)];
  if ('became' in node) return [explainState(node.became, `${path}.became`, 'after', source, zone, change)];
  if ('ceased' in node) return [explainState(node.ceased, `${path}.ceased`, 'before', source, zone, change)];
  return [];
}

/** A state test as it was, or is, on one side of the change. */
function explainState(
  test: StateTest,
  path: string,
  side: 'before' | 'after',
  source: Source,
  zone: string,
  change: Change,
): ExplainedNode {
  const fields = change[side];
  const held = fields !== null && compileState(test, source, zone)(fields, change.at);
  const inner = 'op' in test ? [] : 'all' in test ? test.all : 'any' in test ? test.any : test.none;
  return {
    path,
    node: test,
    held,
    saw: sawOf(test, source, change),
    parts: inner.map((part, at) =>
      explainState(part, `${path}.${Object.keys(test)[0]}.${at}`, side, source, zone, change),
    ),
  };
}

function sawOf(node: Condition, source: Source, change: Change): ExplainedNode['saw'] {
  const fields =
    'op' in node
      ? [node.field]
      : 'rose' in node
        ? [node.rose.field]
        : 'fell' in node
          ? [node.fell.field]
          : 'gained' in node
            ? [node.gained.field]
            : 'lost' in node
              ? [node.lost.field]
              : 'changed' in node
                ? changedOf(node.changed, source)
                : [];
  return fields
    .filter((id) => fieldOf(source, id))
    .map((field) => ({ field, before: change.before?.[field] ?? null, after: change.after?.[field] ?? null }));
}

const changedOf = (changed: string | string[], source: Source): string[] =>
  changed === '*' ? source.fields.map((field) => field.id) : [changed].flat();
