import { asKind, type Channel, type Pace, type Selector, visitSelector } from '../people/index.ts';
import {
  type Condition,
  type FieldTest,
  fromTo,
  isKind,
  isOpen,
  leadsOf,
  type Repeat,
  type Rule,
  type StateTest,
} from '../rules/index.ts';
import type { Schedule } from '../time/index.ts';
import {
  type ChangeKind,
  fieldOf,
  isFigureType,
  isLinkType,
  isTemporalType,
  namesSomebody,
  type Value,
} from '../values/index.ts';
import { Cutter } from './cut.ts';
import { calledSo, fieldChoices, type NameKind, sourceChoices, valueChoices, whomChoices } from './known.ts';
import { ConditionSaying } from './saying-conditions.ts';
import { quoted } from './plain.ts';
import type { Spoken } from './reading.ts';
import { fieldsWith } from './reading-state.ts';
import { type Piece, Saying } from './saying-words.ts';
import { tidyRule } from './tidy.ts';
import { KINDS, Name, shortKind } from './tokens.ts';
import type { Keyword } from './words/index.ts';

const PER: Record<'item' | 'actor' | 'rule', Keyword> = { item: 'perItem', actor: 'perActor', rule: 'perRule' };
const MARK: Record<string, Keyword> = { above: 'above', atLeast: 'atLeast', below: 'under', atMost: 'atMost' };
const EVERY: Record<Schedule['every'], Keyword> = {
  hour: 'everyHour',
  day: 'everyDay',
  week: 'everyWeek',
  month: 'everyMonth',
};
const ABOUT: Partial<Record<Rule['about'], Keyword>> = {
  createdByRecipient: 'aboutMade',
  lastEditedByRecipient: 'aboutEdited',
  namesRecipient: 'aboutNamed',
};

/** A rule as one sentence, which is read back to the same rule: all but its id, its name and its owner. */
export function saySentence(rule: Rule, spoken: Spoken): string {
  const { language, locale, known } = spoken;
  const pieces = new RuleSaying(new Saying(language, locale, known), tidyRule(rule, known.sources), spoken.base).say();
  return joined(pieces, new Cutter(language, locale, known));
}

/** The pieces as text; a name that would be cut otherwise than as that name is put in quotes. */
function joined(pieces: readonly Piece[], cutter: Cutter): string {
  const isSafe = ({ text }: Piece) => {
    const [first, ...others] = cutter.cut(text);
    return others.length === 0 && first?.tokenType === Name;
  };
  const said = pieces.map((piece) => (piece.isName && !isSafe(piece) ? { ...piece, text: quoted(piece.text) } : piece));
  const text = write(said);
  // A name may go on with the words behind it as another name: then it is put in quotes too.
  const starts = new Map(cutter.cut(text).map((token) => [token.startOffset, token.endOffset]));
  const { pieces: whole } = place(said);
  const closed = said.map((piece, at) => {
    const stands = whole[at];
    const isWhole = stands !== undefined && starts.get(stands.from) === stands.to - 1;
    return piece.isName && !isWhole && !piece.text.startsWith('“') ? { ...piece, text: quoted(piece.text) } : piece;
  });
  return write(closed);
}

function place(pieces: readonly Piece[]): { text: string; pieces: { from: number; to: number }[] } {
  let text = '';
  const places = pieces.map((piece) => {
    text += text === '' || piece.isClose ? '' : ' ';
    const from = text.length;
    text += piece.text;
    return { from, to: text.length };
  });
  return { text, pieces: places };
}
const write = (pieces: readonly Piece[]): string => place(pieces).text;

/** What one of a source is called stands within a sentence: *a loan*. */
const inSmall = (piece: Piece): Piece =>
  piece.isName ? { ...piece, text: piece.text.replace(/^./u, (first) => first.toLowerCase()) } : piece;

/** Says one rule, part by part, in the order in which a sentence has them. */
class RuleSaying {
  private readonly conditions: ConditionSaying;

  constructor(
    private readonly saying: Saying,
    private readonly rule: Rule,
    private readonly base: Rule,
  ) {
    this.conditions = new ConditionSaying(saying, this.sources());
  }

  private sources() {
    return this.rule.scope.sources.flatMap((id) => this.saying.known.sources.get(id) ?? []);
  }

  say(): Piece[] {
    const { saying, rule } = this;
    const clauses = [
      this.pace(rule.pace),
      this.cause('doneBy', rule.by.only),
      this.cause('notDoneBy', rule.by.except),
      ...this.during(),
      this.part(ABOUT[rule.about]),
      this.part(rule.ownChanges && 'ownToo'),
      this.cause('butNot', rule.except),
      rule.channels && [...saying.word('only'), ...this.channels(rule.channels)],
      rule.limit && [
        ...saying.word('atMostOnce'),
        ...saying.span(rule.limit.within),
        ...saying.word(PER[rule.limit.per]),
      ],
      this.part(!rule.together && 'oneByOne'),
      this.burst(),
      this.part(rule.urgency !== 'important' && rule.urgency),
      ...this.answering(),
      ...this.message(),
      rule.zone !== this.base.zone && [...saying.word('inZone'), ...saying.plain(rule.zone)],
    ].flatMap((clause) => (clause && clause.length > 0 ? [clause] : []));
    return [
      ...saying.word('tell'),
      ...this.people(rule.to),
      ...this.occasion(),
      ...clauses.flatMap((clause) => [...saying.word('comma'), ...clause]),
    ];
  }

  private part(key: Keyword | false | undefined): Piece[] | null {
    return key ? this.saying.word(key) : null;
  }

  private occasion(): Piece[] {
    const { saying, rule } = this;
    const { when, due, idle, tally, report } = rule;
    if (when) return [...saying.word('when'), ...this.lookAt(), ...this.happening(when)];
    if (due) return this.due(due);
    if (idle)
      return [
        ...saying.word('nothingFor'),
        ...saying.span(idle.for),
        ...saying.word('inside'),
        ...this.lookAt(),
        ...this.aslong(idle.if),
        ...this.repeated(idle.repeat),
      ];
    if (tally) return this.tally(tally);
    if (!report) return [];
    return [
      ...this.schedule(report),
      ...saying.word('report'),
      ...this.lookAt(true),
      ...this.aslong(report.if),
      ...(report.empty ? saying.word('evenEmpty') : []),
    ];
  }

  private due(due: NonNullable<Rule['due']>): Piece[] {
    const { saying } = this;
    const sideOf = (lead: string | undefined) => {
      if (lead === undefined || lead === 'PT0S') return null;
      return lead.startsWith('-') ? 'before' : 'after';
    };
    const all = leadsOf(due);
    // Of those that stand in a row on one side, the last says which side it is.
    const leads = all.map((lead, at) => {
      const side = sideOf(lead);
      if (side === null) return saying.word('onTheDay');
      const span = saying.span(lead.replace(/^-/, ''));
      return sideOf(all[at + 1]) === side ? span : [...span, ...saying.word(side)];
    });
    return [
      ...saying.joined(leads, 'and'),
      ...this.temporal(due.field),
      ...saying.word('of'),
      ...this.lookAt(),
      ...(due.at === null ? [] : [...saying.word('at'), ...saying.plain(due.at)]),
      ...this.aslong(due.if),
      ...this.repeated(due.repeat),
      ...(due.late === 'skip' ? saying.word('notLate') : []),
    ];
  }

  private temporal(id: string): Piece[] {
    return this.saying.name(id, [fieldChoices(this.sources(), ({ type }) => isTemporalType(type))]);
  }

  private tally({ of, per, becomes, kinds }: NonNullable<Rule['tally']>): Piece[] {
    const { saying } = this;
    const figures = fieldChoices(this.sources(), ({ type }) => isFigureType(type));
    const what =
      of === 'items'
        ? saying.word('numberOf')
        : [...saying.word('sumOf'), ...saying.name(of.sum, [figures]), ...saying.word('of')];
    const { value } = becomes;
    return [
      ...what,
      ...this.lookAt(of === 'items'),
      ...(per === null ? [] : [...saying.word('forEach'), ...this.conditions.field(per)]),
      ...saying.word(MARK[becomes.op] ?? 'above'),
      ...(typeof value === 'object' ? saying.money(value) : saying.number(value)),
      ...(kinds.length > 0 ? [...saying.word('toldIf'), ...this.kinds(kinds)] : []),
    ];
  }

  /** What it looks at: one item of a source, or the source, where it is about many of them. */
  private lookAt(isMany = false): Piece[] {
    const { saying, rule } = this;
    const { sources, under, items, linked, where } = rule.scope;
    const choices = sourceChoices(saying.known);
    const names = (ids: readonly string[], kind: NameKind, among: { id: string; name: string; source: string }[]) =>
      saying.row(
        ids.map((id) =>
          saying.name(id, [{ kind, of: null, among: among.filter((one) => sources.includes(one.source)) }]),
        ),
        'or',
      );
    return [
      ...saying.joined(
        sources.map((id) => {
          const [single = { among: [] }, whole] = choices;
          const isOne = !isMany && single.among.some((one) => one.id === id);
          if (!isOne) return saying.name(id, whole ? [whole] : choices);
          return saying.oneOf(saying.name(id, choices).map(inSmall));
        }),
        'or',
      ),
      ...(isOpen(where) ? [] : (this.ofValue(where) ?? [...saying.word('where'), ...this.conditions.say(where)])),
      ...(under.length > 0 ? [...saying.word('below'), ...names(under, 'folder', [...saying.known.folders])] : []),
      ...(items.length > 0 ? [...saying.word('namely'), ...names(items, 'item', [...saying.known.items])] : []),
      ...(linked ? saying.word('withLinked') : []),
    ];
  }

  /** *of Woven Waters*: the one test that the items are narrowed by, where its value tells its field. */
  private ofValue(where: StateTest): Piece[] | null {
    const [source] = this.sources();
    // Of a choice the field says more: nobody speaks of *a loan of Agreed*.
    const isOfThing =
      isKind(where, 'test') && where.op === 'is' && source && fieldOf(source, where.field)?.type !== 'choice';
    const said = isOfThing ? this.bareValue(where) : null;
    return said && [...this.saying.word('of'), ...said];
  }

  /** A value that can stand in one field alone, by its name; `null` of any other. */
  private bareValue({ field: id, value }: FieldTest): Piece[] | null {
    const [source] = this.sources();
    const field = source && fieldOf(source, id);
    if (!field || typeof value !== 'string') return null;
    const called = valueChoices(field, this.saying.known).flatMap(({ among }) =>
      among.filter((one) => one.id === value),
    );
    const [only, ...others] = called.flatMap(({ name }) => fieldsWith(source, name, null, this.saying.known));
    const said = this.conditions.value(value, field);
    return only?.id === id && others.length === 0 && said.length === 1 && said[0]?.isName ? said : null;
  }

  /** *goes from Agreed to On view*, *becomes On view*: what happens to a field that the values tell. */
  private turnsInto(node: Condition): Piece[] | null {
    const turn = fromTo(node);
    const [first] = Array.isArray(turn?.was.value) ? turn.was.value : [];
    if (turn) return this.bareValue({ ...turn.was, value: first as Value }) && this.conditions.say(node).slice(1);
    const test = isKind(node, 'became') && isKind(node.became, 'test') ? node.became : null;
    const isPlain = test?.op === 'is' && !test.matchCase;
    return isPlain && this.bareValue(test) ? this.conditions.say(node).slice(1) : null;
  }

  private happening({ kinds, if: node }: NonNullable<Rule['when']>): Piece[] {
    const { saying } = this;
    const turned = kinds.length === 0 ? this.turnsInto(node) : null;
    if (turned) return turned;
    const did = isOpen(node) ? [] : this.conditions.say(node);
    if (kinds.length === 0) return did.length === 0 ? saying.word('happens') : [...saying.word('changesSo'), ...did];
    return [...this.kinds(kinds), ...(did.length === 0 ? [] : [...saying.word('soThat'), ...did])];
  }

  private kinds(kinds: readonly ChangeKind[]): Piece[] {
    const { saying } = this;
    return saying.joined(
      kinds.map((kind, at) => {
        const known = KINDS.find((one) => one === kind);
        if (!known) return [...saying.word('custom'), ...saying.text(kind)];
        // The first says *is* for those behind it.
        const isBehind = KINDS.some((one) => one === kinds[at - 1]);
        return isBehind ? saying.plain(shortKind(known, saying.language)) : saying.word(known);
      }),
      'or',
    );
  }

  private aslong(test: StateTest): Piece[] {
    return isOpen(test) ? [] : [...this.saying.word('while'), ...this.conditions.say(test)];
  }

  private repeated(repeat: Repeat | null): Piece[] {
    const { saying } = this;
    if (!repeat) return [];
    return [...saying.word('againEvery'), ...saying.span(repeat.every), ...saying.times(repeat.times)];
  }

  private burst(): Piece[] | null {
    const { saying } = this;
    const burst = this.rule.when?.burst;
    if (!burst) return null;
    return [
      ...saying.plain(String(burst.count)),
      ...saying.word('burst'),
      ...saying.span(burst.within),
      ...saying.word(PER[burst.per]),
    ];
  }

  private schedule({ every, at, on }: Schedule): Piece[] {
    const { saying } = this;
    const days = saying.joined(
      (on ?? []).map((day) => saying.dayOf(day)),
      'and',
    );
    const isWeekly = every === 'week' && on?.every((day) => typeof day === 'string');
    const lead = saying.onDays(on?.some((day) => typeof day === 'number') ?? false);
    const when = days.length > 0 ? [...saying.word(EVERY[every]), ...lead, ...days] : saying.word(EVERY[every]);
    const weekly = isWeekly && on && on.length > 0 ? [...saying.word('every'), ...days] : when;
    return [...weekly, ...saying.word('at'), ...saying.plain(at)];
  }

  private pace(pace: Pace): Piece[] | null {
    const { saying } = this;
    if (pace.kind === 'now') return null;
    if (pace.kind === 'digest')
      return [...this.schedule(pace), ...(pace.zone ? [...saying.word('inZone'), ...saying.plain(pace.zone)] : [])];
    return [
      ...saying.word('settled'),
      ...(pace.quiet === 'PT10M' ? [] : [...saying.word('for'), ...saying.span(pace.quiet)]),
      ...(pace.most === 'PT2H' ? [] : [...saying.word('most'), ...saying.span(pace.most)]),
    ];
  }

  private during(): (Piece[] | null)[] {
    const { saying } = this;
    const { from, until, near } = this.rule.during;
    return [
      from && [...saying.word('from'), ...saying.day(from)],
      until && [...saying.word('until'), ...saying.day(until)],
      near && [
        ...saying.word('near'),
        ...saying.span(near.ahead),
        ...saying.word('before'),
        ...(near.behind === 'PT0S' ? [] : [...saying.word('to'), ...saying.span(near.behind), ...saying.word('after')]),
        ...this.temporal(near.field),
      ],
    ].map((part) => part || null);
  }

  private cause(key: Keyword, people: readonly Selector[]): Piece[] | null {
    const [only, ...others] = people;
    if (!only) return null;
    const isImport = key === 'notDoneBy' && others.length === 0 && asKind(only, 'system')?.system === 'import';
    return isImport ? this.saying.word('notImports') : [...this.saying.word(key), ...this.people(people)];
  }

  private channels(channels: readonly Channel[]): Piece[] {
    return this.saying.joined(
      channels.map((channel) => this.saying.word(channel)),
      'and',
    );
  }

  private people(selectors: readonly Selector[]): Piece[] {
    if (selectors.length === 0) return this.saying.word('nobody');
    return this.saying.row(
      selectors.map((selector) => this.whom(selector)),
      'and',
    );
  }

  private whom(selector: Selector): Piece[] {
    const { saying } = this;
    const { people, groups, contacts, webhooks } = saying.known;
    const of = (kind: NameKind, id: string, among: readonly { id: string; name: string }[]) =>
      saying.name(id, [{ kind, of: null, among }]);
    const fits = ({ type }: { type: Parameters<typeof namesSomebody>[0] }) => namesSomebody(type);
    return visitSelector<Piece[]>(selector, {
      person: ({ person }) => this.bare(person) ?? [...saying.word('person'), ...of('person', person, people)],
      group: ({ group }) => this.bare(group) ?? [...saying.word('group'), ...of('group', group, groups)],
      field: ({ field }) => [...saying.word('the'), ...saying.name(field, [fieldChoices(this.sources(), fits)])],
      linked: ({ linked, field }) => {
        const [source] = this.sources();
        const target = saying.known.sources.get((source && fieldOf(source, linked)?.to) ?? '');
        return [
          ...saying.word('the'),
          ...saying.name(field, [fieldChoices(target ? [target] : [], fits)]),
          ...saying.words('of', 'the'),
          ...saying.name(linked, [fieldChoices(this.sources(), ({ type }) => isLinkType(type))]),
        ];
      },
      creator: () => saying.word('creator'),
      lastEditor: () => saying.word('lastEditor'),
      followers: () => saying.word('followers'),
      mentioned: () => saying.word('mentioned'),
      managerOf: ({ managerOf }) => [...saying.word('managerOf'), ...this.whom(managerOf)],
      contact: ({ contact }) => [...saying.word('contact'), ...of('contact', contact, contacts)],
      webhook: ({ webhook }) => [...saying.word('webhook'), ...of('webhook', webhook, webhooks)],
      told: () => saying.word('told'),
      cases: ({ cases, else: others }) => [
        ...saying.word('byCase'),
        ...saying.bracketed(
          saying.joined(
            [
              ...cases.map((one) => [
                ...saying.word('where'),
                ...this.conditions.say(one.if as StateTest),
                ...saying.word('colon'),
                ...this.people(one.to),
              ]),
              ...(others ? [[...saying.words('otherwise', 'colon'), ...this.people(others)]] : []),
            ],
            'semicolon',
          ),
        ),
      ],
      tell: ({ tell, channels }) => [...this.whom(tell), ...this.channels(channels)],
      system: ({ system }) =>
        system === '*' ? saying.word('anyProgram') : [...saying.word('program'), ...saying.text(system)],
      anybody: () => saying.word('anybody'),
    });
  }

  /** Somebody's name, or a group's, by itself; `null` where it might be somebody else's, or a field's. */
  private bare(id: string): Piece[] | null {
    const { people, groups } = this.saying.known;
    const name = [...people, ...groups].find((one) => one.id === id)?.name;
    const choices = whomChoices(this.saying.known, this.sources());
    const called = name === undefined ? [] : choices.flatMap((choice) => calledSo(choice, name, null));
    return called.length === 1 && called[0]?.id === id ? this.saying.name(id, choices) : null;
  }

  private answering(): (Piece[] | null)[] {
    const { saying } = this;
    const { ack } = this.rule;
    if (!ack) return [];
    const { remind } = ack;
    return [
      saying.word(ack.by === 'anyone' ? 'ackAnyone' : 'ackEveryone'),
      remind && [...saying.word('remind'), ...saying.span(remind.after), ...saying.times(remind.times)],
      ...ack.escalate.map(({ after, to }) => [
        ...saying.word('escalate'),
        ...saying.span(after),
        ...saying.word('alsoTell'),
        ...this.people(to),
      ]),
      this.part(!ack.closeWhenCeased && 'staysOpen'),
      this.part(ack.allClear && 'allClear'),
    ];
  }

  private message(): (Piece[] | null)[] {
    const { saying } = this;
    const { wording, subject, body, show, doNow, from, replyTo, attach = [] } = this.rule.message;
    const named = (key: Keyword, id: string, among: readonly { id: string; name: string }[]) => [
      ...saying.word(key),
      ...saying.name(id, [{ kind: 'wording', of: null, among }]),
    ];
    const text = (key: Keyword, said: string | null) =>
      said === null ? null : [...saying.word(key), ...saying.text(said)];
    const fields = show.map((id) => this.conditions.field(id));
    return [
      wording === null ? null : named('wording', wording, saying.known.wordings),
      text('subject', subject),
      text('body', body),
      fields.length > 0 ? [...saying.word('show'), ...saying.row(fields, 'and')] : null,
      text('doNow', doNow),
      from === 'owner' ? saying.word('fromOwner') : null,
      typeof from === 'object' ? named('fromSender', from.sender, saying.known.senders) : null,
      text('replyTo', replyTo),
      attach.length > 0
        ? [
            ...saying.word('attach'),
            ...saying.joined(
              attach.map((kind) => saying.word(kind)),
              'and',
            ),
          ]
        : null,
    ];
  }
}
