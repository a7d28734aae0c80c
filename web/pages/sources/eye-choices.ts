import { openRule, type Rule, type StateTest } from '../../../core/rules/index.ts';
import { addDays, dateIn, instantOf } from '../../../core/time/index.ts';
import { type Field, type Fields, formatValue, type Source } from '../../../core/values/index.ts';
import type { Viewer } from '../../parts/index.ts';
import { t } from '../../words/sources.ts';

/** What is kept an eye on: one item, everything below a folder, or a whole source. */
export interface EyeTarget {
  source: Source;
  item?: { id: string; title: string; fields: Fields };
  under?: { id: string; name: string };
  /** Only what is in this state: a filtered view. */
  where?: StateTest;
}

export interface Choice {
  id: string;
  words: string;
  /** As it stands in the sentence. */
  said: string;
  part: Partial<Rule>;
}

const when = (part: Partial<NonNullable<Rule['when']>>): Partial<Rule> => ({
  when: { kinds: [], if: { all: [] }, burst: null, ...part },
});

/** What one may want to hear of, fitted to the source: the fields that matter most come first. */
export function whatChoices({ source, item }: EyeTarget): Choice[] {
  const choice = source.fields.find((field) => field.type === 'choice');
  const date = source.fields.find((field) => field.type === 'date');
  const end = choice?.options?.at(-1);
  return [
    { id: 'anything', words: t('anything'), said: t('anythingHappens'), part: when({}) },
    ...(item
      ? []
      : [{ id: 'new', words: t('newOnes'), said: t('somethingNewComes'), part: when({ kinds: ['created'] }) }]),
    ...(source.kind === 'folders'
      ? [
          {
            id: 'version',
            words: t('newVersions'),
            said: t('thereIsANewVersion'),
            part: when({ kinds: ['contentAdded'] }),
          },
        ]
      : []),
    ...(choice
      ? [
          {
            id: 'choice',
            words: t('its', { name: choice.name.toLowerCase() }),
            said: t('itsChanges', { name: choice.name.toLowerCase() }),
            part: when({ if: { changed: choice.id } }),
          },
        ]
      : []),
    ...(choice && end
      ? [
          {
            id: 'end',
            words: `${choice.name.toLowerCase()} ${end}`,
            said: t('itsBecomes', { name: choice.name.toLowerCase(), end }),
            part: when({ if: { became: { field: choice.id, op: 'is', value: end } } }),
          },
        ]
      : []),
    ...(date
      ? [
          {
            id: 'date',
            words: t('its', { name: date.name.toLowerCase() }),
            said: t('itsChanges', { name: date.name.toLowerCase() }),
            part: when({ if: { changed: date.id } }),
          },
        ]
      : []),
    {
      id: 'deleted',
      words: t('deletions'),
      said: item ? t('itIsDeleted') : t('somethingIsDeleted'),
      part: when({ kinds: ['deleted'] }),
    },
  ];
}

export const soonChoices = (): Choice[] => [
  {
    id: 'settled',
    words: t('onceSettled'),
    said: t('onceItHasBeenQuiet'),
    part: { pace: { kind: 'settled', quiet: 'PT10M', most: 'PT2H' } },
  },
  { id: 'now', words: t('atOnce'), said: t('atOnce'), part: { pace: { kind: 'now' } } },
  {
    id: 'digest',
    words: t('digestAt0830'),
    said: t('inADigestAt08'),
    part: { pace: { kind: 'digest', every: 'day', at: '08:30' } },
  },
];
export const wayChoices = (): Choice[] => [
  { id: 'plan', words: t('myPlan'), said: t('byMyDeliveryPlan'), part: { channels: null } },
  { id: 'ojo', words: t('onlyOjo'), said: t('inOjoAlone'), part: { channels: ['inApp'] } },
  { id: 'email', words: t('emailAsWell'), said: t('inOjoAndByEmail'), part: { channels: ['inApp', 'email'] } },
];

/** What is chosen for each part of the sentence, by the choice's id. */
export interface Chosen {
  what: string;
  soon: string;
  by: string;
  until: string;
}

export function firstChoice({ item, under, where }: EyeTarget): Chosen {
  if (item) return { what: 'anything', soon: 'settled', by: 'plan', until: 'stop' };
  return { what: under || where ? 'anything' : 'new', soon: 'digest', by: 'plan', until: 'stop' };
}

/** How long an eye is kept: until stopped, for a month, or to a date of the item that is yet to come. */
export function untilChoices({ source, item }: EyeTarget, viewer: Viewer, isOwn: boolean): Choice[] {
  const { me } = viewer;
  const today = dateIn(instantOf(me.now), me.zone);
  const isToCome = (field: Field) => field.type === 'date' && String(item?.fields[field.id] ?? '') > today;
  const to = (id: string, words: string, date: string): Choice => ({
    id,
    words,
    said: t('until', {
      day: formatValue({ id: 'day', name: t('day'), type: 'date' }, date, me, viewer.names()),
    }),
    part: { during: { from: null, until: date, near: null } },
  });
  return [
    { id: 'stop', words: isOwn ? t('iStopIt') : t('theyStopIt'), said: '', part: {} },
    to('month', t('aMonthOn'), addDays(today, 30)),
    ...source.fields
      .filter(isToCome)
      .slice(0, 1)
      .map((field) => to('date', field.name, String(item?.fields[field.id]))),
  ];
}

/** What the eye is on, by name. */
export function nameOf({ source, item, under, where }: EyeTarget): string {
  if (item) return item.title;
  if (under) return t('everythingBelow', { name: under.name });
  return where ? t('someOf', { name: source.name }) : source.name;
}

/** The rule that an eye is: of its target, by the parts chosen. */
export function ruleOf(target: EyeTarget, person: string, viewer: Viewer, parts: Choice[], isLinked: boolean): Rule {
  const { source, item, under, where } = target;
  const [what] = parts;
  const linked = isLinked ? linkedSources(source, viewer.directory.sources) : [];
  return {
    ...openRule('draft', t('anEyeOn', { named: nameOf(target) }).slice(0, 120), person, [source.id]),
    zone: viewer.me.zone,
    to: [{ person }],
    scope: {
      sources: [source.id, ...linked],
      under: under ? [under.id] : [],
      items: item ? [item.id] : [],
      linked: isLinked,
      where: where ?? { all: [] },
    },
    ...(Object.assign({}, ...parts.map((one) => one.part)) as Partial<Rule>),
    // What links to it has fields of its own: of them anything counts.
    ...(isLinked ? when({ kinds: what?.part.when?.kinds ?? [] }) : {}),
  };
}

/** Sources that link to one, or that it links to. */
export const linkedSources = (source: Source, all: readonly Source[]): string[] => {
  const out = source.fields.flatMap((field) => (field.to ? [field.to] : []));
  const back = all.filter((one) => one.fields.some((field) => field.to === source.id)).map((one) => one.id);
  return [...new Set([...out, ...back])].filter((id) => id !== source.id && all.some((one) => one.id === id));
};
