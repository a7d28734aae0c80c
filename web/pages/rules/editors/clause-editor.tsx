import { Button, Form } from 'react-bootstrap';
import {
  type Condition,
  type FieldTest,
  fromTo,
  isCounting,
  isKind,
  type LinkedTest,
  otherField,
  type StateTest,
  visitCondition,
} from '../../../../core/rules/index.ts';
import {
  type Field,
  isFigureType,
  isLinkType,
  isSetType,
  isTemporalType,
  type Source,
  optionName,
  type Value,
} from '../../../../core/values/index.ts';
import { NumberInput, Several, useViewer } from '../../../parts/index.ts';
import { DurationInput } from './duration-input.tsx';
import { firstLinked, LinkedEditor, type SourceOf } from './linked-editor.tsx';
import { firstTest, Members, TestEditor } from './test-editor.tsx';
import { t } from '../../../words/editors.ts';

const WAYS = [
  'changes',
  'becomes',
  'fromTo',
  'ceases',
  'rises',
  'falls',
  'gains',
  'loses',
  'was',
  'is',
  'comesToLink',
  'links',
] as const;
type Way = (typeof WAYS)[number];
const wayWords = (): Record<Way, string> => ({
  changes: t('changesInAnyWay'),
  becomes: t('atTheMomentIt'),
  fromTo: t('goesFromTo'),
  ceases: t('atTheMomentItNo'),
  rises: t('rises'),
  falls: t('falls'),
  gains: t('gainsAMember'),
  loses: t('losesAMember'),
  was: t('ifBeforeTheChangeIt'),
  is: t('atEverySaveWhileIt'),
  comesToLink: t('atTheMomentItLinks'),
  links: t('whileItLinks'),
});

const always = () => true;
const moves = ({ type }: Field): boolean => isFigureType(type) || isTemporalType(type);
const holdsMembers = ({ type }: Field): boolean => isSetType(type);

/** Which fields have each way. */
const FITS: Record<Way, (field: Field) => boolean> = {
  becomes: always,
  fromTo: ({ type }) => type === 'choice',
  changes: always,
  ceases: always,
  rises: moves,
  falls: moves,
  gains: holdsMembers,
  loses: holdsMembers,
  was: always,
  is: always,
  comesToLink: ({ type }) => isLinkType(type),
  links: ({ type }) => isLinkType(type),
};

const waysOf = (field: Field | null): Way[] => (field ? WAYS.filter((way) => FITS[way](field)) : ['changes']);

interface Clause {
  field: string;
  way: Way;
  test: FieldTest | null;
  /** Values it goes from, members it gains or loses, other fields that count as well. */
  from: string[];
  least: { by?: number | string; percent?: number | string };
  /** What linked items are like. */
  linked?: LinkedTest;
}

/** What a clause says, where it is of a shape that the editor has; `null` otherwise. */
export function readClause(condition: Condition): Clause | null {
  const plain = (field: string, way: Way, test: FieldTest | null = null, from: string[] = []): Clause => ({
    field,
    way,
    test,
    from,
    least: {},
  });
  const linked = (test: LinkedTest, way: Way): Clause => ({ ...plain(test.through, way), linked: test });
  const tested = (test: StateTest, way: Way) => (isKind(test, 'test') ? plain(test.field, way, test) : null);
  const noClause = () => null;
  return visitCondition<Clause | null>(condition, {
    test: (test) => plain(test.field, 'is', test),
    changed: ({ changed }) => {
      const [first = '*', ...others] = [changed].flat();
      return plain(first, 'changes', null, others);
    },
    became: ({ became }) => (isKind(became, 'through') ? linked(became, 'comesToLink') : tested(became, 'becomes')),
    ceased: ({ ceased }) => tested(ceased, 'ceases'),
    was: ({ was }) => tested(was, 'was'),
    rose: ({ rose }) => ({ ...plain(rose.field, 'rises'), least: rose }),
    fell: ({ fell }) => ({ ...plain(fell.field, 'falls'), least: fell }),
    gained: ({ gained }) => plain(gained.field, 'gains', null, gained.any ?? []),
    lost: ({ lost }) => plain(lost.field, 'loses', null, lost.any ?? []),
    all: () => {
      const turn = fromTo(condition);
      return turn && { ...plain(turn.became.field, 'fromTo', turn.became), from: turn.was.value as string[] };
    },
    any: noClause,
    none: noClause,
    through: (test) => linked(test, 'links'),
  });
}

/** A clause of a way that has just been chosen, keeping of the one before what fits. */
function writeClause(way: Way, field: Field | null, before: Clause | null, sourceOf: SourceOf): Condition {
  if (!field) return { changed: '*' };
  const kept = before?.field === field.id && before.test ? before.test : firstTest(field);
  switch (way) {
    case 'changes':
      return { changed: field.id };
    case 'becomes':
      return { became: kept };
    case 'ceases':
      return { ceased: kept };
    case 'was':
      return { was: kept };
    case 'is':
      return kept;
    case 'rises':
      return { rose: { field: field.id } };
    case 'falls':
      return { fell: { field: field.id } };
    case 'gains':
      return { gained: { field: field.id } };
    case 'loses':
      return { lost: { field: field.id } };
    case 'comesToLink':
    case 'links': {
      const test = before?.linked ?? firstLinked(field, sourceOf);
      return way === 'links' ? test : { became: test };
    }
    case 'fromTo': {
      const options = field.options ?? [];
      const to = kept.op === 'is' && otherField(kept) === null ? (kept.value as Value) : options[0];
      return {
        all: [
          { was: { field: field.id, op: 'oneOf', value: options.filter((one) => one !== to).slice(0, 1) } },
          { became: { field: field.id, op: 'is', value: to ?? '' } },
        ],
      };
    }
    default:
      return way satisfies never;
  }
}

/** A clause of a way that judges a test on one side, or on both. */
const WITH_TEST: Partial<Record<Way, (test: FieldTest) => Condition>> = {
  becomes: (test) => ({ became: test }),
  ceases: (test) => ({ ceased: test }),
  was: (test) => ({ was: test }),
};

/** Edits one clause: the field, what it does, and to what; of a state, only how the field stands. */
export function ClauseEditor({
  clause,
  source,
  isOfState = false,
  onChange,
}: {
  clause: Condition;
  source: Source;
  isOfState?: boolean;
  onChange: (clause: Condition) => void;
}) {
  const { source: sourceOf } = useViewer();
  const read = readClause(clause);
  if (!read) return null;
  const field = source.fields.find((one) => one.id === read.field) ?? null;
  const { way, test, linked } = read;
  const putTest = (next: FieldTest) => onChange(WITH_TEST[way]?.(next) ?? next);
  return (
    <>
      <Form.Select
        aria-label={t('field')}
        value={read.field}
        onChange={(event) => {
          const next = source.fields.find((one) => one.id === event.target.value) ?? null;
          onChange(
            isOfState && next
              ? firstTest(next)
              : writeClause(waysOf(next).includes(way) && !linked ? way : 'changes', next, read, sourceOf),
          );
        }}
      >
        {!isOfState && <option value="*">{t('anyField')}</option>}
        {source.fields.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </Form.Select>
      {!isOfState && (
        <Form.Select
          aria-label={t('whatItDoes')}
          value={way}
          onChange={(event) => onChange(writeClause(event.target.value as Way, field, read, sourceOf))}
        >
          {waysOf(field).map((one) => (
            <option key={one} value={one}>
              {wayWords()[one]}
            </option>
          ))}
        </Form.Select>
      )}
      {field && test && way !== 'fromTo' && (
        <TestEditor
          test={test}
          field={field}
          source={source}
          tense={way === 'becomes' || way === 'was' ? way : 'is'}
          onChange={putTest}
        />
      )}
      {field && way === 'fromTo' && (
        <FromTo field={field} from={read.from} to={String(test?.value ?? '')} onChange={onChange} />
      )}
      {(way === 'rises' || way === 'falls') && field && (
        <Least source={source} field={field} way={way} least={read.least} onChange={onChange} />
      )}
      {way === 'changes' && field && (
        <AlsoFields field={field} others={read.from} source={source} onChange={onChange} />
      )}
      {(way === 'gains' || way === 'loses') && field && (
        <WhichMembers field={field} way={way} any={read.from} onChange={onChange} />
      )}
      {field && linked && (
        <LinkedEditor
          test={linked}
          field={field}
          onChange={(next) => onChange(way === 'comesToLink' ? { became: next } : next)}
        />
      )}
      {isOfState && field && isLinkType(field.type) && (
        <Form.Check
          id="asks-linked"
          label={t('askWhatItLinksTo')}
          checked={way === 'links'}
          onChange={({ target }) => onChange(target.checked ? firstLinked(field, sourceOf) : firstTest(field))}
        />
      )}
      {way === 'is' && !isOfState && (
        <p className="small" style={{ maxWidth: '20rem' }}>
          {t.rich('thisHoldsAtEverySave')}{' '}
          <Button variant="link" size="sm" onClick={() => onChange(writeClause('becomes', field, read, sourceOf))}>
            {t('tellOnceWhenItBecomes')}
          </Button>
        </p>
      )}
    </>
  );
}

/** Other fields of which a change counts as well. */
function AlsoFields({
  field,
  others,
  source,
  onChange,
}: {
  field: Field;
  others: string[];
  source: Source;
  onChange: (clause: Condition) => void;
}) {
  return (
    <div>
      <p className="small quiet">{t('orAnyOfThese')}</p>
      <Several
        name="also"
        label={t('otherFieldsThatCountAs')}
        options={source.fields.filter((one) => one.id !== field.id).map((one) => [one.id, one.name])}
        chosen={others}
        onChange={(chosen) => onChange({ changed: chosen.length === 0 ? field.id : [field.id, ...chosen] })}
      />
    </div>
  );
}

/** The members that count; none chosen means any. */
function WhichMembers({
  field,
  way,
  any,
  onChange,
}: {
  field: Field;
  way: 'gains' | 'loses';
  any: string[];
  onChange: (clause: Condition) => void;
}) {
  const put = (chosen: string[]) => {
    const membership = { field: field.id, ...(chosen.length > 0 ? { any: chosen } : {}) };
    onChange(way === 'gains' ? { gained: membership } : { lost: membership });
  };
  return (
    <div>
      <p className="small quiet">{t('oneOfTheseNoneChosen')}</p>
      <Members field={field} chosen={any} onChange={put} />
    </div>
  );
}

function FromTo({
  field,
  from,
  to,
  onChange,
}: {
  field: Field;
  from: string[];
  to: string;
  onChange: (clause: Condition) => void;
}) {
  const options = field.options ?? [];
  const put = (nextFrom: string[], nextTo: string) =>
    onChange({
      all: [
        { was: { field: field.id, op: 'oneOf', value: nextFrom } },
        { became: { field: field.id, op: 'is', value: nextTo } },
      ],
    });
  return (
    <>
      <fieldset className="choices">
        <legend className="form-label">{t('fromAnyOf')}</legend>
        {options.map((one) => (
          <Form.Check
            key={one}
            id={`from-${one}`}
            label={optionName(field, one)}
            checked={from.includes(one)}
            onChange={({ target }) =>
              put(
                options.filter((kept) => (kept === one ? target.checked : from.includes(kept))),
                to,
              )
            }
          />
        ))}
      </fieldset>
      <div>
        <Form.Label htmlFor="goes-to">{t('to')}</Form.Label>
        <Form.Select id="goes-to" value={to} onChange={(event) => put(from, event.target.value)}>
          {options.map((one) => (
            <option key={one} value={one}>
              {optionName(field, one)}
            </option>
          ))}
        </Form.Select>
      </div>
    </>
  );
}

function Least({
  source,
  field,
  way,
  least,
  onChange,
}: {
  source: Source;
  field: Field;
  way: 'rises' | 'falls';
  least: Clause['least'];
  onChange: (clause: Condition) => void;
}) {
  const put = (next: Clause['least']) => {
    const filled = Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined));
    onChange(way === 'rises' ? { rose: { ...filled, field: field.id } } : { fell: { ...filled, field: field.id } });
  };
  if (isTemporalType(field.type)) {
    if (least.by === undefined)
      return (
        <Button variant="outline-primary" size="sm" onClick={() => put({ by: 'P1D' })}>
          {t('byAtLeast')}
        </Button>
      );
    return (
      <>
        <div className="small quiet">{t('byAtLeast2')}</div>
        <DurationInput
          label={t('byAtLeast3')}
          units={['hours', 'days', 'weeks', 'months']}
          value={String(least.by)}
          onChange={(by) => put({ by })}
        />
        <Button variant="link" size="sm" onClick={() => put({})}>
          {t('byHoweverMuch')}
        </Button>
      </>
    );
  }
  return (
    <>
      <div className="row-of">
        <NumberInput
          label={t('byAtLeast3')}
          placeholder={t('byAnyAmount')}
          value={least.by === undefined ? null : String(least.by)}
          onChange={(by) => put({ ...least, by: by ?? undefined })}
        />
        <span style={{ alignSelf: 'center', whiteSpace: 'nowrap' }}>{t('orMore')}</span>
      </div>
      {!isCounting(field.id, [source]) && (
        <div className="row-of">
          <NumberInput
            label={t('byAtLeastSoMany')}
            placeholder={t('byAnyShare')}
            value={least.percent === undefined ? null : String(least.percent)}
            onChange={(percent) => put({ ...least, percent: percent ?? undefined })}
          />
          <span style={{ alignSelf: 'center', whiteSpace: 'nowrap' }}>{t('orMore2')}</span>
        </div>
      )}
    </>
  );
}
