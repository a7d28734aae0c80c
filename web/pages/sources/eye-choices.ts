import type { Pace } from '../../../core/people/index.ts';
import { openRule, type Rule, type StateTest } from '../../../core/rules/index.ts';
import type { CivilDate, Duration } from '../../../core/time/index.ts';
import { type ChangeKind, type Field, type Fields, isFigureType, type Source } from '../../../core/values/index.ts';
import type { Viewer } from '../../parts/index.ts';
import { t } from '../../words/sources.ts';

/** What is kept an eye on: one item, everything below a folder, or a whole source. */
export interface EyeTarget {
  source: Source;
  item?: { id: string; title: string; fields: Fields };
  under?: { id: string; name: string };
  /** Just these items, by their ids. */
  these?: readonly string[];
  /** Whether it is noted who opens it. */
  isNoted?: boolean;
  /** Only what is in this state: a filtered view. */
  where?: StateTest;
}

/** What one may want to hear of: anything, one kind of what is done, or one field and what becomes of it. */
export type EyeWhat =
  | { what: 'anything' }
  /** Anything, also of what links to the item or is linked by it. */
  | { what: 'linked' }
  | { what: 'done'; kind: ChangeKind }
  | { what: 'changes' | 'rises' | 'falls'; field: string }
  | { what: 'becomes'; field: string; value: string | boolean }
  | { what: 'near'; field: string; days: number };

export const SOONS = ['settled', 'now', 'digest'] as const;
export const BY_WHOM = ['others', 'people', 'anybody'] as const;
export const WAYS = ['plan', 'ojo', 'email'] as const;

/** Everything that an eye leaves open. */
export interface EyeChoice {
  whose: string;
  what: EyeWhat;
  by: (typeof BY_WHOM)[number];
  soon: (typeof SOONS)[number];
  /** How long nothing more must have changed, where it comes once it has settled. */
  quiet: Duration;
  way: (typeof WAYS)[number];
  until: CivilDate | null;
}

/** What is sensible from the start: of one item anything, of a source what is new, in a digest. */
export function firstChoice({ item, under, where, these }: EyeTarget, whose: string): EyeChoice {
  const what: EyeWhat = item || under || where || these ? { what: 'anything' } : { what: 'done', kind: 'created' };
  return { whose, what, by: 'others', soon: item ? 'settled' : 'digest', quiet: 'PT10M', way: 'plan', until: null };
}

/** What can be done to what is looked at, and is worth an eye of its own. */
export const kindsFor = ({ source, item, these, isNoted = false }: EyeTarget): ChangeKind[] => [
  ...(item || these ? [] : (['created'] as const)),
  ...(source.kind === 'folders'
    ? (['contentAdded', 'checkedOut', 'approved', 'rejected', 'moved', 'shared'] as const)
    : []),
  ...(isNoted ? (['opened'] as const) : []),
  'commented',
  'deleted',
];

/** What can become of a field, the plainest first. */
export function turnsOf(field: Field): EyeWhat[] {
  const of = field.id;
  const values: (string | boolean)[] = field.type === 'boolean' ? [true, false] : (field.options ?? []);
  const becomes = field.type === 'choices' ? [] : values;
  return [
    { what: 'changes', field: of },
    ...becomes.map((value): EyeWhat => ({ what: 'becomes', field: of, value })),
    ...(isFigureType(field.type) ? [{ what: 'rises', field: of } as const, { what: 'falls', field: of } as const] : []),
    ...(field.type === 'date' || field.type === 'dateTime' ? [{ what: 'near', field: of, days: 7 } as const] : []),
  ];
}

const paceOf = (soon: EyeChoice['soon'], quiet: Duration): Pace =>
  ({
    settled: { kind: 'settled' as const, quiet, most: 'PT2H' },
    now: { kind: 'now' as const },
    digest: { kind: 'digest' as const, every: 'day' as const, at: '08:30' },
  })[soon];

/** How soon it can be told: a date is told on its day, and settles never. */
export const soonsFor = ({ what }: EyeWhat): EyeChoice['soon'][] => (what === 'near' ? ['now', 'digest'] : [...SOONS]);

/** When a date comes near it is told at this time of day. */
const NEAR_AT = '08:30';

function occasionOf(what: EyeWhat): Pick<Rule, 'when' | 'due'> {
  const when = (part: Partial<NonNullable<Rule['when']>>) => ({
    due: null,
    when: { kinds: [], if: { all: [] }, burst: null, ...part },
  });
  switch (what.what) {
    case 'anything':
    case 'linked':
      return when({});
    case 'done':
      return when({ kinds: [what.kind] });
    case 'changes':
      return when({ if: { changed: what.field } });
    case 'rises':
      return when({ if: { rose: { field: what.field } } });
    case 'falls':
      return when({ if: { fell: { field: what.field } } });
    case 'becomes':
      return when({ if: { became: { field: what.field, op: 'is', value: what.value } } });
    case 'near': {
      const offset = what.days === 0 ? 'PT0S' : `-P${what.days}D`;
      const due = { field: what.field, offset, at: NEAR_AT, if: { all: [] }, repeat: null, late: 'skip' as const };
      return { when: null, due };
    }
    default:
      return what satisfies never;
  }
}

/** What the eye is on, by name. */
export function nameOf({ source, item, under, where, these }: EyeTarget): string {
  if (item) return item.title;
  if (under) return t('everythingBelow', { name: under.name });
  if (these) return t('theseOf', { count: these.length, name: source.name });
  return where ? t('someOf', { name: source.name }) : source.name;
}

/** The rule that an eye is: of its target, by what is chosen. */
export function eyeRule(target: EyeTarget, choice: EyeChoice, viewer: Viewer): Rule {
  const { source, item, under, where, these = [] } = target;
  const { whose, what, by, way, until } = choice;
  const isLinked = what.what === 'linked';
  const linked = isLinked ? linkedSources(source, viewer.directory.sources) : [];
  const soon = soonsFor(what).includes(choice.soon) ? choice.soon : 'now';
  const isDated = what.what === 'near';
  return {
    ...openRule('draft', t('anEyeOn', { named: nameOf(target) }).slice(0, 120), whose, [source.id]),
    zone: viewer.me.zone,
    to: [{ person: whose }],
    scope: {
      sources: [source.id, ...linked],
      under: under ? [under.id] : [],
      items: item ? [item.id] : [...these],
      linked: isLinked,
      where: where ?? { all: [] },
    },
    ...occasionOf(what),
    // Nobody does it that a date comes near.
    by: { only: [], except: by === 'people' && !isDated ? [{ system: '*' }] : [] },
    ownChanges: by === 'anybody' && !isDated,
    pace: paceOf(soon, choice.quiet),
    channels: { plan: null, ojo: ['inApp' as const], email: ['inApp' as const, 'email' as const] }[way],
    during: { from: null, until, near: null },
  };
}

/** Sources that link to one, or that it links to. */
export const linkedSources = (source: Source, all: readonly Source[]): string[] => {
  const out = source.fields.flatMap((field) => (field.to ? [field.to] : []));
  const back = all.filter((one) => one.fields.some((field) => field.to === source.id)).map((one) => one.id);
  return [...new Set([...out, ...back])].filter((id) => id !== source.id && all.some((one) => one.id === id));
};
