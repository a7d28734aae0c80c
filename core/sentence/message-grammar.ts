import { EOF } from 'chevrotain';
import type { Rule, RuleMessage } from '../rules/index.ts';
import type { Stretch } from './cut.ts';
import { type Choices, fieldChoices } from './known.ts';
import { PeopleGrammar } from './people-grammar.ts';
import { AnyName, keywordOf, Quoted, WORD } from './tokens.ts';

/** The grammar of what a rule says, and in whose name: its wording, its own words, what it shows, files beside it. */
export class MessageGrammar extends PeopleGrammar {
  protected set(parts: Partial<Rule>): void {
    this.state.rule = { ...this.state.rule, ...parts };
  }

  protected scope(more: Partial<Rule['scope']>): void {
    this.set({ scope: { ...this.state.rule.scope, ...more } });
  }

  private message(more: Partial<RuleMessage>): void {
    this.set({ message: { ...this.state.rule.message, ...more } });
  }

  /** Sets a part of what is said once. */
  protected once(part: string, token: Stretch, parts: Partial<Rule>): void {
    this.state.say(part, token);
    this.set(parts);
  }

  /** Names in a row, of one kind; `null` where one is not understood. */
  protected namesInRow = this.RULE('namesInRow', (choices: readonly Choices[]): string[] | null => {
    const found: (string | null)[] = [];
    const add = (one: { id: string } | null) => this.ACTION(() => found.push(one?.id ?? null));
    add(this.SUBRULE(this.name, { ARGS: [choices] }));
    this.MANY({
      GATE: () => this.isNext(2, [AnyName, EOF]),
      DEF: () => {
        this.OR([
          { ALT: () => this.CONSUME(WORD.or) },
          { ALT: () => this.CONSUME(WORD.and) },
          { ALT: () => this.CONSUME(WORD.comma) },
        ]);
        add(this.SUBRULE2(this.name, { ARGS: [choices] }));
      },
    });
    return this.ACTION(() => (found.includes(null) ? null : (found as string[])));
  });

  /** Text in quotes, of so many signs at most. */
  private text = this.RULE('text', (most: number): string => {
    const token = this.CONSUME(Quoted) as Stretch;
    return this.ACTION(() => {
      const { text = '' } = token.payload;
      if (text.length > most) this.state.mark(token, 'outOfRange', ['1', String(most)]);
      return text.slice(0, most);
    });
  });

  protected saying = this.RULE('saying', () => {
    const token = this.ACTION(() => this.next(1));
    const say = (part: keyof RuleMessage, more: Partial<RuleMessage>) =>
      this.ACTION(() => {
        this.state.say(`message.${part}`, token);
        this.message(more);
      });
    this.OR([
      {
        ALT: () => {
          this.CONSUME(WORD.wording);
          const wordings = this.ACTION((): Choices[] => [
            { kind: 'wording', of: null, among: this.state.known.wordings },
          ]);
          const found = this.SUBRULE(this.name, { ARGS: [wordings] });
          this.ACTION(() => {
            if (found) say('wording', { wording: found.id });
          });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.subject);
          const subject = this.SUBRULE(this.text, { ARGS: [500] });
          say('subject', { subject });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.body);
          const body = this.SUBRULE2(this.text, { ARGS: [20_000] });
          say('body', { body });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.show);
          const fields = this.ACTION(() => [fieldChoices(this.state.sources())]);
          const show = this.SUBRULE(this.namesInRow, { ARGS: [fields] });
          this.ACTION(() => {
            if (show) say('show', { show });
          });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.doNow);
          const doNow = this.SUBRULE3(this.text, { ARGS: [300] });
          say('doNow', { doNow });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.fromOwner);
          say('from', { from: 'owner' });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.fromSender);
          const senders = this.ACTION((): Choices[] => [{ kind: 'sender', of: null, among: this.state.known.senders }]);
          const found = this.SUBRULE2(this.name, { ARGS: [senders] });
          this.ACTION(() => {
            if (found) say('from', { from: { sender: found.id } });
          });
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.replyTo);
          const replyTo = this.SUBRULE4(this.text, { ARGS: [254] });
          say('replyTo', { replyTo });
        },
      },
      { ALT: () => this.SUBRULE(this.files) },
    ]);
  });

  private files = this.RULE('files', () => {
    const attach: ('csv' | 'xlsx')[] = [];
    const add = (token: Stretch) => this.ACTION(() => attach.push(keywordOf(token.tokenType) as 'csv'));
    const token = this.CONSUME(WORD.attach) as Stretch;
    this.OR([
      { ALT: () => add(this.CONSUME(WORD.csv) as Stretch) },
      { ALT: () => add(this.CONSUME(WORD.xlsx) as Stretch) },
    ]);
    this.OPTION(() => {
      this.CONSUME(WORD.and);
      this.OR2([
        { ALT: () => add(this.CONSUME2(WORD.csv) as Stretch) },
        { ALT: () => add(this.CONSUME2(WORD.xlsx) as Stretch) },
      ]);
    });
    this.ACTION(() => {
      this.state.say('attach', token);
      this.message({ attach: [...new Set(attach)] });
    });
  });
}
