import type { Selector } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import type { Schedule, Weekday } from '../time/index.ts';
import { type Field, isTemporalType } from '../values/index.ts';
import type { Stretch } from './cut.ts';
import { MessageGrammar } from './message-grammar.ts';
import { Clock, Day, Figure, keywordOf, Weekdays, WORD, Zone } from './tokens.ts';
import type { Keyword } from './words/index.ts';

const DIGEST_TIME = '09:00';
const QUIET = 'PT10M';
const MOST = 'PT2H';

const PER: Partial<Record<Keyword, 'item' | 'actor' | 'rule'>> = {
  perItem: 'item',
  perActor: 'actor',
  perRule: 'rule',
};

/** The grammar of what follows in a sentence: how soon, by whom, for how long, by what, how often, and whether it is answered. */
export class ClauseGrammar extends MessageGrammar {
  /** *every Monday and Thursday at 08:00*, *every month on the 1 and 15*. */
  protected schedule = this.RULE('schedule', (): Schedule => {
    const on: (Weekday | number)[] = [];
    const found = { every: 'day' as Schedule['every'], at: DIGEST_TIME };
    const is = (every: Schedule['every']) =>
      this.ACTION(() => {
        found.every = every;
      });
    this.OR([
      {
        ALT: () => {
          this.CONSUME(WORD.everyHour);
          is('hour');
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.everyDay);
          is('day');
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.everyWeek);
          is('week');
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.everyMonth);
          is('month');
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.every);
          this.SUBRULE(this.days, { ARGS: [on] });
          is('week');
        },
      },
    ]);
    this.OPTION(() => {
      this.CONSUME(WORD.onDays);
      this.SUBRULE2(this.days, { ARGS: [on] });
    });
    this.OPTION2(() => {
      this.CONSUME(WORD.at);
      const clock = this.CONSUME(Clock) as Stretch;
      this.ACTION(() => {
        found.at = clock.payload.value ?? DIGEST_TIME;
      });
    });
    return this.ACTION(() => ({ ...found, ...(on.length > 0 ? { on } : {}) }));
  });

  private days = this.RULE('days', (on: (Weekday | number)[]) => {
    this.SUBRULE(this.dayOf, { ARGS: [on] });
    this.MANY({
      GATE: () => this.isNext(2, [Weekdays, Figure]) && !this.isNext(3, [WORD.burst]),
      DEF: () => {
        this.OR([{ ALT: () => this.CONSUME(WORD.and) }, { ALT: () => this.CONSUME(WORD.comma) }]);
        this.SUBRULE2(this.dayOf, { ARGS: [on] });
      },
    });
  });

  private dayOf = this.RULE('dayOf', (on: (Weekday | number)[]) =>
    this.OR([
      {
        ALT: () => {
          const token = this.CONSUME(Weekdays) as Stretch;
          this.ACTION(() => on.push(token.payload.weekday as Weekday));
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(Figure) as Stretch;
          this.ACTION(() => on.push(this.state.count(token, 1, 31)));
        },
      },
    ]),
  );

  private per = this.RULE('per', (): 'item' | 'actor' | 'rule' => {
    const token = this.OR<Stretch>([
      { ALT: () => this.CONSUME(WORD.perItem) as Stretch },
      { ALT: () => this.CONSUME(WORD.perActor) as Stretch },
      { ALT: () => this.CONSUME(WORD.perRule) as Stretch },
    ]);
    return this.ACTION(() => PER[keywordOf(token.tokenType) ?? 'perItem'] ?? 'item');
  });

  protected clause = this.RULE('clause', () =>
    this.OR([
      { ALT: () => this.SUBRULE(this.pace) },
      { ALT: () => this.SUBRULE(this.cause) },
      { ALT: () => this.SUBRULE(this.during) },
      { ALT: () => this.SUBRULE(this.whoseItIs) },
      { ALT: () => this.SUBRULE(this.ways) },
      { ALT: () => this.SUBRULE(this.howOften) },
      { ALT: () => this.SUBRULE(this.urgency) },
      { ALT: () => this.SUBRULE(this.answering) },
      { ALT: () => this.SUBRULE(this.saying) },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.inZone) as Stretch;
          const zone = this.CONSUME(Zone) as Stretch;
          this.ACTION(() => this.once('zone', token, { zone: zone.payload.value ?? '' }));
        },
      },
    ]),
  );

  private pace = this.RULE('pace', () => {
    const token = this.ACTION(() => this.next(1));
    this.OR([
      {
        ALT: () => {
          this.CONSUME(WORD.atOnce);
          this.ACTION(() => this.once('pace', token, { pace: { kind: 'now' } }));
        },
      },
      {
        ALT: () => {
          this.CONSUME(WORD.settled);
          const spans = { quiet: QUIET, most: MOST };
          this.OPTION(() => {
            this.CONSUME(WORD.for);
            const span = this.SUBRULE(this.span);
            this.ACTION(() => {
              if (span) spans.quiet = span;
            });
          });
          this.OPTION2(() => {
            this.CONSUME(WORD.most);
            const span = this.SUBRULE2(this.span);
            this.ACTION(() => {
              if (span) spans.most = span;
            });
          });
          this.ACTION(() => this.once('pace', token, { pace: { kind: 'settled', ...spans } }));
        },
      },
      {
        ALT: () => {
          const schedule = this.SUBRULE(this.schedule);
          const at = { zone: null as string | null };
          this.OPTION3(() => {
            this.CONSUME(WORD.inZone);
            const zone = this.CONSUME(Zone) as Stretch;
            this.ACTION(() => {
              at.zone = zone.payload.value ?? null;
            });
          });
          this.ACTION(() =>
            this.once('pace', token, {
              pace: { kind: 'digest', ...schedule, ...(at.zone === null ? {} : { zone: at.zone }) },
            }),
          );
        },
      },
    ]);
  });

  private cause = this.RULE('cause', () => {
    const by = (part: 'only' | 'except', token: Stretch, people: Selector[] | null) =>
      this.ACTION(() => {
        if (people) this.once(`by.${part}`, token, { by: { ...this.state.rule.by, [part]: people } });
      });
    this.OR([
      {
        ALT: () => {
          const token = this.CONSUME(WORD.doneBy) as Stretch;
          by('only', token, this.SUBRULE(this.people));
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.notDoneBy) as Stretch;
          by('except', token, this.SUBRULE2(this.people));
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.notImports) as Stretch;
          by('except', token, [{ system: 'import' }]);
        },
      },
    ]);
  });

  private during = this.RULE('during', () => {
    const during = (part: string, token: Stretch, more: Partial<Rule['during']>) =>
      this.once(part, token, { during: { ...this.state.rule.during, ...more } });
    this.OR([
      {
        ALT: () => {
          const token = this.CONSUME(WORD.from) as Stretch;
          const day = this.CONSUME(Day) as Stretch;
          this.ACTION(() => during('from', token, { from: day.payload.value ?? null }));
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.until) as Stretch;
          const day = this.CONSUME2(Day) as Stretch;
          this.ACTION(() => during('until', token, { until: day.payload.value ?? null }));
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.near) as Stretch;
          const ahead = this.SUBRULE(this.span);
          this.CONSUME(WORD.before);
          const past = { behind: 'PT0S' as string | null };
          this.OPTION(() => {
            this.CONSUME(WORD.to);
            const behind = this.SUBRULE2(this.span);
            this.CONSUME(WORD.after);
            this.ACTION(() => {
              past.behind = behind;
            });
          });
          const sources = this.ACTION(() => this.state.sources());
          const field = this.SUBRULE(this.fieldName, { ARGS: [sources, ({ type }: Field) => isTemporalType(type)] });
          this.ACTION(() => {
            const { behind } = past;
            if (field && ahead && behind) during('near', token, { near: { field: field.id, ahead, behind } });
          });
        },
      },
    ]);
  });

  private whoseItIs = this.RULE('whoseItIs', () => {
    const about = (token: Stretch, to: Rule['about']) => this.ACTION(() => this.once('about', token, { about: to }));
    this.OR([
      { ALT: () => about(this.CONSUME(WORD.aboutMade) as Stretch, 'createdByRecipient') },
      { ALT: () => about(this.CONSUME(WORD.aboutEdited) as Stretch, 'lastEditedByRecipient') },
      { ALT: () => about(this.CONSUME(WORD.aboutNamed) as Stretch, 'namesRecipient') },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.ownToo) as Stretch;
          this.ACTION(() => this.once('ownChanges', token, { ownChanges: true }));
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.butNot) as Stretch;
          const except = this.SUBRULE(this.people);
          this.ACTION(() => {
            if (except) this.once('except', token, { except });
          });
        },
      },
    ]);
  });

  private ways = this.RULE('ways', () => {
    const token = this.ACTION(() => this.next(1));
    this.OPTION(() => this.CONSUME(WORD.only));
    const channels = this.SUBRULE(this.channels);
    this.ACTION(() => this.once('channels', token, { channels }));
  });

  private howOften = this.RULE('howOften', () =>
    this.OR([
      {
        ALT: () => {
          const token = this.CONSUME(WORD.atMostOnce) as Stretch;
          const within = this.SUBRULE(this.span);
          const per = this.SUBRULE(this.per);
          this.ACTION(() => {
            if (per === 'actor') this.state.mark(token, 'notHere');
            else if (within) this.once('limit', token, { limit: { per, within } });
          });
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.oneByOne) as Stretch;
          this.ACTION(() => this.once('together', token, { together: false }));
        },
      },
      {
        ALT: () => {
          const count = this.CONSUME(Figure) as Stretch;
          this.CONSUME(WORD.burst);
          const within = this.SUBRULE2(this.span);
          const per = this.SUBRULE2(this.per);
          this.ACTION(() => {
            const { when } = this.state.rule;
            if (!when) this.state.mark(count, 'notHere');
            else if (within)
              this.once('burst', count, {
                when: { ...when, burst: { count: this.state.count(count, 2, 10_000), within, per } },
              });
          });
        },
      },
    ]),
  );

  private urgency = this.RULE('urgency', () => {
    const is = (token: Stretch) =>
      this.ACTION(() => this.once('urgency', token, { urgency: keywordOf(token.tokenType) as Rule['urgency'] }));
    this.OR([
      { ALT: () => is(this.CONSUME(WORD.routine) as Stretch) },
      { ALT: () => is(this.CONSUME(WORD.important) as Stretch) },
      { ALT: () => is(this.CONSUME(WORD.critical) as Stretch) },
    ]);
  });

  /** Changes what is said of acknowledging, where somebody has to. */
  private ack(token: Stretch, change: (ack: NonNullable<Rule['ack']>) => Partial<NonNullable<Rule['ack']>>): void {
    const { ack } = this.state.rule;
    if (ack) this.set({ ack: { ...ack, ...change(ack) } });
    else this.state.mark(token, 'needsAck');
  }

  private answering = this.RULE('answering', () => {
    const has = (token: Stretch, by: 'anyone' | 'everyone') =>
      this.ACTION(() =>
        this.once('ack', token, { ack: { by, remind: null, escalate: [], closeWhenCeased: true, allClear: false } }),
      );
    this.OR([
      { ALT: () => has(this.CONSUME(WORD.ackAnyone) as Stretch, 'anyone') },
      { ALT: () => has(this.CONSUME(WORD.ackEveryone) as Stretch, 'everyone') },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.remind) as Stretch;
          const after = this.SUBRULE(this.span);
          const times = this.CONSUME(Figure) as Stretch;
          this.CONSUME(WORD.times);
          this.ACTION(() => {
            if (after) this.ack(token, () => ({ remind: { after, times: this.state.count(times, 1, 100) } }));
          });
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.escalate) as Stretch;
          const after = this.SUBRULE2(this.span);
          this.CONSUME(WORD.alsoTell);
          const to = this.SUBRULE(this.people);
          this.ACTION(() => {
            if (after && to) this.ack(token, ({ escalate }) => ({ escalate: [...escalate, { after, to }] }));
          });
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.staysOpen) as Stretch;
          this.ACTION(() => this.ack(token, () => ({ closeWhenCeased: false })));
        },
      },
      {
        ALT: () => {
          const token = this.CONSUME(WORD.allClear) as Stretch;
          this.ACTION(() => this.ack(token, () => ({ allClear: true })));
        },
      },
    ]);
  });
}
