import { EOF } from 'chevrotain';
import type { StateTest } from '../rules/index.ts';
import { ClauseGrammar } from './clause-grammar.ts';
import { sourceChoices } from './known.ts';
import { AnyName, WORD } from './tokens.ts';

/** The grammar of what a rule looks at: sources, and what narrows their items. */
export class LookAtGrammar extends ClauseGrammar {
  /** What it looks at: sources, and what narrows them. */
  protected lookAt = this.RULE('lookAt', () => {
    const sources: string[] = [];
    const add = (found: { id: string } | null) =>
      this.ACTION(() => {
        if (found) sources.push(found.id);
      });
    const choices = this.ACTION(() => sourceChoices(this.state.known));
    this.OPTION(() => this.OR([{ ALT: () => this.CONSUME(WORD.a) }, { ALT: () => this.CONSUME(WORD.the) }]));
    // Documents have no name of their own, as loans have: *a document of* whatever it is.
    this.OPTION3(() => this.CONSUME(WORD.documentOf));
    add(this.SUBRULE(this.name, { ARGS: [choices] }));
    this.MANY({
      GATE: () => this.isNext(2, [AnyName, WORD.a, WORD.the, EOF]),
      DEF: () => {
        this.OR2([{ ALT: () => this.CONSUME(WORD.or) }, { ALT: () => this.CONSUME(WORD.and) }]);
        this.OPTION2(() => this.OR3([{ ALT: () => this.CONSUME2(WORD.a) }, { ALT: () => this.CONSUME2(WORD.the) }]));
        add(this.SUBRULE2(this.name, { ARGS: [choices] }));
      },
    });
    this.ACTION(() => {
      if (sources.length > 0) this.scope({ sources: [...new Set(sources)], where: { all: [] } });
    });
    this.MANY2(() => this.SUBRULE(this.narrowing));
  });

  private narrow(test: StateTest | null): void {
    if (test === null) return;
    const { where } = this.state.rule.scope;
    const parts = 'all' in where ? where.all : [where];
    this.scope({ where: parts.length === 0 ? test : { all: [...parts, test] } });
  }

  private narrowing = this.RULE('narrowing', () =>
    this.OR([
      {
        ALT: () => {
          this.CONSUME(WORD.of);
          this.OPTION(() => this.CONSUME(WORD.the));
          const field = this.ACTION(() => this.fieldOfValue(this.next(1)));
          this.OR2([
            { ALT: () => this.SUBRULE(this.ofLinked) },
            {
              ALT: () => {
                const value = this.SUBRULE(this.value, { ARGS: [field] });
                this.ACTION(() => {
                  if (field && value !== undefined) this.narrow({ field: field.id, op: 'is', value });
                });
              },
            },
          ]);
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.where);
          const sources = this.ACTION(() => this.state.sources());
          const test = this.SUBRULE(this.stateCondition, { ARGS: [sources] });
          this.ACTION(() => this.narrow(test));
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.below);
          const folders = this.ACTION(() => this.foldersHere());
          const under = this.SUBRULE(this.namesInRow, { ARGS: [folders] });
          this.ACTION(() => {
            if (under) this.scope({ under });
          });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.namely);
          const among = this.ACTION(() => this.itemsHere());
          const items = this.SUBRULE2(this.namesInRow, { ARGS: [among] });
          this.ACTION(() => {
            if (items) this.scope({ items });
          });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.withLinked);
          this.ACTION(() => this.scope({ linked: true }));
        },
      },
    ]),
  );

  /** *of a lender whose Rating is On hold*: the one link that leads there is meant. */
  private ofLinked = this.RULE('ofLinked', () => {
    this.CONSUME(WORD.a);
    const choices = this.ACTION(() => sourceChoices(this.state.known));
    const token = this.ACTION(() => this.next(1));
    const found = this.SUBRULE(this.name, { ARGS: [choices] });
    this.CONSUME(WORD.where);
    const there = this.ACTION(() => [this.state.known.sources.get(found?.id ?? '') ?? []].flat());
    const holds = this.SUBRULE(this.stateCondition, { ARGS: [there] });
    this.ACTION(() => {
      const links = (this.state.sources()[0]?.fields ?? []).filter(({ to }) => to !== undefined && to === found?.id);
      const [link, ...others] = links;
      if (found && (!link || others.length > 0))
        this.state.mark(
          token,
          link ? 'whichField' : 'notHere',
          links.map(({ name }) => name),
        );
      else if (link && holds) this.narrow({ through: link.id, holds, every: false } as StateTest);
    });
  });

  private foldersHere() {
    const { sources } = this.state.rule.scope;
    const among = this.state.known.folders.filter(({ source }) => sources.includes(source));
    return [{ kind: 'folder' as const, of: null, among }];
  }

  private itemsHere() {
    const { sources } = this.state.rule.scope;
    const among = this.state.known.items.filter(({ source }) => sources.includes(source));
    return [{ kind: 'item' as const, of: null, among }];
  }
}
