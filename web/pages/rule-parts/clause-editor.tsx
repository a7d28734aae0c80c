import { Button, Form } from 'react-bootstrap';
import type { Condition, FieldTest, StateTest } from '../../../core/rules/index.ts';
import { type Field, isSetType, type Source } from '../../../core/values/index.ts';
import { firstTest, TestEditor } from './test-editor.tsx';

const WAYS = ['changes', 'becomes', 'fromTo', 'ceases', 'rises', 'falls', 'gains', 'loses', 'was', 'is'] as const;
type Way = (typeof WAYS)[number];
const WAY_WORDS: Record<Way, string> = {
  changes: 'changes in any way', becomes: 'at the moment it …', fromTo: 'goes from … to …', ceases: 'at the moment it no longer …', rises: 'rises', falls: 'falls', gains: 'gains a member', loses: 'loses a member', was: 'if before the change it …', is: 'at every save while it …',
};

function waysOf(field: Field | null): Way[] {
  if (!field) return ['changes'];
  const moves = ['number', 'money', 'date', 'dateTime'].includes(field.type);
  return WAYS.filter((way) => (way === 'fromTo' ? field.type === 'choice' : way === 'rises' || way === 'falls' ? moves : way === 'gains' || way === 'loses' ? isSetType(field.type) : true));
}

const asTest = (test: StateTest): FieldTest | null => ('op' in test ? test : null);

interface Clause {
  field: string;
  way: Way;
  test: FieldTest | null;
  from: string[];
  least: { by?: number | string; percent?: number | string };
}

/** What a clause says, where it is of a shape that the editor has; `null` otherwise. */
export function readClause(condition: Condition): Clause | null {
  const plain = (field: string, way: Way, test: FieldTest | null = null): Clause => ({ field, way, test, from: [], least: {} });
  const tested = (test: StateTest, way: Way) => {
    const found = asTest(test);
    return found && plain(found.field, way, found);
  };
  if ('op' in condition) return plain(condition.field, 'is', condition);
  if ('changed' in condition) return typeof condition.changed === 'string' ? plain(condition.changed, 'changes') : null;
  if ('became' in condition) return tested(condition.became, 'becomes');
  if ('ceased' in condition) return tested(condition.ceased, 'ceases');
  if ('was' in condition) return tested(condition.was, 'was');
  if ('rose' in condition) return { ...plain(condition.rose.field, 'rises'), least: condition.rose };
  if ('fell' in condition) return { ...plain(condition.fell.field, 'falls'), least: condition.fell };
  if ('gained' in condition) return plain(condition.gained.field, 'gains');
  if ('lost' in condition) return plain(condition.lost.field, 'loses');
  if (!('all' in condition) || condition.all.length !== 2) return null;
  const [was, became] = condition.all as [Condition, Condition];
  const from = 'was' in was ? asTest(was.was) : null;
  const to = 'became' in became ? asTest(became.became) : null;
  return from?.op === 'oneOf' && to?.op === 'is' && from.field === to.field ? { ...plain(to.field, 'fromTo', to), from: from.value as string[] } : null;
}

function writeClause(way: Way, field: Field | null, before: Clause | null): Condition {
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
    case 'fromTo': {
      const options = field.options ?? [];
      const to = kept.op === 'is' ? kept.value : options[0];
      return { all: [{ was: { field: field.id, op: 'oneOf', value: options.filter((one) => one !== to).slice(0, 1) } }, { became: { field: field.id, op: 'is', value: to ?? '' } }] };
    }
    default:
      return way satisfies never;
  }
}

/** Edits one clause of what has to happen: the field, what it does, and to what. */
export function ClauseEditor({ clause, source, onChange }: { clause: Condition; source: Source; onChange: (clause: Condition) => void }) {
  const read = readClause(clause);
  if (!read) return <p className="quiet">This part nests deeper than can be edited here; it stays as it is.</p>;
  const field = source.fields.find((one) => one.id === read.field) ?? null;
  const { way, test } = read;
  const putTest = (next: FieldTest) => onChange(way === 'becomes' ? { became: next } : way === 'ceases' ? { ceased: next } : way === 'was' ? { was: next } : next);
  return (
    <>
      <Form.Select aria-label="Field" value={read.field} onChange={(event) => {
        const next = source.fields.find((one) => one.id === event.target.value) ?? null;
        onChange(writeClause(waysOf(next).includes(way) ? way : 'changes', next, read));
      }}>
        <option value="*">any field</option>
        {source.fields.map((one) => <option key={one.id} value={one.id}>{one.name}</option>)}
      </Form.Select>
      <Form.Select aria-label="What it does" value={way} onChange={(event) => onChange(writeClause(event.target.value as Way, field, read))}>
        {waysOf(field).map((one) => <option key={one} value={one}>{WAY_WORDS[one]}</option>)}
      </Form.Select>
      {field && test && way !== 'fromTo' && <TestEditor test={test} field={field} tense={way === 'becomes' ? 'becomes' : way === 'was' ? 'was' : 'is'} onChange={putTest} />}
      {field && way === 'fromTo' && <FromTo field={field} from={read.from} to={String(test?.value ?? '')} onChange={onChange} />}
      {(way === 'rises' || way === 'falls') && field && <Least field={field} way={way} least={read.least} onChange={onChange} />}
      {way === 'is' && (
        <p className="small" style={{ maxWidth: '20rem' }}>
          This holds at <strong>every save</strong> while it is so. <Button variant="link" size="sm" onClick={() => onChange(writeClause('becomes', field, read))}>Tell once, when it becomes so</Button>
        </p>
      )}
    </>
  );
}

function FromTo({ field, from, to, onChange }: { field: Field; from: string[]; to: string; onChange: (clause: Condition) => void }) {
  const put = (nextFrom: string[], nextTo: string) => onChange({ all: [{ was: { field: field.id, op: 'oneOf', value: nextFrom } }, { became: { field: field.id, op: 'is', value: nextTo } }] });
  return (
    <>
      <fieldset className="choices"><legend className="form-label">from any of</legend>{(field.options ?? []).map((one) => <Form.Check key={one} id={`from-${one}`} label={one} checked={from.includes(one)} onChange={(event) => put(event.target.checked ? [...from, one] : from.filter((kept) => kept !== one), to)} />)}</fieldset>
      <div><Form.Label htmlFor="goes-to">to</Form.Label><Form.Select id="goes-to" value={to} onChange={(event) => put(from, event.target.value)}>{(field.options ?? []).map((one) => <option key={one}>{one}</option>)}</Form.Select></div>
    </>
  );
}

function Least({ field, way, least, onChange }: { field: Field; way: 'rises' | 'falls'; least: Clause['least']; onChange: (clause: Condition) => void }) {
  const put = (next: Clause['least']) => {
    const filled = Object.fromEntries(Object.entries(next).filter(([, value]) => value !== '' && value !== undefined));
    onChange(way === 'rises' ? { rose: { ...filled, field: field.id } } : { fell: { ...filled, field: field.id } });
  };
  if (field.type === 'date' || field.type === 'dateTime') {
    const days = /^P(\d+)D$/.exec(String(least.by ?? ''))?.[1] ?? '';
    return <div className="row-of"><Form.Control type="number" min={1} aria-label="By at least so many days" placeholder="any number of" value={days} onChange={(event) => put({ by: event.target.value ? `P${event.target.value}D` : undefined })} /><span style={{ alignSelf: 'center' }}>days or more</span></div>;
  }
  return (
    <>
      <div className="row-of"><Form.Control inputMode="decimal" aria-label="By at least" placeholder="by any amount" value={String(least.by ?? '')} onChange={(event) => put({ ...least, by: event.target.value })} /><span style={{ alignSelf: 'center', whiteSpace: 'nowrap' }}>or more</span></div>
      <div className="row-of"><Form.Control inputMode="decimal" aria-label="By at least so many per cent" placeholder="by any share" value={String(least.percent ?? '')} onChange={(event) => put({ ...least, percent: event.target.value })} /><span style={{ alignSelf: 'center', whiteSpace: 'nowrap' }}>% or more</span></div>
    </>
  );
}
