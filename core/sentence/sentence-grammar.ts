import { EOF } from 'chevrotain';
import type { Selector } from '../people/index.ts';
import type { Condition, Repeat, Rule, StateTest, Tally } from '../rules/index.ts';
import type { Duration, Schedule } from '../time/index.ts';
import { type ChangeKind, type Field, isFigureType, isMoney, isTemporalType, type Value } from '../values/index.ts';
import { LookAtGrammar } from './look-at-grammar.ts';
import type { Stretch } from './cut.ts';
import { fieldChoices, sourceChoices } from './known.ts';
import { quoted } from './plain.ts';
import { Clock, Figure, keywordOf, Kind, Quoted, Sum, WORD } from './tokens.ts';

type Parts = Partial<Pick<Rule, 'when' | 'due' | 'idle' | 'tally' | 'report'>>;

const MARKS: Record<string, Tally['becomes']['op']> = {
  above: 'above',
  atLeast: 'atLeast',
  under: 'below',
  atMost: 'atMost',
};

/** The grammar of a whole rule in one sentence: who hears, of what, when, and how. What is understood is set as it is read. */
export class SentenceGrammar extends LookAtGrammar {
  constructor() {
    super();
    this.performSelfAnalysis();
  }

  sentence = this.RULE('sentence', () => {
    const to = this.OR<Selector[] | null>([
      {
        ALT: () => {
          this.CONSUME(WORD.tell);
          return this.SUBRULE(this.people);
        },
      },
      { ALT: () => this.SUBRULE(this.meAndOthers) },
    ]);
    this.ACTION(() => {
      if (to) this.set({ to });
    });
    this.OPTION(() => this.CONSUME(WORD.comma));
    this.SUBRULE(this.fromOccasion);
  });

  private meAndOthers = this.RULE('meAndOthers', (): Selector[] | null => {
    const me: Selector = { person: this.myself() };
    this.CONSUME(WORD.tellMe);
    const found = { others: [] as Selector[] | null };
    this.OPTION(() => {
      this.OR([{ ALT: () => this.CONSUME(WORD.and) }, { ALT: () => this.CONSUME(WORD.comma) }]);
      const others = this.SUBRULE(this.people);
      this.ACTION(() => {
        found.others = others;
      });
    });
    return this.ACTION(() => found.others && [me, ...found.others]);
  });

  /** From what brings it about to the end; also where what stands before is not understood. */
  fromOccasion = this.RULE('fromOccasion', () => {
    this.ACTION(() => this.state.begin('fromOccasion', this.next(1)));
    this.SUBRULE(this.occasion);
    this.SUBRULE(this.clauses);
  });

  private becomes(token: Stretch, parts: Parts): void {
    this.state.say('occasion', token);
    this.set({ when: null, due: null, idle: null, tally: null, report: null, ...parts });
  }

  private occasion = this.RULE('occasion', () =>
    this.OR([
      { ALT: () => this.SUBRULE(this.whenItChanges) },
      { ALT: () => this.SUBRULE(this.whenNothingDoes) },
      { ALT: () => this.SUBRULE(this.whenTallied) },
      { ALT: () => this.SUBRULE(this.reported) },
      { ALT: () => this.SUBRULE(this.whenDue) },
    ]),
  );

  private whenItChanges = this.RULE('whenItChanges', () => {
    const token = this.CONSUME(WORD.when) as Stretch;
    this.ACTION(() => this.becomes(token, { when: { kinds: [], if: { all: [] }, burst: null } }));
    this.OR([
      { GATE: () => this.isFieldFirst(), ALT: () => this.SUBRULE(this.fieldFirst), IGNORE_AMBIGUITIES: true },
      {
        ALT: () => {
          this.SUBRULE(this.lookAt);
          this.OPTION(() => this.SUBRULE(this.happening));
        },
      },
    ]);
  });

  /** Whether a field stands next, and no source: *when the Status of a loan …*. */
  private isFieldFirst(): boolean {
    const name = this.next(this.isNext(1, [WORD.the]) ? 2 : 1);
    const { state } = this;
    return !state.means(name, sourceChoices(state.known)) && state.means(name, [fieldChoices(state.sources())]);
  }

  /** *when the Status of a loan becomes On view*; where its source is known, *when Insured value is above Cover limit*. */
  private fieldFirst = this.RULE('fieldFirst', () => {
    this.OPTION(() => this.CONSUME(WORD.the));
    const sources = this.ACTION(() => this.state.sources());
    const node = this.OR<Condition | null>([
      {
        GATE: () => this.isNext(2, [WORD.of]),
        ALT: () => {
          const field = this.SUBRULE(this.fieldName, { ARGS: [sources] });
          this.CONSUME(WORD.of);
          this.SUBRULE(this.lookAt);
          return this.SUBRULE(this.ofField, { ARGS: [field, sources] });
        },
        IGNORE_AMBIGUITIES: true,
      },
      { ALT: () => this.SUBRULE(this.condition, { ARGS: [sources] }) },
    ]);
    this.ACTION(() => {
      if (node) this.when({ if: node });
    });
  });

  /** What happens to it: of what kind the change is, and what it did. */
  private happening = this.RULE('happening', () => {
    this.OR([
      {
        ALT: () => {
          const kinds = this.SUBRULE(this.kinds);
          this.ACTION(() => this.when({ kinds }));
          this.OPTION(() => {
            this.CONSUME(WORD.soThat);
            this.SUBRULE(this.whatItDid);
          });
        },
      },
      {
        ALT: () => {
          this.OR2([
            { ALT: () => this.CONSUME(WORD.changesSo) },
            { ALT: () => this.CONSUME2(WORD.soThat) },
            { ALT: () => this.CONSUME(WORD.colon) },
          ]);
          this.SUBRULE2(this.whatItDid);
        },
      },
      {
        // *when a loan’s Status becomes On view*
        ALT: () => {
          this.CONSUME(WORD.possessive);
          this.SUBRULE3(this.whatItDid);
        },
      },
      { ALT: () => this.CONSUME(WORD.happens) },
      { ALT: () => this.SUBRULE(this.turnsInto) },
    ]);
  });

  private whatItDid = this.RULE('whatItDid', () => {
    const sources = this.ACTION(() => this.state.sources());
    const node = this.SUBRULE(this.condition, { ARGS: [sources] });
    this.ACTION(() => {
      if (node) this.when({ if: node });
    });
  });

  /** *goes from Agreed to On view*, *becomes On view*: the value tells which field is meant. */
  private turnsInto = this.RULE('turnsInto', () => {
    const sources = this.ACTION(() => this.state.sources());
    const field = this.ACTION(() => this.fieldOfValue(this.next(2)));
    const node = this.OR<Condition | null>([
      { ALT: () => this.SUBRULE(this.fromTo, { ARGS: [field] }) },
      { ALT: () => this.SUBRULE(this.tested, { ARGS: [field, sources] }) },
    ]);
    this.ACTION(() => {
      if (node) this.when({ if: node });
    });
  });

  private when(more: Partial<NonNullable<Rule['when']>>): void {
    const { when } = this.state.rule;
    if (when) this.set({ when: { ...when, ...more } });
  }

  private kinds = this.RULE('kinds', (): ChangeKind[] => {
    const found: ChangeKind[] = [];
    const add = (kind: ChangeKind) => this.ACTION(() => found.push(kind));
    add(this.SUBRULE(this.kind));
    this.MANY(() => {
      this.OR([{ ALT: () => this.CONSUME(WORD.or) }, { ALT: () => this.CONSUME(WORD.and) }]);
      add(this.SUBRULE2(this.kind));
    });
    return found;
  });

  private kind = this.RULE(
    'kind',
    (): ChangeKind =>
      this.OR<ChangeKind>([
        {
          ALT: () => {
            const token = this.CONSUME(Kind) as Stretch;
            return this.ACTION(() => keywordOf(token.tokenType) as ChangeKind);
          },
        },
        {
          ALT: () => {
            this.CONSUME(WORD.custom);
            const token = this.CONSUME(Quoted) as Stretch;
            return this.ACTION(() => {
              const { text = '' } = token.payload;
              if (!/^x-./.test(text)) this.state.mark(token, 'notHere', [quoted('x-…')]);
              return (/^x-./.test(text) ? text : 'changed') as ChangeKind;
            });
          },
        },
      ]),
  );

  private whenNothingDoes = this.RULE('whenNothingDoes', () => {
    const token = this.CONSUME(WORD.nothingFor) as Stretch;
    const span = this.SUBRULE(this.span);
    this.CONSUME(WORD.inside);
    this.ACTION(() => this.becomes(token, span ? { idle: { for: span, if: { all: [] }, repeat: null } } : {}));
    this.SUBRULE(this.lookAt);
    const held = this.SUBRULE(this.aslong);
    const repeat = this.SUBRULE(this.repeated);
    this.ACTION(() => {
      if (span) this.set({ idle: { for: span, if: held ?? { all: [] }, repeat } });
    });
  });

  /** The state that has to hold meanwhile. */
  private aslong = this.RULE('aslong', (): StateTest | null => {
    const held = { test: null as StateTest | null };
    this.OPTION(() => {
      this.CONSUME(WORD.while);
      const sources = this.ACTION(() => this.state.sources());
      const test = this.SUBRULE(this.stateCondition, { ARGS: [sources] });
      this.ACTION(() => {
        held.test = test;
      });
    });
    return held.test;
  });

  private repeated = this.RULE('repeated', (): Repeat | null => {
    const found = { repeat: null as Repeat | null };
    this.OPTION(() => {
      this.CONSUME(WORD.againEvery);
      const every = this.SUBRULE(this.span);
      const count = this.CONSUME(Figure) as Stretch;
      this.CONSUME(WORD.times);
      this.ACTION(() => {
        if (every) found.repeat = { every, times: this.state.count(count, 1, 1000) };
      });
    });
    return found.repeat;
  });

  private whenDue = this.RULE('whenDue', () => {
    const first = this.ACTION(() => this.next(1));
    const leads: Duration[] = [];
    this.SUBRULE(this.lead, { ARGS: [leads] });
    this.MANY({
      DEF: () => {
        this.OR([{ ALT: () => this.CONSUME(WORD.and) }, { ALT: () => this.CONSUME(WORD.comma) }]);
        this.SUBRULE2(this.lead, { ARGS: [leads] });
      },
    });
    // Of which source it is stands behind the field: it was looked for before.
    const sources = this.ACTION(() => this.state.sources());
    const field = this.SUBRULE(this.fieldName, { ARGS: [sources, ({ type }: Field) => isTemporalType(type)] });
    this.CONSUME(WORD.of);
    this.ACTION(() => this.becomes(first, {}));
    this.SUBRULE(this.lookAt);
    const time = this.SUBRULE(this.atTime);
    const held = this.SUBRULE(this.aslong);
    const repeat = this.SUBRULE(this.repeated);
    const late = { skip: false };
    this.OPTION(() => {
      this.CONSUME(WORD.notLate);
      this.ACTION(() => {
        late.skip = true;
      });
    });
    this.ACTION(() => {
      const [lead] = leads;
      if (!field || lead === undefined) return;
      const due = {
        field: field.id,
        offset: leads.length === 1 ? lead : leads,
        at: time,
        if: held ?? { all: [] },
        repeat,
        late: late.skip ? ('skip' as const) : ('now' as const),
      };
      this.set({ due });
    });
  });

  /** Lead times of one side: *14 days and 2 days before*; or the day itself. */
  private lead = this.RULE('lead', (leads: Duration[]) =>
    this.OR([
      {
        ALT: () => {
          this.CONSUME(WORD.onTheDay);
          this.ACTION(() => leads.push('PT0S'));
        },
      },
      {
        ALT: () => {
          const spans: (string | null)[] = [];
          const add = (span: string | null) => this.ACTION(() => spans.push(span));
          add(this.SUBRULE(this.span));
          this.MANY({
            GATE: () => this.isNext(2, [Figure, WORD.a]),
            DEF: () => {
              this.OR2([{ ALT: () => this.CONSUME(WORD.and) }, { ALT: () => this.CONSUME(WORD.comma) }]);
              add(this.SUBRULE2(this.span));
            },
          });
          const side = this.OR3([
            { ALT: () => this.CONSUME(WORD.before) as Stretch },
            { ALT: () => this.CONSUME(WORD.after) as Stretch },
          ]);
          this.ACTION(() => {
            const sign = keywordOf(side.tokenType) === 'before' ? '-' : '';
            for (const span of spans) if (span !== null) leads.push(`${sign}${span}`);
          });
        },
      },
    ]),
  );

  private atTime = this.RULE('atTime', (): string | null => {
    const found = { time: null as string | null };
    this.OPTION(() => {
      this.CONSUME(WORD.at);
      const clock = this.CONSUME(Clock) as Stretch;
      this.ACTION(() => {
        found.time = clock.payload.value ?? null;
      });
    });
    return found.time;
  });

  private whenTallied = this.RULE('whenTallied', () => {
    const token = this.ACTION(() => this.next(1));
    const summed = { field: null as Field | null, isSum: false };
    this.OR([
      { ALT: () => this.CONSUME(WORD.numberOf) },
      {
        ALT: () => {
          this.CONSUME(WORD.sumOf);
          const before = this.ACTION(() => this.state.sources());
          const field = this.SUBRULE(this.fieldName, { ARGS: [before, ({ type }: Field) => isFigureType(type)] });
          this.CONSUME(WORD.of);
          this.ACTION(() => {
            summed.field = field;
            summed.isSum = true;
          });
        },
      },
    ]);
    this.ACTION(() => this.becomes(token, {}));
    this.SUBRULE(this.lookAt);
    const part = { field: null as Field | null };
    this.OPTION(() => {
      this.CONSUME(WORD.forEach);
      const sources = this.ACTION(() => this.state.sources());
      const field = this.SUBRULE2(this.fieldName, { ARGS: [sources] });
      this.ACTION(() => {
        part.field = field;
      });
    });
    const becomes = this.SUBRULE(this.mark, { ARGS: [summed] });
    const told = { kinds: [] as ChangeKind[] };
    this.OPTION2(() => {
      this.CONSUME(WORD.toldIf);
      const kinds = this.SUBRULE(this.kinds);
      this.ACTION(() => {
        told.kinds = kinds;
      });
    });
    this.ACTION(() => {
      if (!becomes || (summed.isSum && !summed.field)) return;
      const of = summed.field ? { sum: summed.field.id } : ('items' as const);
      this.set({ tally: { of, per: part.field?.id ?? null, becomes, kinds: told.kinds } });
    });
  });

  private mark = this.RULE('mark', (summed: { field: Field | null }): Tally['becomes'] | null => {
    const by = this.OR<Stretch>([
      { ALT: () => this.CONSUME(WORD.above) as Stretch },
      { ALT: () => this.CONSUME(WORD.atLeast) as Stretch },
      { ALT: () => this.CONSUME(WORD.under) as Stretch },
      { ALT: () => this.CONSUME(WORD.atMost) as Stretch },
    ]);
    const figure: Field = { id: 'items', name: '', type: 'number' };
    const field = this.ACTION(() => summed.field ?? figure);
    const value = this.OR2<Value | undefined>([
      { GATE: () => this.isNext(1, [Figure]), ALT: () => this.SUBRULE(this.value, { ARGS: [field] }) },
      {
        GATE: () => this.isNext(1, [Sum]),
        ALT: () => this.SUBRULE2(this.value, { ARGS: [field] }),
        IGNORE_AMBIGUITIES: true,
      },
    ]);
    return this.ACTION(() => {
      const op = MARKS[keywordOf(by.tokenType) ?? ''];
      if (!op || value === undefined) return null;
      return { op, value: isMoney(value) ? value : (value as number | string) };
    });
  });

  private reported = this.RULE('reported', () => {
    const token = this.ACTION(() => this.next(1));
    const schedule = this.SUBRULE(this.schedule);
    this.CONSUME(WORD.report);
    this.ACTION(() => this.becomes(token, {}));
    this.SUBRULE(this.lookAt);
    const held = this.SUBRULE(this.aslong);
    const even = { empty: false };
    this.OPTION(() => {
      this.CONSUME(WORD.evenEmpty);
      this.ACTION(() => {
        even.empty = true;
      });
    });
    this.ACTION(() => {
      const { every, ...rest }: Schedule = schedule;
      if (every === 'hour') return this.state.mark(token, 'notHere');
      this.set({
        report: { ...rest, every, if: held ?? { all: [] }, empty: even.empty } as NonNullable<Rule['report']>,
      });
    });
  });

  /** The rest of a sentence: what is said after what brings it about. */
  clauses = this.RULE('clauses', () => {
    this.MANY(() => {
      this.ACTION(() => this.state.begin('clauses', this.next(1)));
      this.OPTION(() => this.CONSUME(WORD.comma));
      this.SUBRULE(this.clause);
    });
    this.CONSUME(EOF);
  });
}
