import { EmbeddedActionsParser, EOF, type TokenType } from 'chevrotain';
import { isDuration } from '../time/index.ts';
import {
  type Field,
  fieldOf,
  isFigureType,
  isTemporalType,
  isTextType,
  type Source,
  type Value,
} from '../values/index.ts';
import type { Stretch } from './cut.ts';
import { type Choices, fieldChoices, valueChoices } from './known.ts';
import { plainNumber } from './plain.ts';
import type { ReadingState } from './reading-state.ts';
import { AnyName, Day, Figure, Instant, keywordOf, Op, Quoted, Sum, TOKENS, Unit, WORD } from './tokens.ts';
import type { Keyword } from './words/index.ts';

/** A field as a sentence names it, or none where what it names is none. */
export type MaybeField = Field | null;

/** What begins what is said of a field, after its name. */
export const AFTER_FIELD: TokenType[] = [
  Op,
  WORD.happens,
  WORD.goesFrom,
  WORD.rises,
  WORD.falls,
  WORD.gains,
  WORD.gainsAny,
  WORD.loses,
  WORD.losesAny,
  WORD.linkedIs,
  WORD.linkedWas,
  WORD.linkedBecomes,
  WORD.everyIs,
  WORD.everyWas,
  WORD.everyBecomes,
];
const VALUES: TokenType[] = [AnyName, Figure, Sum, Day, Instant, WORD.yes, WORD.no];

const JOINERS: TokenType[] = [WORD.or, WORD.and, WORD.comma];

const UNIT_LETTERS: Partial<Record<Keyword, string>> = {
  month: 'M',
  week: 'W',
  day: 'D',
  hour: 'H',
  minute: 'M',
  second: 'S',
};
const EXACT: ReadonlySet<string> = new Set(['hour', 'minute', 'second']);

/** The grammar of names, spans of time and values, each as its field has it. */
export class ValueGrammar extends EmbeddedActionsParser {
  state!: ReadingState;

  constructor() {
    super(TOKENS, { maxLookahead: 3, recoveryEnabled: false });
  }

  protected next(at: number): Stretch {
    return this.LA(at) as Stretch;
  }

  protected isNext(at: number, types: readonly TokenType[]): boolean {
    const { tokenType } = this.LA(at);
    return types.some((type) => type === tokenType || (tokenType.CATEGORIES ?? []).includes(type));
  }

  /** A name, as one of these things. */
  protected name = this.RULE('name', (choices: readonly Choices[]) => {
    this.ACTION(() => {
      this.state.wanted = [...choices];
    });
    const token = this.CONSUME(AnyName) as Stretch;
    return this.ACTION(() => this.state.resolve(token, choices));
  });

  protected fieldName = this.RULE('fieldName', (sources: readonly Source[], fits?: (field: Field) => boolean) => {
    const choices = this.ACTION(() => [fieldChoices(sources, fits)]);
    const found = this.SUBRULE(this.name, { ARGS: [choices] });
    return this.ACTION((): MaybeField => {
      const [first] = sources;
      return (found && first && fieldOf(first, found.id)) ?? null;
    });
  });

  /** A span of time, as an ISO 8601 duration; `null` where its parts stand in no order. */
  protected span = this.RULE('span', (): string | null => {
    const parts: { figure: Stretch | null; unit: Stretch }[] = [];
    const one = { figure: null as Stretch | null };
    this.OR([
      { ALT: () => this.CONSUME(WORD.a) },
      {
        ALT: () => {
          const figure = this.CONSUME(Figure) as Stretch;
          this.ACTION(() => {
            one.figure = figure;
          });
        },
      },
    ]);
    const first = this.CONSUME(Unit) as Stretch;
    this.ACTION(() => parts.push({ figure: one.figure, unit: first }));
    this.MANY({
      GATE: () => this.isNext(2, [Unit]),
      DEF: () => {
        const figure = this.CONSUME2(Figure) as Stretch;
        const unit = this.CONSUME2(Unit) as Stretch;
        this.ACTION(() => parts.push({ figure, unit }));
      },
    });
    return this.ACTION(() => {
      const text = durationOf(
        parts.map(({ figure, unit }) => [figure?.payload.number ?? '1', keywordOf(unit.tokenType) ?? 'day']),
      );
      const last = parts.at(-1)?.unit ?? first;
      if (text === null)
        this.state.mark({ startOffset: (one.figure ?? first).startOffset, endOffset: last.endOffset ?? 0 }, 'noSpan');
      return text;
    });
  });

  /** One value of a field, of its type. */
  protected value = this.RULE('value', (field: MaybeField): Value | undefined => {
    const choices = this.ACTION(() => (field ? valueChoices(field, this.state.known) : []));
    this.ACTION(() => {
      const { wanted, expects } = this.state;
      if (field !== null) this.state.wanted = this.isNext(0, JOINERS) ? [...choices, ...wanted] : choices;
      this.state.expects = { field, op: expects.op };
    });
    const is = (fits: (type: Field['type']) => boolean) => () => field !== null && fits(field.type);
    return this.OR<Value | undefined>([
      {
        GATE: () => choices.length > 0,
        ALT: () => {
          const found = this.SUBRULE(this.name, { ARGS: [choices] });
          return this.ACTION(() => found?.id);
        },
      },
      {
        GATE: is(isTextType),
        ALT: () => {
          const token = this.CONSUME(Quoted) as Stretch;
          return this.ACTION(() => token.payload.text ?? '');
        },
      },
      {
        GATE: is(isFigureType),
        ALT: () => {
          const token = this.CONSUME(Figure) as Stretch;
          return this.ACTION(() => {
            if (field?.type === 'money') this.state.mark(token, 'needsCurrency', [`${token.image} EUR`]);
            return field?.type === 'money' ? undefined : plainNumber(token.payload.number ?? '0');
          });
        },
      },
      {
        GATE: is((type) => type === 'money'),
        ALT: () => {
          const token = this.CONSUME(Sum) as Stretch;
          return this.ACTION(() => token.payload.money);
        },
      },
      {
        GATE: is(isTemporalType),
        ALT: () => {
          const token = this.CONSUME(Day) as Stretch;
          return this.ACTION(() => token.payload.value);
        },
      },
      {
        GATE: is((type) => type === 'dateTime'),
        ALT: () => {
          const token = this.CONSUME(Instant) as Stretch;
          return this.ACTION(() => token.payload.value);
        },
      },
      {
        GATE: is((type) => type === 'boolean'),
        ALT: () => {
          this.CONSUME(WORD.yes);
          return true;
        },
      },
      {
        GATE: is((type) => type === 'boolean'),
        ALT: () => {
          this.CONSUME(WORD.no);
          return false;
        },
      },
    ]);
  });

  /** Says that values of a field may come next; where none is meant yet, whatever is wanted already. */
  protected wantValues(field: MaybeField): void {
    if (field !== null) this.state.wanted = valueChoices(field, this.state.known);
  }

  /** Values in a row, of which each is of the field; none of them where one is not understood. */
  protected values = this.RULE('values', (field: MaybeField): Value[] | null => {
    const found: (Value | undefined)[] = [];
    const add = (value: Value | undefined) => this.ACTION(() => found.push(value));
    this.OR([
      { ALT: () => this.CONSUME(WORD.nothing) },
      {
        ALT: () => {
          add(this.SUBRULE(this.value, { ARGS: [field] }));
          this.MANY({
            GATE: () => this.goesOn(field),
            DEF: () => {
              this.OR2([
                { ALT: () => this.CONSUME(WORD.or) },
                { ALT: () => this.CONSUME(WORD.and) },
                { ALT: () => this.CONSUME(WORD.comma) },
              ]);
              add(this.SUBRULE2(this.value, { ARGS: [field] }));
            },
          });
        },
      },
    ]);
    return this.ACTION(() => (found.includes(undefined) ? null : (found as Value[])));
  });

  /** Whether what stands after a joiner is one more value, and not the beginning of another test or clause. */
  private goesOn(field: MaybeField): boolean {
    // Where the text ends here, either may come.
    this.state.wanted = this.isNext(2, [EOF]) ? [fieldChoices(this.state.sources())] : [];
    if (this.isNext(2, [EOF])) return true;
    if (!this.isNext(2, VALUES) || this.isNext(3, AFTER_FIELD)) return false;
    if (this.isNext(2, [Figure]) && this.isNext(3, [WORD.burst])) return false;
    if (field === null || !this.isNext(2, [AnyName])) return true;
    if (isTextType(field.type)) return this.isNext(2, [Quoted]);
    const isField = this.state.means(this.next(2), [fieldChoices(this.state.sources())]);
    return this.namesValue(2, field) || !isField;
  }

  protected namesValue(at: number, field: Field): boolean {
    return this.isNext(at, [AnyName]) && this.state.means(this.next(at), valueChoices(field, this.state.known));
  }
}

/** A duration of counts and units, each smaller than the one before; `null` where they are not. */
function durationOf(parts: readonly (readonly [string, Keyword])[]): string | null {
  const order = ['month', 'week', 'day', 'hour', 'minute', 'second'];
  const isOrdered = parts.every(
    ([, unit], at) => at === 0 || order.indexOf(unit) > order.indexOf(parts[at - 1]?.[1] ?? ''),
  );
  const isBack = parts[0]?.[0].startsWith('-') ?? false;
  const said = (exact: boolean) =>
    parts
      .filter(([, unit]) => EXACT.has(unit) === exact)
      .map(([count, unit]) => `${count.replace(/^-/, '')}${UNIT_LETTERS[unit]}`)
      .join('');
  const [civil, exact] = [said(false), said(true)];
  const text = `${isBack ? '-' : ''}P${civil}${exact ? `T${exact}` : ''}`;
  return isOrdered && isDuration(text) ? text : null;
}
