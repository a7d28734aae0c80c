import type { Sample } from '../../../../contract/wire/index.ts';
import { stateTestSchema } from '../../../../contract/documents/index.ts';
import { type Condition, type Due, openRule, type Rule, isKind } from '../../../../core/rules/index.ts';
import {
  type Field,
  fieldOf,
  type FieldType,
  isEmpty,
  isFigureType,
  isPersonType,
  isTemporalType,
  type Source,
  optionName,
} from '../../../../core/values/index.ts';
import type { Viewer } from '../../../parts/index.ts';
import { t } from '../../../words/rule.ts';

/** A rule as it begins: important, and for members told to themselves. */
export const newRule = (viewer: Viewer, source: string): Rule => ({
  ...openRule('new', '', viewer.me.id, [source]),
  urgency: 'important',
  zone: viewer.me.zone,
  to: viewer.directory.coordinates.includes(source) ? [] : [{ person: viewer.me.id }],
});

/** A new rule narrowed to what somebody was looking at: a filtered view, a folder, some items. What cannot be read is left out. */
export function ruleFrom(
  rule: Rule,
  { where, items, under }: { where: string | null; items: string[]; under: string | null },
): Rule {
  const test = where === null ? null : stateTestSchema.safeParse(parsed(where));
  const scope = {
    ...rule.scope,
    ...(test?.success ? { where: isKind(test.data, 'test') ? { all: [test.data] } : test.data } : {}),
    items,
    under: under === null ? [] : [under],
  };
  return { ...rule, scope };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

function anyOf(parts: Condition[]): Condition {
  const [first] = parts;
  if (!first) return { all: [] };
  return parts.length === 1 ? first : { any: parts };
}

/** A rule that would catch such a change again: its kind, and what its fields became. */
export function ruleLike(rule: Rule, { row }: Sample, source: Source | undefined): Rule {
  const parts = row.fields.flatMap(({ field: id, after }): Condition[] => {
    const field = source && fieldOf(source, id);
    if (!field) return [];
    if ((field.type === 'choice' || field.type === 'boolean') && !isEmpty(after))
      return [{ became: { field: id, op: 'is', value: after } }];
    return [{ changed: id }];
  });
  const isChanged = row.kind === 'changed';
  return {
    ...rule,
    when: { kinds: isChanged ? [] : [row.kind], if: isChanged ? anyOf(parts) : { all: [] }, burst: null },
  };
}

export interface Start {
  words: string;
  rule: Rule;
}

const when = (condition: Condition, kinds: NonNullable<Rule['when']>['kinds'] = []): Rule['when'] => ({
  kinds,
  if: condition,
  burst: null,
});

/** A handful of rules that people of such a source often want, fitted to its fields. */
export function startsFor(rule: Rule, source: Source): Start[] {
  const field = (is: (type: FieldType) => boolean) =>
    source.fields.find((one) => is(one.type) && one.id !== source.titleField);
  const person = field(isPersonType);
  const withPerson = person && rule.to.length === 0 ? { ...rule, to: [{ field: person.id }] } : rule;
  return [
    ...choiceStart(
      withPerson,
      field((type) => type === 'choice'),
    ),
    ...dateStart(withPerson, field(isTemporalType)),
    ...amountStart(rule, field(isFigureType)),
    ...personStart(withPerson, person),
    {
      words: t('somethingNew'),
      rule: { ...rule, when: when({ all: [] }, ['created']), pace: { kind: 'digest', every: 'day', at: '08:30' } },
    },
    ...versionStart(rule, source),
    {
      words: t('nothingHappensFor14Days'),
      rule: { ...rule, when: null, idle: { for: 'P14D', if: { all: [] }, repeat: null } },
    },
    {
      words: t('severalDeletedAtOnce'),
      rule: {
        ...rule,
        when: { kinds: ['deleted'], if: { all: [] }, burst: { count: 3, within: 'PT10M', per: 'actor' } },
      },
    },
  ];
}

function choiceStart(rule: Rule, choice: Field | undefined): Start[] {
  const last = choice?.options?.at(-1);
  if (!choice || !last) return [];
  const condition: Condition = { became: { field: choice.id, op: 'is', value: last } };
  return [
    {
      words: t('becomes', { name: choice.name, last: optionName(choice, last) }),
      rule: { ...rule, when: when(condition) },
    },
  ];
}

function dateStart(rule: Rule, date: Field | undefined): Start[] {
  if (!date) return [];
  const due: Due = { field: date.id, offset: '-P14D', at: '09:00', if: { all: [] }, repeat: null, late: 'now' };
  return [{ words: t('n14DaysBefore', { name: date.name }), rule: { ...rule, when: null, due } }];
}

const amountStart = (rule: Rule, amount: Field | undefined): Start[] =>
  amount
    ? [
        {
          words: t('risesBy10OrMore', { name: amount.name }),
          rule: { ...rule, when: when({ rose: { field: amount.id, percent: 10 } }) },
        },
      ]
    : [];

const personStart = (rule: Rule, person: Field | undefined): Start[] =>
  person ? [{ words: t('changes', { name: person.name }), rule: { ...rule, when: when({ changed: person.id }) } }] : [];

const versionStart = (rule: Rule, source: Source): Start[] =>
  source.kind === 'folders'
    ? [
        {
          words: t('aNewVersionOfA'),
          rule: {
            ...rule,
            when: when({ all: [] }, ['contentAdded']),
            pace: { kind: 'settled', quiet: 'PT10M', most: 'PT2H' },
          },
        },
      ]
    : [];
