import {
  type Condition,
  type FieldTest,
  fromTo,
  isKind,
  type LinkedTest,
  type Membership,
  type Movement,
  otherField,
  type StateTest,
  visitCondition,
} from '../rules/index.ts';
import { type Field, fieldOf, isMoney, isTextType, type Source, type Value } from '../values/index.ts';
import { fieldChoices, valueChoices } from './known.ts';
import type { Piece, Saying } from './saying-words.ts';
import type { Tense } from './tokens.ts';
import type { Keyword } from './words/index.ts';

const LINKED: Record<Tense, [some: Keyword, every: Keyword]> = {
  is: ['linkedIs', 'everyIs'],
  was: ['linkedWas', 'everyWas'],
  becomes: ['linkedBecomes', 'everyBecomes'],
};

/** Says conditions of one source's items. */
export class ConditionSaying {
  constructor(
    private readonly saying: Saying,
    private readonly sources: readonly Source[],
  ) {}

  /** A condition where one may stand alone: its parts joined, each that joins otherwise in brackets. */
  say(node: Condition): Piece[] {
    if (isKind(node, 'all') && node.all.length > 1 && !fromTo(node)) return this.group(node.all, 'and');
    if (isKind(node, 'any') && node.any.length > 1) return this.group(node.any, 'or');
    return this.term(node);
  }

  private group(parts: readonly Condition[], by: Keyword): Piece[] {
    return this.saying.joined(
      parts.map((part) => this.term(part)),
      by,
    );
  }

  private isGroup = (node: Condition): boolean =>
    (isKind(node, 'all') && node.all.length > 1 && !fromTo(node)) || (isKind(node, 'any') && node.any.length > 1);

  /** A condition as one part of others. */
  term(node: Condition): Piece[] {
    const { saying } = this;
    if (this.isGroup(node)) return saying.bracketed(this.say(node));
    const turned = (key: Keyword, state: StateTest) => [...saying.word(key), ...this.term(state)];
    return visitCondition<Piece[]>(node, {
      test: (test) => this.test(test, 'is'),
      through: (test) => this.linked(test, 'is'),
      all: ({ all }) => (all.length === 0 ? saying.word('anything') : this.turn(node)),
      any: () => saying.word('never'),
      none: ({ none }) => [
        ...saying.word('noneOf'),
        ...saying.bracketed(
          saying.joined(
            none.map((part) => this.say(part)),
            'semicolon',
          ),
        ),
      ],
      was: ({ was }) => this.inTense(was, 'was') ?? turned('wasSo', was),
      became: ({ became }) => this.inTense(became, 'becomes') ?? turned('comesToBe', became),
      ceased: ({ ceased }) => turned('ceases', ceased),
      changed: ({ changed }) => (changed === '*' ? saying.word('anyField') : this.changed([changed].flat())),
      rose: ({ rose }) => this.movement('rises', rose),
      fell: ({ fell }) => this.movement('falls', fell),
      gained: ({ gained }) => this.membership('gains', 'gainsAny', gained),
      lost: ({ lost }) => this.membership('loses', 'losesAny', lost),
    });
  }

  /** Several fields stand in brackets: behind a list of values each might be one more of them. */
  private changed(ids: readonly string[]): Piece[] {
    const { saying } = this;
    const fields = ids.map((id) => this.field(id));
    const said = [...saying.joined(fields, 'or'), ...saying.word('happens')];
    return ids.length > 1 ? saying.bracketed(said) : said;
  }

  private inTense(state: StateTest, tense: Tense): Piece[] | null {
    if (isKind(state, 'test')) return this.test(state, tense);
    return isKind(state, 'through') ? this.linked(state, tense) : null;
  }

  /** *Status goes from Requested or Agreed to On view*. */
  private turn(node: Condition): Piece[] {
    const turn = fromTo(node);
    if (!turn) return [];
    const field = this.fieldOf(turn.was.field);
    return [
      ...this.field(turn.was.field),
      ...this.saying.word('goesFrom'),
      ...this.values(turn.was.value as Value[], field, 'or'),
      ...this.saying.word('to'),
      ...this.value(turn.became.value as Value, field),
    ];
  }

  private fieldOf(id: string): Field | undefined {
    const [source] = this.sources;
    return source && fieldOf(source, id);
  }

  field(id: string): Piece[] {
    return this.saying.name(id, [fieldChoices(this.sources)]);
  }

  private test(test: FieldTest, tense: Tense): Piece[] {
    return [
      ...this.field(test.field),
      ...this.saying.op(test.op, tense),
      ...this.operand(test),
      ...(test.matchCase ? this.saying.word('matchCase') : []),
    ];
  }

  private operand(test: FieldTest): Piece[] {
    const { op, value } = test;
    if (value === undefined) return [];
    const other = otherField(test);
    if (other !== null) {
      const type = this.fieldOf(test.field)?.type;
      const same = fieldChoices(this.sources, (field) => field.type === type);
      return [...this.saying.word('the'), ...this.saying.name(other, [same])];
    }
    if (op === 'withinNext' || op === 'withinLast') return this.saying.span(String(value));
    const field = this.fieldOf(test.field);
    if (!Array.isArray(value)) return this.value(value as Value, field);
    return this.values(value as Value[], field, op === 'between' || op === 'includesAll' ? 'and' : 'or');
  }

  private values(values: readonly Value[], field: Field | undefined, last: 'and' | 'or'): Piece[] {
    if (values.length === 0) return this.saying.word('nothing');
    return this.saying.row(
      values.map((value) => this.value(value, field)),
      last,
    );
  }

  value(value: Value, field: Field | undefined): Piece[] {
    const { saying } = this;
    if (field && isTextType(field.type)) return saying.text(String(value));
    if (typeof value === 'boolean') return saying.word(value ? 'yes' : 'no');
    if (isMoney(value)) return saying.money(value);
    switch (field?.type) {
      case 'number':
      case 'money':
        return saying.number(value as number | string);
      case 'date':
        return saying.day(String(value));
      case 'dateTime':
        return /T/.test(String(value)) ? saying.plain(String(value)) : saying.day(String(value));
      default:
        return saying.name(String(value), field ? valueChoices(field, saying.known) : []);
    }
  }

  private movement(verb: Keyword, { field, by, percent }: Movement): Piece[] {
    const { saying } = this;
    const amount = by === undefined ? [] : [/^-?P/.test(String(by)) ? saying.span(String(by)) : saying.number(by)];
    const share = percent === undefined ? [] : [[...saying.number(percent), ...saying.word('percent')]];
    const parts = [...amount, ...share];
    const least = parts.length > 0 ? [...saying.word('by'), ...saying.joined(parts, 'and')] : [];
    return [...this.field(field), ...saying.word(verb), ...least];
  }

  private membership(bare: Keyword, some: Keyword, { field, any }: Membership): Piece[] {
    if (!any) return [...this.field(field), ...this.saying.word(bare)];
    return [...this.field(field), ...this.saying.word(some), ...this.values(any, this.fieldOf(field), 'or')];
  }

  private linked({ through, holds, every }: LinkedTest, tense: Tense): Piece[] {
    const target = this.saying.known.sources.get(this.fieldOf(through)?.to ?? '');
    const there = new ConditionSaying(this.saying, target ? [target] : []);
    const [some, all] = LINKED[tense];
    return [
      ...this.field(through),
      ...this.saying.word(every ? all : some),
      ...this.saying.bracketed(there.say(holds)),
    ];
  }
}
