import { Form } from 'react-bootstrap';
import { addDays, dateIn, instantOf } from '../../../core/time/index.ts';
import { formatDay } from '../../../core/values/index.ts';
import { CountInput, DayInput, kindName, Radios, useViewer } from '../../parts/index.ts';
import { t } from '../../words/eye.ts';
import { type EyeChoice, type EyeTarget, type EyeWhat, kindsFor, linkedSources, turnsOf } from './eye-choices.ts';
import { eyeWords } from './eye-words.ts';
import type { Rule } from '../../../core/rules/index.ts';

/** The furthest ahead that a date is told, in days. */
const FARTHEST = 365;

interface EditorProps {
  target: EyeTarget;
  choice: EyeChoice;
  onChange: (part: Partial<EyeChoice>) => void;
}

/** What stands for a choice in a list of options: all that tells it from the others. */
const keyOf = (what: EyeWhat): string => {
  switch (what.what) {
    case 'anything':
    case 'linked':
      return what.what;
    case 'done':
      return `done ${what.kind}`;
    default:
      return `field ${what.field}`;
  }
};

/** What one hears of: anything, what is done, or a field and what becomes of it. */
export function WhatEditor({ target, choice, onChange }: EditorProps) {
  const { directory } = useViewer();
  const { source, item } = target;
  const { what } = choice;
  const field = 'field' in what ? source.fields.find((one) => one.id === what.field) : undefined;
  const mayLink = item !== undefined && linkedSources(source, directory.sources).length > 0;
  const first = (key: string): EyeWhat => {
    const [sort = '', ...id] = key.split(' ');
    const named = source.fields.find((one) => one.id === id.join(' '));
    if (sort === 'field' && named) return { what: 'changes', field: named.id };
    const kind = kindsFor(target).find((one) => one === id.join(' '));
    if (sort === 'done' && kind) return { what: 'done', kind };
    return sort === 'linked' ? { what: 'linked' } : { what: 'anything' };
  };
  return (
    <>
      <Form.Select
        aria-label={t('whatOf')}
        value={keyOf(what)}
        onChange={(event) => onChange({ what: first(event.target.value) })}
      >
        <option value="anything">{t('what.anything')}</option>
        {mayLink && (
          <option value="linked">
            {t('what.linked', {
              sources: linkedSources(source, directory.sources).map(sourceName(directory)).join(', '),
            })}
          </option>
        )}
        <optgroup label={t('aField')}>
          {source.fields.map((one) => (
            <option key={one.id} value={`field ${one.id}`}>
              {one.name}
            </option>
          ))}
        </optgroup>
        <optgroup label={t('somethingIsDone')}>
          {kindsFor(target).map((kind) => (
            <option key={kind} value={`done ${kind}`}>
              {kindName(kind)}
            </option>
          ))}
        </optgroup>
      </Form.Select>
      {field && <TurnEditor turns={turnsOf(field)} what={what} onChange={onChange} />}
    </>
  );
}

const sourceName =
  ({ sources }: ReturnType<typeof useViewer>['directory']) =>
  (id: string) =>
    sources.find((one) => one.id === id)?.name ?? id;

const turnKey = (what: EyeWhat): string => ('value' in what ? `becomes ${what.value}` : what.what);

function turnWords(what: EyeWhat): string {
  if ('value' in what) {
    const value = typeof what.value === 'string' ? what.value : t(what.value ? 'yes' : 'no');
    return t('turn.becomes', { value });
  }
  return t(`turn.${what.what as 'changes' | 'rises' | 'falls' | 'near'}`);
}

/** What becomes of a field: any change, one of its options, more or less, or a date that comes near. */
function TurnEditor({ turns, what, onChange }: { turns: EyeWhat[]; what: EyeWhat } & Pick<EditorProps, 'onChange'>) {
  return (
    <>
      <Form.Select
        aria-label={t('whatBecomes')}
        value={turnKey(what)}
        onChange={(event) => onChange({ what: turns.find((one) => turnKey(one) === event.target.value) ?? what })}
      >
        {turns.map((one) => (
          <option key={turnKey(one)} value={turnKey(one)}>
            {turnWords(one)}
          </option>
        ))}
      </Form.Select>
      {what.what === 'near' && (
        <div className="row-of">
          <CountInput
            label={t('daysBefore')}
            value={what.days}
            min={0}
            max={FARTHEST}
            onChange={(days) => onChange({ what: { ...what, days } })}
          />
          <span className="beside">{t('daysBeforeIt')}</span>
        </div>
      )}
    </>
  );
}

/** A part of the sentence chosen among a few: each as the sentence would then say it. */
export function OneOf<K extends 'by' | 'soon' | 'way'>({
  part,
  options,
  choice,
  ruleFor,
  onChange,
}: {
  part: K;
  options: readonly EyeChoice[K][];
  choice: EyeChoice;
  ruleFor: (choice: EyeChoice) => Rule;
  onChange: (part: Partial<EyeChoice>) => void;
}) {
  const viewer = useViewer();
  const wordsOf = (option: EyeChoice[K]) => eyeWords(ruleFor({ ...choice, [part]: option }), viewer)[part];
  return (
    <fieldset className="choices">
      <Radios
        name={`eye-${part}`}
        options={options.map((option) => [option as string, wordsOf(option)] as const)}
        chosen={choice[part] as string}
        onChange={(option) => onChange({ [part]: option } as Partial<EyeChoice>)}
      />
    </fieldset>
  );
}

/** How long it is kept: until it is stopped, to a date of the item that is yet to come, for a month, or to any day. */
export function UntilEditor({ target: { source, item }, choice, onChange }: EditorProps) {
  const { me } = useViewer();
  const today = dateIn(instantOf(me.now), me.zone);
  const ahead = source.fields.flatMap((field): [string, string][] => {
    const day = String(item?.fields[field.id] ?? '');
    return field.type === 'date' && day > today ? [[day, `${field.name}, ${formatDay(day, me.locale)}`]] : [];
  });
  const month = addDays(today, 30);
  const options = new Map<string, string>([...ahead, [month, formatDay(month, me.locale)]]);
  const stopped = choice.whose === me.id ? t('until.stopped') : t('until.stoppedByThem');
  return (
    <>
      <fieldset className="choices">
        <Radios<string | null>
          name="eye-until"
          options={[
            [null, stopped],
            ...[...options].map(([day, words]) => [day, t('until.day', { day: words })] as const),
          ]}
          chosen={choice.until}
          onChange={(until) => onChange({ until })}
        />
      </fieldset>
      <div className="row-of">
        <DayInput label={t('onThatDay')} value={choice.until} min={today} onChange={(until) => onChange({ until })} />
        <span className="beside">{t('thatDay')}</span>
      </div>
    </>
  );
}
