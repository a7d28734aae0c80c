import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import type { EyeRow, RuleRow } from '../../../contract/wire/index.ts';
import { plainWords, rulePath, paceWords } from '../../../core/messages/index.ts';
import { eyeOf, openRule, type Rule, type StateTest } from '../../../core/rules/index.ts';
import { addDays, dateIn, instantOf } from '../../../core/time/index.ts';
import { type Fields, formatValue, type Source } from '../../../core/values/index.ts';
import { ProblemNote, useNotice, useViewer, whatWords } from '../../parts/index.ts';
import { useCost, useKeepAnEye, useRuleActs, useRules } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/sources.ts';

/** What is kept an eye on: one item, everything below a folder, or a whole source. */
export interface EyeTarget {
  source: Source;
  item?: { id: string; title: string; fields: Fields };
  under?: { id: string; name: string };
  /** Only what is in this state: a filtered view. */
  where?: StateTest;
}

interface Choice {
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
function whatChoices({ source, item }: EyeTarget): Choice[] {
  const choice = source.fields.find((field) => field.type === 'choice');
  const date = source.fields.find((field) => field.type === 'date');
  const end = choice?.options?.at(-1);
  return [
    { id: 'anything', words: 'anything', said: t('anythingHappens'), part: when({}) },
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

const soonChoices = (): Choice[] => [
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
const wayChoices = (): Choice[] => [
  { id: 'plan', words: t('myPlan'), said: t('byMyDeliveryPlan'), part: { channels: null } },
  { id: 'ojo', words: t('onlyOjo'), said: t('inOjoAlone'), part: { channels: ['inApp'] } },
  { id: 'email', words: t('emailAsWell'), said: t('inOjoAndByEmail'), part: { channels: ['inApp', 'email'] } },
];

/** One sentence to complete, sensible from the start, with what it would have cost; one press keeps an eye on the thing. */
export function EyeEditor({ target, onDone }: { target: EyeTarget; onDone?: () => void }) {
  const viewer = useViewer();
  const { me, directory } = viewer;
  const notice = useNotice();
  const keep = useKeepAnEye();
  const { source, item, under, where } = target;
  const [chosen, setChosen] = useState(
    item
      ? { what: 'anything', soon: 'settled', by: 'plan', until: 'stop' }
      : { what: under || where ? 'anything' : 'new', soon: 'digest', by: 'plan', until: 'stop' },
  );
  const [isLinked, setLinked] = useState(false);
  const [person, setPerson] = useState(me.id);
  const today = dateIn(instantOf(me.now), me.zone);
  const dates = item
    ? source.fields.filter((field) => field.type === 'date' && String(item.fields[field.id] ?? '') > today)
    : [];
  const day = (date: string) => formatValue({ id: 'day', name: t('day'), type: 'date' }, date, me, viewer.names());
  const until = (date: string): Partial<Rule> => ({ during: { from: null, until: date, near: null } });
  const UNTIL: Choice[] = [
    { id: 'stop', words: person === me.id ? t('iStopIt') : t('theyStopIt'), said: '', part: {} },
    {
      id: 'month',
      words: t('aMonthOn'),
      said: t('until', { day: day(addDays(today, 30)) }),
      part: until(addDays(today, 30)),
    },
    ...dates.slice(0, 1).map(
      (field): Choice => ({
        id: 'date',
        words: field.name,
        said: t('until', { day: day(String(item?.fields[field.id])) }),
        part: until(String(item?.fields[field.id])),
      }),
    ),
  ];
  const rows = [
    ['what', whatChoices(target)],
    ['soon', soonChoices()],
    ['by', wayChoices()],
    ['until', UNTIL],
  ] as const;
  const of = (name: keyof typeof chosen, list: readonly Choice[]) =>
    list.find((one) => one.id === chosen[name]) ?? (list[0] as Choice);
  const parts = rows.map(([name, list]) => of(name, list));
  const named =
    item?.title ??
    (under ? t('everythingBelow', { name: under.name }) : where ? t('someOf', { name: source.name }) : source.name);
  const rule: Rule = {
    ...openRule('draft', t('anEyeOn', { named }).slice(0, 120), person, [source.id]),
    zone: me.zone,
    to: [{ person }],
    scope: {
      sources: isLinked ? [source.id, ...linkedSources(source, directory.sources)] : [source.id],
      under: under ? [under.id] : [],
      items: item ? [item.id] : [],
      linked: isLinked,
      where: where ?? { all: [] },
    },
    ...(Object.assign({}, ...parts.map((one) => one.part)) as Partial<Rule>),
    // What links to it has fields of its own: of them anything counts.
    ...(isLinked ? when({ kinds: of('what', whatChoices(target)).part.when?.kinds ?? [] }) : {}),
  };
  const cost = useCost(person === me.id ? rule : { ...rule, owner: me.id, to: [{ person: me.id }] }, 30, true);
  const messages = cost.data?.messages;
  const [what, soon, by, end] = parts as [Choice, Choice, Choice, Choice];
  const mayLink = item !== undefined && linkedSources(source, directory.sources).length > 0;
  const save = () =>
    keep.mutate(
      { document: rule, person },
      {
        onSuccess: () => {
          notice({
            words:
              person === me.id
                ? t('youKeepAnEyeOn', { named })
                : t('keepsAnEyeOn', { person: viewer.person(person), named }),
          });
          onDone?.();
        },
      },
    );
  return (
    <div className="eye">
      <p className="eye-sentence">
        {t.rich(person === me.id ? 'tellMeWhen' : 'tellThemWhen', {
          person: viewer.person(person),
          what: <u>{isLinked ? `${what.said} ${t('toItOrToWhat')}` : what.said}</u>,
          soon: <u>{soon.said}</u>,
          by: <u>{by.said}</u>,
          end: end.said && (
            <>
              , <u>{end.said}</u>
            </>
          ),
        })}
      </p>
      {rows.map(([name, list]) => (
        <fieldset key={name} className="eye-row">
          <legend>{t(`row.${name}`)}</legend>
          {list.map((one) => (
            <button
              key={one.id}
              type="button"
              className={of(name, list).id === one.id ? 'is-chosen' : ''}
              aria-pressed={of(name, list).id === one.id}
              onClick={() => setChosen({ ...chosen, [name]: one.id })}
            >
              {one.words}
            </button>
          ))}
        </fieldset>
      ))}
      {mayLink && (
        <Form.Check
          id="eye-linked"
          label={t('andWhatIsLinkedWith')}
          checked={isLinked}
          onChange={(event) => setLinked(event.target.checked)}
        />
      )}
      {directory.coordinates.includes(source.id) && (
        <Form.Select
          size="sm"
          aria-label={t('forWhom')}
          value={person}
          onChange={(event) => setPerson(event.target.value)}
        >
          {directory.people
            .filter((one) => one.isActive)
            .map((one) => (
              <option key={one.id} value={one.id}>
                {one.id === me.id ? t('forMe') : t('for', { name: one.name })}
              </option>
            ))}
        </Form.Select>
      )}
      {keep.error && <ProblemNote error={keep.error} />}
      <div className="acts">
        <Button disabled={keep.isPending} onClick={save}>
          {t('keepAnEyeOn', { shortName: shortName(item?.title ?? under?.name ?? source.name) })}
        </Button>
        <span className="small quiet" aria-live="polite">
          {messages === undefined ? ' ' : t.rich('wouldHaveBeenMessagesIn', { messages })}
        </span>
      </div>
    </div>
  );
}

const shortName = (name: string) => (name.length > 24 ? `${name.slice(0, 22).trimEnd()}…` : name);

/** Sources that link to one, or that it links to. */
const linkedSources = (source: Source, all: readonly Source[]): string[] => {
  const out = source.fields.flatMap((field) => (field.to ? [field.to] : []));
  const back = all.filter((one) => one.fields.some((field) => field.to === source.id)).map((one) => one.id);
  return [...new Set([...out, ...back])].filter((id) => id !== source.id && all.some((one) => one.id === id));
};

/** Those among the rules that are an eye on just this: the folder, or the source as it stands. */
export function eyesAmong(rows: readonly RuleRow[], { source, under }: EyeTarget): EyeRow[] {
  return rows.flatMap(({ state, live, mayEdit }): EyeRow[] => {
    const person = state === 'live' && live ? eyeOf(live) : null;
    if (!live || person === null || live.scope.sources[0] !== source.id || live.scope.items.length > 0) return [];
    return (under ? live.scope.under.includes(under.id) : live.scope.under.length === 0)
      ? [{ person, rule: live, mayEdit }]
      : [];
  });
}

/** An eye on a folder, a source or a filtered view: who has one, and one's own to make. */
export function EyeOn({ target, onDone }: { target: EyeTarget; onDone?: () => void }) {
  const rules = useRules();
  return (
    <>
      <Eyes eyes={eyesAmong(rules.data ?? [], target)} />
      <EyeEditor target={target} onDone={onDone} />
    </>
  );
}

/** Who keeps an eye on it, each to be changed or ended there by those who may. */
export function Eyes({ eyes }: { eyes: EyeRow[] }) {
  const viewer = useViewer();
  const { me } = viewer;
  const acts = useRuleActs();
  const notice = useNotice();
  if (eyes.length === 0) return null;
  const end = ({ rule }: EyeRow) =>
    acts.mutate(
      { act: 'delete', ids: [rule.id] },
      {
        onSuccess: () =>
          notice({ words: t('nobodyLooksAnyMore'), undo: () => acts.mutate({ act: 'undelete', ids: [rule.id] }) }),
      },
    );
  return (
    <ul className="plain-list eyes">
      {eyes.map((eye) => (
        <li key={eye.rule.id}>
          <EyeMark /> <strong>{eye.person === me.id ? t('you') : viewer.person(eye.person)}</strong>{' '}
          <span className="quiet">
            {plainWords(whatWords(eye.rule, viewer))}, {paceWords(eye.rule.pace, phrases())}
          </span>
          {eye.mayEdit && (
            <>
              {' '}
              <Link to={rulePath(eye.rule.id)}>{t('change')}</Link>{' '}
              <Button variant="link" size="sm" onClick={() => end(eye)}>
                {t('endIt')}
              </Button>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

/** The sign of somebody who keeps an eye on a thing. */
export const EyeMark = () => (
  <svg className="eye-mark" width="13" height="13" viewBox="0 0 13 13" aria-hidden="true">
    <circle cx="6.5" cy="6.5" r="5.3" fill="none" stroke="currentColor" strokeWidth="1.6" />
    <circle cx="7.6" cy="6.5" r="2.3" fill="currentColor" />
  </svg>
);
