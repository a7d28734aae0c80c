import { EOF, type TokenType } from 'chevrotain';
import type { CaseTest, Channel, Selector } from '../people/index.ts';
import { type Field, isLinkType, namesSomebody } from '../values/index.ts';
import { ConditionGrammar } from './condition-grammar.ts';
import type { Stretch } from './cut.ts';
import { type Choices, fieldChoices, namingChoices, sourceChoices, valueChoices, whomChoices } from './known.ts';
import { fieldsWith } from './reading-state.ts';
import { AnyName, Channel as ByChannel, keywordOf, WORD } from './tokens.ts';

/** What begins whom a rule tells. */
const WHOM: TokenType[] = [
  AnyName,
  WORD.the,
  WORD.person,
  WORD.group,
  WORD.contact,
  WORD.webhook,
  WORD.managerOf,
  WORD.theirManager,
  WORD.creator,
  WORD.lastEditor,
  WORD.followers,
  WORD.mentioned,
  WORD.told,
  WORD.me,
  WORD.program,
  WORD.anyProgram,
  WORD.anybody,
  WORD.byCase,
  WORD.for,
  WORD.to,
];

/** The grammar of whom a rule tells, leaves out, and whose changes count. */
export class PeopleGrammar extends ConditionGrammar {
  private choicesOf(kind: 'person' | 'group' | 'contact' | 'webhook'): Choices[] {
    const { people, groups, contacts, webhooks } = this.state.known;
    const among = { person: people, group: groups, contact: contacts, webhook: webhooks }[kind];
    return [{ kind, of: null, among }];
  }

  private named = this.RULE('named', (): Selector | null => {
    const kind = this.OR<'person' | 'group' | 'contact' | 'webhook'>([
      {
        ALT: () => {
          this.CONSUME(WORD.person);
          return 'person';
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.group);
          return 'group';
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.contact);
          return 'contact';
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.webhook);
          return 'webhook';
        },
      },
    ]);
    const choices = this.ACTION(() => this.choicesOf(kind));
    const found = this.SUBRULE(this.name, { ARGS: [choices] });
    return this.ACTION(() => found && ({ [kind]: found.id } as unknown as Selector));
  });

  /** *the Registrar*, *the Keeper of its Lender*, *the loan’s Registrar*. */
  private ofItem = this.RULE('ofItem', (): Selector | null => {
    this.CONSUME(WORD.the);
    this.OPTION({
      GATE: () => this.isNext(2, [WORD.possessive]),
      DEF: () => {
        const sources = this.ACTION(() => sourceChoices(this.state.known));
        this.SUBRULE(this.name, { ARGS: [sources] });
        this.CONSUME(WORD.possessive);
      },
    });
    this.ACTION(() => {
      this.state.wanted = [namingChoices(this.state.known, this.state.sources())];
    });
    const field = this.CONSUME(AnyName) as Stretch;
    const through = { link: null as Stretch | null };
    this.OPTION2(() => {
      this.CONSUME(WORD.of);
      this.OPTION3(() => this.CONSUME2(WORD.the));
      this.ACTION(() => {
        this.state.wanted = [fieldChoices(this.state.sources(), ({ type }) => isLinkType(type))];
      });
      const link = this.CONSUME2(AnyName) as Stretch;
      this.ACTION(() => {
        through.link = link;
      });
    });
    return this.ACTION(() => this.fieldSelector(field, through.link));
  });

  private fieldSelector(field: Stretch, link: Stretch | null): Selector | null {
    const sources = this.state.sources();
    const fits = ({ type }: { type: Parameters<typeof namesSomebody>[0] }) => namesSomebody(type);
    if (link === null) {
      const found = this.state.resolve(field, [namingChoices(this.state.known, sources)]);
      return found && { field: found.id };
    }
    const linked = this.state.resolve(link, [fieldChoices(sources, ({ type }) => isLinkType(type))]);
    const to = sources[0]?.fields.find(({ id }) => id === linked?.id)?.to ?? '';
    const target = [this.state.known.sources.get(to) ?? []].flat();
    const found = linked && this.state.resolve(field, [fieldChoices(target, fits)]);
    return found && { linked: linked.id, field: found.id };
  }

  /** A bare name: somebody, a group, or whom a field names. */
  private bare = this.RULE('bare', (): Selector | null => {
    const choices = this.ACTION(() => whomChoices(this.state.known, this.state.sources()));
    const found = this.SUBRULE(this.name, { ARGS: [choices] });
    return this.ACTION(() => found && ({ [found.kind]: found.id } as unknown as Selector));
  });

  private fixed = this.RULE('fixed', (): Selector | null =>
    this.OR<Selector>([
      { ALT: () => this.fixedBy(() => this.CONSUME(WORD.me), { person: this.myself() }) },
      { ALT: () => this.fixedBy(() => this.CONSUME(WORD.creator), { creator: true }) },
      { ALT: () => this.fixedBy(() => this.CONSUME(WORD.lastEditor), { lastEditor: true }) },
      { ALT: () => this.fixedBy(() => this.CONSUME(WORD.followers), { followers: true }) },
      { ALT: () => this.fixedBy(() => this.CONSUME(WORD.mentioned), { mentioned: true }) },
      { ALT: () => this.fixedBy(() => this.CONSUME(WORD.told), { told: true }) },
      { ALT: () => this.fixedBy(() => this.CONSUME(WORD.anyProgram), { system: '*' }) },
      { ALT: () => this.fixedBy(() => this.CONSUME(WORD.anybody), '*') },
    ]),
  );

  /** Whoever types: the rule is theirs. */
  protected myself(): string {
    return this.RECORDING_PHASE ? '' : this.state.base.owner;
  }

  private fixedBy(consume: () => void, selector: Selector): Selector {
    consume();
    return selector;
  }

  /** Somebody, without the channels that may follow. */
  private whom: (idx?: number) => Selector | null = this.RULE('whom', (): Selector | null => {
    this.OPTION(() => this.CONSUME(WORD.to));
    this.ACTION(() => {
      this.state.wanted = whomChoices(this.state.known, this.state.sources());
    });
    const made = this.OR<Selector | null>([
      { ALT: () => this.SUBRULE(this.named) },
      { ALT: () => this.SUBRULE(this.ofItem) },
      { ALT: () => this.SUBRULE(this.fixed) },
      { ALT: () => this.SUBRULE(this.bare) },
      {
        ALT: () => {
          this.CONSUME(WORD.managerOf);
          const other = this.SUBRULE(this.whom);
          return this.ACTION(() => other && { managerOf: other });
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.theirManager) as Stretch;
          return this.ACTION(() => {
            const { lastRecipient } = this.state;
            if (lastRecipient === null) this.state.mark(token, 'unknownName');
            return lastRecipient && { managerOf: lastRecipient };
          });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.program);
          const token = this.CONSUME(AnyName) as Stretch;
          return this.ACTION(() => ({ system: token.payload.text ?? '' }));
        },
      },
      { ALT: () => this.SUBRULE(this.cases) },
      { ALT: () => this.SUBRULE(this.casesByValue) },
    ]);
    this.ACTION(() => {
      this.state.lastRecipient = made;
    });
    return made;
  });

  private cases = this.RULE('cases', (): Selector | null => {
    const found: ({ if: CaseTest; to: Selector[] } | null)[] = [];
    const other = { to: undefined as Selector[] | null | undefined };
    this.CONSUME(WORD.byCase);
    this.CONSUME(WORD.open);
    this.AT_LEAST_ONE_SEP({
      SEP: WORD.semicolon,
      DEF: () =>
        this.OR([
          {
            ALT: () => {
              this.CONSUME(WORD.where);
              const sources = this.ACTION(() => this.state.sources());
              const state = this.SUBRULE(this.stateCondition, { ARGS: [sources] });
              this.CONSUME(WORD.colon);
              const to = this.SUBRULE(this.people);
              this.ACTION(() => found.push(state && to && { if: state, to }));
            },
          },
          {
            ALT: () => {
              this.CONSUME(WORD.otherwise);
              this.CONSUME2(WORD.colon);
              const to = this.SUBRULE2(this.people);
              this.ACTION(() => {
                other.to = to;
              });
            },
          },
        ]),
    });
    this.CONSUME(WORD.close);
    return this.ACTION((): Selector | null => {
      if (found.includes(null) || other.to === null || found.length === 0) return null;
      return { cases: found.flatMap((one) => one ?? []), ...(other.to ? { else: other.to } : {}) };
    });
  });

  /** *for Woven Waters Inés, for Small Fires Hugo, otherwise Registrars*: by what one field holds, as people say it. */
  private casesByValue = this.RULE('casesByValue', (): Selector | null => {
    const found: ({ if: CaseTest; to: Selector[] } | null)[] = [];
    const other = { to: undefined as Selector[] | null | undefined };
    found.push(this.SUBRULE(this.caseOfValue));
    this.MANY({
      GATE: () => this.isNext(2, [WORD.for]),
      DEF: () => {
        this.OR([{ ALT: () => this.CONSUME(WORD.comma) }, { ALT: () => this.CONSUME(WORD.semicolon) }]);
        found.push(this.SUBRULE2(this.caseOfValue));
      },
    });
    this.OPTION({
      GATE: () => this.isNext(2, [WORD.otherwise]),
      DEF: () => {
        this.OR2([{ ALT: () => this.CONSUME2(WORD.comma) }, { ALT: () => this.CONSUME2(WORD.semicolon) }]);
        this.CONSUME(WORD.otherwise);
        this.OPTION2(() => this.CONSUME(WORD.colon));
        other.to = this.SUBRULE(this.together);
      },
    });
    return this.ACTION((): Selector | null => {
      if (found.includes(null) || other.to === null) return null;
      return { cases: found.flatMap((one) => one ?? []), ...(other.to ? { else: other.to } : {}) };
    });
  });

  private caseOfValue = this.RULE('caseOfValue', (): { if: CaseTest; to: Selector[] } | null => {
    this.CONSUME(WORD.for);
    const field = this.ACTION(() => this.fieldOfValue(this.next(1)));
    const value = this.SUBRULE(this.value, { ARGS: [field] });
    this.OPTION(() => this.CONSUME(WORD.colon));
    const to = this.SUBRULE(this.together);
    return this.ACTION(() =>
      field && to && value !== undefined ? { if: { field: field.id, op: 'is', value } as CaseTest, to } : null,
    );
  });

  /** Whom one case tells: joined by words, since a comma leads to the next. */
  private together = this.RULE('together', (): Selector[] | null => {
    const found: (Selector | null)[] = [];
    found.push(this.SUBRULE(this.heard));
    this.MANY({
      GATE: () => this.isNext(2, [...WHOM, EOF]),
      DEF: () => {
        this.OR([{ ALT: () => this.CONSUME(WORD.and) }, { ALT: () => this.CONSUME(WORD.or) }]);
        found.push(this.SUBRULE2(this.heard));
      },
    });
    return this.ACTION(() => (found.includes(null) ? null : (found as Selector[])));
  });

  /** The one field in which a value can stand by its name; marked where there are several. */
  protected fieldOfValue(token: Stretch): Field | null {
    const { text = '', id = null } = token.payload ?? {};
    this.state.expects = { field: null, op: null };
    const [source] = this.state.sources();
    const fields = source?.fields ?? [];
    const fitting = fieldsWith(source, text, id, this.state.known);
    this.state.wanted = fields.flatMap((field) => valueChoices(field, this.state.known));
    if (fitting.length > 1)
      this.state.mark(
        token,
        'whichField',
        fitting.map(({ name }) => name),
      );
    return fitting.length === 1 ? (fitting[0] as Field) : null;
  }

  /** Channels in a row: *by email and by text*. */
  protected channels = this.RULE('channels', (): Channel[] => {
    const found: Channel[] = [];
    const add = (token: Stretch) => this.ACTION(() => found.push(keywordOf(token.tokenType) as Channel));
    add(this.CONSUME(ByChannel) as Stretch);
    this.MANY({
      GATE: () => this.isNext(2, [ByChannel]),
      DEF: () => {
        this.OR([
          { ALT: () => this.CONSUME(WORD.and) },
          { ALT: () => this.CONSUME(WORD.comma) },
          { ALT: () => this.CONSUME(WORD.or) },
        ]);
        add(this.CONSUME2(ByChannel) as Stretch);
      },
    });
    return found;
  });

  private heard = this.RULE('heard', (): Selector | null => {
    const first = this.ACTION(() => this.next(1));
    const who = this.SUBRULE(this.whom);
    const ways = { by: null as Channel[] | null };
    this.OPTION(() => {
      const channels = this.SUBRULE(this.channels);
      this.ACTION(() => {
        ways.by = channels;
      });
    });
    this.ACTION(() => this.state.end('anybody', first, this.next(0)));
    return this.ACTION(() => who && (ways.by ? { tell: who, channels: ways.by } : who));
  });

  /** Whom a list names; `null` where one of them is not understood. */
  protected people: (idx?: number) => Selector[] | null = this.RULE('people', (): Selector[] | null => {
    const found: (Selector | null)[] = [];
    const add = (one: Selector | null) => this.ACTION(() => found.push(one));
    this.ACTION(() => {
      this.state.wanted = whomChoices(this.state.known, this.state.sources());
    });
    this.OR([
      { ALT: () => this.CONSUME(WORD.nobody) },
      {
        ALT: () => {
          add(this.SUBRULE(this.heard));
          this.MANY({
            GATE: () => this.isNext(2, [...WHOM, EOF]),
            DEF: () => {
              this.OR2([
                { ALT: () => this.CONSUME(WORD.and) },
                { ALT: () => this.CONSUME(WORD.or) },
                { ALT: () => this.CONSUME(WORD.comma) },
              ]);
              add(this.SUBRULE2(this.heard));
            },
          });
        },
      },
    ]);
    return this.ACTION(() => (found.includes(null) ? null : (found as Selector[])));
  });
}
