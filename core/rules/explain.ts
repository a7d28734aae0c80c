import type { World } from '../people/index.ts';
import { type Change, fieldOf, type Value } from '../values/index.ts';
import type { CompiledRule } from './compile.ts';
import { compileCondition, compileState, type Compiling } from './condition.ts';
import { type Condition, kindOf, ownFields, type StateTest, stateParts, visitCondition } from './nodes.ts';
import type { Linked } from './tests.ts';

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
  const on = source ? { source, zone: rule.zone, sources: world.sources, change, linked: world } : null;
  const parts = {
    scope: {
      held: compiled.inScope(change, world),
      source: source !== undefined,
      where: on ? explainNode(rule.scope.where, 'scope.where', on) : null,
    },
    kinds: { held: compiled.ofKind(change), kind: change.kind },
    by: { held: compiled.byActor(change, world), actor: change.actor },
    if: on && rule.when ? explainNode(rule.when.if, 'when.if', on) : null,
    during: { held: source !== undefined && compiled.inDates(change) },
  };
  return {
    ...parts,
    caught: parts.scope.held && parts.kinds.held && parts.by.held && (parts.if?.held ?? false) && parts.during.held,
  };
}

/** For what a node is judged: the source and zone of its tests, the change, and where linked items are found. */
interface Explaining extends Compiling {
  change: Change;
  linked: Linked;
}

function explainNode(node: Condition, path: string, on: Explaining): ExplainedNode {
  const held = compileCondition(node, on)(on.change, on.linked);
  return { path, node, held, saw: sawOf(node, on), parts: explainedParts(node, path, on) };
}

function explainedParts(node: Condition, path: string, on: Explaining): ExplainedNode[] {
  const within = `${path}.${kindOf(node)}`;
  const conditions = (parts: Condition[]) => parts.map((part, at) => explainNode(part, `${within}.${at}`, on));
  const state = (test: StateTest, side: 'before' | 'after') => [explainState(test, within, side, on)];
  const none = () => [];
  return visitCondition<ExplainedNode[]>(node, {
    test: none,
    // What was so of linked items is for their own readers.
    through: none,
    all: ({ all }) => conditions(all),
    any: ({ any }) => conditions(any),
    none: ({ none: parts }) => conditions(parts),
    was: ({ was }) => state(was, 'before'),
    became: ({ became }) => state(became, 'after'),
    ceased: ({ ceased }) => state(ceased, 'before'),
    changed: none,
    rose: none,
    fell: none,
    gained: none,
    lost: none,
  });
}

/** A state test as it was, or is, on one side of the change. */
function explainState(test: StateTest, path: string, side: 'before' | 'after', on: Explaining): ExplainedNode {
  const { change, linked } = on;
  const fields = change[side];
  const held = fields !== null && compileState(test, on)(fields, change.at, linked);
  const parts = stateParts(test).map((part, at) => explainState(part, `${path}.${kindOf(test)}.${at}`, side, on));
  return { path, node: test, held, saw: sawOf(test, on), parts };
}

/** The values that a node itself looks at, on both sides of a change. */
const sawOf = (node: Condition, { source, change }: Explaining): ExplainedNode['saw'] =>
  ownFields(node)
    .flatMap((id) => (id === '*' ? source.fields.map((field) => field.id) : [id]))
    .filter((id) => fieldOf(source, id))
    .map((field) => ({ field, before: change.before?.[field] ?? null, after: change.after?.[field] ?? null }));
