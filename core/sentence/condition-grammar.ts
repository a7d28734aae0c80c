import type { Condition, FieldTest, LinkedTest, Movement, Operand, StateTest } from '../rules/index.ts';
import { COMPARES_FIELDS, type Operator, operatorsOf, visitCondition } from '../rules/index.ts';
import { type Field, isLinkType, isSetType, isTextType, optionName, type Source, type Value } from '../values/index.ts';
import { small, type Stretch } from './cut.ts';
import { fieldChoices, valueChoices } from './known.ts';
import { plainNumber, quoted } from './plain.ts';
import { Figure, keywordOf, Op, Quoted, type Tense, Unit, WORD } from './tokens.ts';
import { AFTER_FIELD, type MaybeField, ValueGrammar } from './value-grammar.ts';
import { type Keyword, PHRASES } from './words/index.ts';

/** What a test of one value is of several. */
const MANY_OF: Partial<Record<Operator, Operator>> = { is: 'oneOf', isNot: 'noneOf' };

const LINKED: Partial<Record<Keyword, { tense: Tense; every: boolean }>> = {
  linkedIs: { tense: 'is', every: false },
  linkedWas: { tense: 'was', every: false },
  linkedBecomes: { tense: 'becomes', every: false },
  everyIs: { tense: 'is', every: true },
  everyWas: { tense: 'was', every: true },
  everyBecomes: { tense: 'becomes', every: true },
};

/** A test as it is asked in its tense. */
function inTense(test: StateTest, tense: Tense): Condition {
  if (tense === 'was') return { was: test };
  return tense === 'becomes' ? { became: test } : test;
}

/** Whether a condition asks of a state alone, not of what a change did. */
const isState = (node: Condition): node is StateTest =>
  visitCondition<boolean>(node, {
    test: () => true,
    through: () => true,
    all: ({ all }) => all.every(isState),
    any: ({ any }) => any.every(isState),
    none: ({ none }) => none.every(isState),
    was: () => false,
    became: () => false,
    ceased: () => false,
    changed: () => false,
    rose: () => false,
    fell: () => false,
    gained: () => false,
    lost: () => false,
  });

/** What follows an operator: nothing, a span of time, several values, two ends, or one value or field. */
export function operandOf(op: FieldTest['op'], field: MaybeField): 'none' | 'span' | 'list' | 'range' | 'one' {
  switch (op) {
    case 'empty':
    case 'filled':
      return 'none';
    case 'withinNext':
    case 'withinLast':
      return 'span';
    case 'between':
      return 'range';
    case 'oneOf':
    case 'noneOf':
    case 'includesAny':
    case 'includesAll':
      return 'list';
    default:
      return field && isSetType(field.type) ? 'list' : 'one';
  }
}

/** The grammar of conditions: tests of fields, joined and nested; it makes them as it reads. */
export class ConditionGrammar extends ValueGrammar {
  /** Whether another value follows by *or* where one was asked for: *is Agreed or On view*. */
  private hasOthers(field: MaybeField, op: Operator): boolean {
    if (field === null || !MANY_OF[op] || !operatorsOf(field.type).includes(MANY_OF[op])) return false;
    const isValue = isTextType(field.type) ? this.isNext(2, [Quoted]) : this.namesValue(2, field);
    return this.isNext(1, [WORD.or]) && isValue && !this.isNext(3, AFTER_FIELD);
  }

  /** *is empty* says two things of a field that has an option of that name. */
  private markIfOption(token: Stretch, field: MaybeField, op: Operator): void {
    if (field === null || (op !== 'empty' && op !== 'filled')) return;
    const option = (field.options ?? [])
      .map((one) => optionName(field, one))
      .find((name) => small(token.image).endsWith(` ${small(name)}`));
    if (option === undefined) return;
    const without = token.image.slice(0, -option.length);
    const bare = PHRASES[this.state.language][op === 'empty' ? 'noValue' : 'hasValue'][0] ?? '';
    this.state.mark(token, 'severalMeanings', [`${without}${quoted(option)}`, bare]);
  }

  /** What an operator compares with; `undefined` where it is not understood. */
  private operand = this.RULE('operand', (field: MaybeField, op: FieldTest['op'], sources: readonly Source[]) => {
    const takes = this.ACTION(() => operandOf(op, field));
    const isSameType = (other: Field) => other.type === field?.type;
    this.ACTION(() => {
      this.state.expects = { field, op };
      // Where the value is to tell the field, whatever may stand in one is wanted already.
      if (field === null) return;
      const values = valueChoices(field, this.state.known);
      const others = fieldChoices(sources, (other) => isSameType(other) && other !== field);
      this.state.wanted = COMPARES_FIELDS.has(op) ? [...values, others] : values;
    });
    const isComparing = () => takes !== 'none' && takes !== 'span' && COMPARES_FIELDS.has(op);
    return this.OR<Operand | undefined>([
      {
        GATE: () => isComparing(),
        ALT: () => {
          this.CONSUME(WORD.the);
          const other = this.SUBRULE(this.fieldName, { ARGS: [sources, isSameType] });
          return this.ACTION(() => (other ? { field: other.id } : undefined));
        },
      },
      {
        GATE: () => isComparing() && this.namesField(field, sources),
        ALT: () => {
          const other = this.SUBRULE2(this.fieldName, { ARGS: [sources, isSameType] });
          return this.ACTION(() => (other ? { field: other.id } : undefined));
        },
        IGNORE_AMBIGUITIES: true,
      },
      {
        GATE: () => takes === 'span',
        ALT: () => {
          const span = this.SUBRULE(this.span);
          return this.ACTION(() => span ?? undefined);
        },
        IGNORE_AMBIGUITIES: true,
      },
      {
        GATE: () => takes === 'list',
        ALT: () => {
          const values = this.SUBRULE(this.values, { ARGS: [field] });
          return this.ACTION(() => {
            if (values === null) return undefined;
            // A set is asked of one member as of several.
            const isOne = field !== null && isSetType(field.type) && values.length === 1;
            return (isOne ? values[0] : values) as Operand;
          });
        },
        IGNORE_AMBIGUITIES: true,
      },
      {
        GATE: () => takes === 'range',
        ALT: () => {
          const low = this.SUBRULE(this.value, { ARGS: [field] });
          this.CONSUME(WORD.and);
          const high = this.SUBRULE2(this.value, { ARGS: [field] });
          return this.ACTION(() => (low === undefined || high === undefined ? undefined : ([low, high] as Value[])));
        },
        IGNORE_AMBIGUITIES: true,
      },
      {
        GATE: () => takes === 'one',
        ALT: () => this.SUBRULE3(this.value, { ARGS: [field] }),
        IGNORE_AMBIGUITIES: true,
      },
      { GATE: () => takes === 'none', ALT: () => null },
    ]);
  });

  /** Whether the next name is another field, and no value of this one. */
  private namesField(field: MaybeField, sources: readonly Source[]): boolean {
    const token = this.next(1);
    if (field === null || this.isNext(1, [Quoted])) return false;
    if (this.state.means(token, valueChoices(field, this.state.known))) return false;
    return this.state.means(token, [fieldChoices(sources, (other) => other.type === field.type)]);
  }

  /** One test, by an operator: *is above 50*. */
  protected tested = this.RULE('tested', (field: MaybeField, sources: readonly Source[]): Condition | null => {
    const token = this.CONSUME(Op) as Stretch;
    const said = this.ACTION(() => token.payload.op as { op: FieldTest['op']; tense: Tense });
    const op = this.ACTION(() => said.op);
    this.ACTION(() => this.markIfOption(token, field, op));
    const first = this.SUBRULE(this.operand, { ARGS: [field, op, sources] });
    const others: (Value | undefined)[] = [];
    this.MANY({
      GATE: () => this.hasOthers(field, op),
      DEF: () => {
        this.CONSUME(WORD.or);
        const more = this.SUBRULE(this.value, { ARGS: [field] });
        this.ACTION(() => others.push(more));
      },
    });
    const exact = { is: false };
    this.OPTION(() => {
      this.CONSUME(WORD.matchCase);
      this.ACTION(() => {
        exact.is = true;
      });
    });
    return this.ACTION(() => {
      if (field === null || first === undefined || others.includes(undefined)) return null;
      const value = others.length === 0 ? first : ([first, ...others] as Value[]);
      const test: FieldTest = {
        field: field.id,
        op: others.length === 0 ? op : (MANY_OF[op] ?? op),
        ...(operandOf(op, field) === 'none' ? {} : { value }),
        ...(exact.is ? { matchCase: true } : {}),
      };
      return inTense(test, said.tense);
    });
  });

  /** What is said of a field after its name. */
  protected ofField = this.RULE('ofField', (field: MaybeField, sources: readonly Source[]): Condition | null => {
    this.ACTION(() => {
      this.state.expects = { field, op: null };
      if (field === null) this.state.wanted = [];
    });
    return this.OR<Condition | null>([
      { ALT: () => this.SUBRULE(this.tested, { ARGS: [field, sources] }) },
      {
        ALT: () => {
          const fields: MaybeField[] = [];
          this.ACTION(() => fields.push(field));
          this.MANY(() => {
            this.CONSUME(WORD.or);
            const more = this.SUBRULE(this.fieldName, { ARGS: [sources] });
            this.ACTION(() => fields.push(more));
          });
          this.CONSUME(WORD.happens);
          return this.ACTION(() => {
            const ids = fields.flatMap((one) => one?.id ?? []);
            if (ids.length < fields.length) return null;
            return { changed: ids.length === 1 ? (ids[0] as string) : ids };
          });
        },
      },
      { ALT: () => this.SUBRULE(this.fromTo, { ARGS: [field] }) },
      { ALT: () => this.SUBRULE(this.movement, { ARGS: [field] }) },
      { ALT: () => this.SUBRULE(this.membership, { ARGS: [field] }) },
      { ALT: () => this.SUBRULE(this.linked, { ARGS: [field] }) },
    ]);
  });

  protected fromTo = this.RULE('fromTo', (field: MaybeField): Condition | null => {
    this.CONSUME(WORD.goesFrom);
    this.ACTION(() => this.wantValues(field));
    const from = this.SUBRULE(this.values, { ARGS: [field] });
    this.CONSUME(WORD.to);
    const to = this.SUBRULE(this.value, { ARGS: [field] });
    return this.ACTION(() => {
      if (field === null || from === null || to === undefined) return null;
      const was: FieldTest = { field: field.id, op: 'oneOf', value: from };
      return { all: [{ was }, { became: { field: field.id, op: 'is', value: to } }] };
    });
  });

  private movement = this.RULE('movement', (field: MaybeField): Condition | null => {
    const token = this.OR<Stretch>([
      { ALT: () => this.CONSUME(WORD.rises) as Stretch },
      { ALT: () => this.CONSUME(WORD.falls) as Stretch },
    ]);
    const moved: Omit<Movement, 'field'> = {};
    this.OPTION(() => {
      this.CONSUME(WORD.by);
      this.SUBRULE(this.amount, { ARGS: [moved] });
      this.OPTION2({
        GATE: () => this.isNext(2, [Figure]) && this.isNext(3, [WORD.percent]),
        DEF: () => {
          this.CONSUME(WORD.and);
          this.SUBRULE2(this.amount, { ARGS: [moved] });
        },
      });
      this.OPTION3(() => this.CONSUME(WORD.orMore));
    });
    return this.ACTION(() => {
      if (field === null) return null;
      const movement = { field: field.id, ...moved };
      return keywordOf(token.tokenType) === 'rises' ? { rose: movement } : { fell: movement };
    });
  });

  private amount = this.RULE('amount', (moved: Omit<Movement, 'field'>) => {
    this.OR([
      {
        GATE: () => this.isNext(2, [Unit]),
        ALT: () => {
          const span = this.SUBRULE(this.span);
          this.ACTION(() => {
            if (span !== null) moved.by = span;
          });
        },
      },
      {
        ALT: () => {
          const figure = this.CONSUME(Figure) as Stretch;
          const share = { is: false };
          this.OPTION(() => {
            this.CONSUME(WORD.percent);
            this.ACTION(() => {
              share.is = true;
            });
          });
          this.ACTION(() => {
            moved[share.is ? 'percent' : 'by'] = plainNumber(figure.payload.number ?? '0');
          });
        },
        IGNORE_AMBIGUITIES: true,
      },
    ]);
  });

  private membership = this.RULE('membership', (field: MaybeField): Condition | null => {
    const some = (token: Stretch, any: Value[] | null | undefined): Condition | null => {
      if (field === null || any === null) return null;
      const of = { field: field.id, ...(any ? { any: any.map(String) } : {}) };
      return /^gains/.test(keywordOf(token.tokenType) ?? '') ? { gained: of } : { lost: of };
    };
    return this.OR<Condition | null>([
      {
        ALT: () => {
          const token = this.CONSUME(WORD.gains) as Stretch;
          return this.ACTION(() => some(token, undefined));
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.loses) as Stretch;
          return this.ACTION(() => some(token, undefined));
        },
      },
      {
        ALT: () => {
          const token = this.OR2<Stretch>([
            { ALT: () => this.CONSUME(WORD.gainsAny) as Stretch },
            { ALT: () => this.CONSUME(WORD.losesAny) as Stretch },
          ]);
          this.ACTION(() => this.wantValues(field));
          const any = this.SUBRULE(this.values, { ARGS: [field] });
          return this.ACTION(() => some(token, any));
        },
      },
    ]);
  });

  /** What holds of the items that a link leads to. */
  private linked = this.RULE('linked', (field: MaybeField): Condition | null => {
    const token = this.OR<Stretch>([
      { ALT: () => this.CONSUME(WORD.linkedIs) as Stretch },
      { ALT: () => this.CONSUME(WORD.linkedWas) as Stretch },
      { ALT: () => this.CONSUME(WORD.linkedBecomes) as Stretch },
      { ALT: () => this.CONSUME(WORD.everyIs) as Stretch },
      { ALT: () => this.CONSUME(WORD.everyWas) as Stretch },
      { ALT: () => this.CONSUME(WORD.everyBecomes) as Stretch },
    ]);
    const target = this.ACTION(() => {
      const source = field && isLinkType(field.type) ? this.state.known.sources.get(field.to ?? '') : undefined;
      return source ? [source] : [];
    });
    const holds = this.SUBRULE(this.stateTerm, { ARGS: [target] });
    return this.ACTION(() => {
      const said = LINKED[keywordOf(token.tokenType) ?? 'linkedIs'];
      if (field === null || holds === null || !said) return null;
      const test: LinkedTest = { through: field.id, holds, ...(said.every ? { every: true } : {}) };
      return inTense(test, said.tense);
    });
  });

  /** A test of a state alone. */
  protected stateTerm = this.RULE('stateTerm', (sources: readonly Source[]): StateTest | null => {
    const from = this.ACTION(() => this.next(1));
    const node = this.SUBRULE(this.term, { ARGS: [sources] });
    return this.ACTION(() => this.asState(node, from));
  });

  private asState(node: Condition | null, from: Stretch): StateTest | null {
    if (node === null || isState(node)) return node as StateTest | null;
    this.state.mark(
      { startOffset: from.startOffset, endOffset: this.next(0).endOffset ?? from.startOffset },
      'noState',
    );
    return null;
  }

  private term = this.RULE('term', (sources: readonly Source[]): Condition | null => {
    const turned = (key: 'was' | 'became' | 'ceased', state: StateTest | null): Condition | null =>
      state === null ? null : ({ [key]: state } as unknown as Condition);
    this.ACTION(() => {
      this.state.wanted = [fieldChoices(sources)];
      this.state.expects = { field: null, op: null };
    });
    const first = this.ACTION(() => this.next(1));
    const made = this.OR<Condition | null>([
      {
        ALT: () => {
          this.CONSUME(WORD.open);
          const inside = this.SUBRULE(this.condition, { ARGS: [sources] });
          this.CONSUME(WORD.close);
          return inside;
        },
      },
      { ALT: () => this.SUBRULE(this.none, { ARGS: [sources] }) },
      {
        ALT: () => {
          this.CONSUME(WORD.anything);
          return this.ACTION((): Condition => ({ all: [] }));
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.never);
          return this.ACTION((): Condition => ({ any: [] }));
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.anyField);
          return this.ACTION((): Condition => ({ changed: '*' }));
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.wasSo);
          const state = this.SUBRULE(this.stateTerm, { ARGS: [sources] });
          return this.ACTION(() => turned('was', state));
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.comesToBe);
          const state = this.SUBRULE2(this.stateTerm, { ARGS: [sources] });
          return this.ACTION(() => turned('became', state));
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.ceases);
          const state = this.SUBRULE3(this.stateTerm, { ARGS: [sources] });
          return this.ACTION(() => turned('ceased', state));
        },
      },
      {
        ALT: () => {
          this.OPTION(() => this.CONSUME(WORD.the));
          const field = this.SUBRULE(this.fieldName, { ARGS: [sources] });
          return this.SUBRULE(this.ofField, { ARGS: [field, sources] });
        },
      },
    ]);
    this.ACTION(() => this.state.end('anything', first, this.next(0)));
    return made;
  });

  private none = this.RULE('none', (sources: readonly Source[]): Condition | null => {
    const parts: (Condition | null)[] = [];
    const add = (part: Condition | null) => this.ACTION(() => parts.push(part));
    this.CONSUME(WORD.noneOf);
    this.CONSUME(WORD.open);
    this.OPTION(() => {
      add(this.SUBRULE(this.condition, { ARGS: [sources] }));
      this.MANY(() => {
        this.CONSUME(WORD.semicolon);
        add(this.SUBRULE2(this.condition, { ARGS: [sources] }));
      });
    });
    this.CONSUME(WORD.close);
    return this.ACTION(() => (parts.includes(null) ? null : { none: parts as Condition[] }));
  });

  /** Tests joined by *and*, or by *or*; both together need brackets. */
  protected condition = this.RULE('condition', (sources: readonly Source[]): Condition | null => {
    const parts: (Condition | null)[] = [];
    const add = (part: Condition | null) => this.ACTION(() => parts.push(part));
    const joined = { by: 'all' as 'all' | 'any' };
    add(this.SUBRULE(this.term, { ARGS: [sources] }));
    this.OPTION(() =>
      this.OR([
        {
          ALT: () =>
            this.AT_LEAST_ONE(() => {
              this.CONSUME(WORD.and);
              add(this.SUBRULE2(this.term, { ARGS: [sources] }));
            }),
        },
        {
          ALT: () => {
            this.AT_LEAST_ONE2(() => {
              this.CONSUME(WORD.or);
              add(this.SUBRULE3(this.term, { ARGS: [sources] }));
            });
            this.ACTION(() => {
              joined.by = 'any';
            });
          },
        },
      ]),
    );
    return this.ACTION((): Condition | null => {
      if (parts.includes(null)) return null;
      const known = parts as Condition[];
      if (known.length === 1) return known[0] as Condition;
      return joined.by === 'all' ? { all: known } : { any: known };
    });
  });

  /** A condition of a state alone. */
  protected stateCondition = this.RULE('stateCondition', (sources: readonly Source[]): StateTest | null => {
    const from = this.ACTION(() => this.next(1));
    const node = this.SUBRULE(this.condition, { ARGS: [sources] });
    return this.ACTION(() => this.asState(node, from));
  });
}
