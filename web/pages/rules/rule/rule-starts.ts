import type { Sample } from '../../../../contract/wire/index.ts';
import { stateTestSchema } from '../../../../contract/documents/index.ts';
import { type Condition, openRule, type Rule, isKind } from '../../../../core/rules/index.ts';
import { fieldOf, isEmpty, type Source } from '../../../../core/values/index.ts';
import type { Viewer } from '../../../parts/index.ts';
import { t } from '../../../words/rule.ts';

/** A rule as it begins: important, and for members told to themselves. */
export const newRule = (viewer: Viewer, source: string): Rule => ({
  ...openRule('new', '', viewer.me.id, [source]),
  urgency: 'important',
  zone: viewer.me.zone,
  to: viewer.directory.coordinates.includes(source) ? [] : [{ person: viewer.me.id }],
});

/** A new rule narrowed to what somebody was looking at: a filtered view, a folder, one item. What cannot be read is left out. */
export function ruleFrom(
  rule: Rule,
  { where, item, under }: { where: string | null; item: string | null; under: string | null },
): Rule {
  const test = where === null ? null : stateTestSchema.safeParse(parsed(where));
  const scope = {
    ...rule.scope,
    ...(test?.success ? { where: isKind(test.data, 'test') ? { all: [test.data] } : test.data } : {}),
    items: item === null ? [] : [item],
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

/** A rule that would catch such a change again: its kind, and what its fields became. */
export function ruleLike(rule: Rule, { row }: Sample, source: Source | undefined): Rule {
  const parts = row.fields.flatMap(({ field: id, after }): Condition[] => {
    const field = source && fieldOf(source, id);
    if (!field) return [];
    if ((field.type === 'choice' || field.type === 'boolean') && !isEmpty(after))
      return [{ became: { field: id, op: 'is', value: after } }];
    return [{ changed: id }];
  });
  const [first] = parts;
  const condition: Condition =
    row.kind !== 'changed' || !first ? { all: [] } : parts.length === 1 ? first : { any: parts };
  return { ...rule, when: { kinds: row.kind === 'changed' ? [] : [row.kind], if: condition, burst: null } };
}

export interface Start {
  words: string;
  rule: Rule;
}

/** A handful of rules that people of such a source often want, fitted to its fields. */
export function startsFor(rule: Rule, source: Source): Start[] {
  const field = (...types: string[]) =>
    source.fields.find((one) => types.includes(one.type) && one.id !== source.titleField);
  const choice = field('choice');
  const date = field('date', 'dateTime');
  const amount = field('money', 'number');
  const person = field('person', 'people');
  const when = (condition: Condition, kinds: NonNullable<Rule['when']>['kinds'] = []): Rule['when'] => ({
    kinds,
    if: condition,
    burst: null,
  });
  const last = choice?.options?.at(-1);
  const toPerson = person && rule.to.length === 0 ? [{ field: person.id }] : rule.to;
  return [
    ...(choice && last
      ? [
          {
            words: t('becomes', { name: choice.name, last }),
            rule: {
              ...rule,
              when: when({ became: { field: choice.id, op: 'is' as const, value: last } }),
              to: toPerson,
            },
          },
        ]
      : []),
    ...(date
      ? [
          {
            words: t('n14DaysBefore', { name: date.name }),
            rule: {
              ...rule,
              when: null,
              due: {
                field: date.id,
                offset: '-P14D',
                at: '09:00',
                if: { all: [] },
                repeat: null,
                late: 'now' as const,
              },
              to: toPerson,
            },
          },
        ]
      : []),
    ...(amount
      ? [
          {
            words: t('risesBy10OrMore', { name: amount.name }),
            rule: { ...rule, when: when({ rose: { field: amount.id, percent: 10 } }) },
          },
        ]
      : []),
    ...(person
      ? [
          {
            words: t('changes', { name: person.name }),
            rule: { ...rule, when: when({ changed: person.id }), to: toPerson },
          },
        ]
      : []),
    {
      words: t('somethingNew'),
      rule: { ...rule, when: when({ all: [] }, ['created']), pace: { kind: 'digest', every: 'day', at: '08:30' } },
    },
    ...(source.kind === 'folders'
      ? [
          {
            words: t('aNewVersionOfA'),
            rule: {
              ...rule,
              when: when({ all: [] }, ['contentAdded']),
              pace: { kind: 'settled' as const, quiet: 'PT10M', most: 'PT2H' },
            },
          },
        ]
      : []),
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
