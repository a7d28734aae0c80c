import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { plainWords } from '../../../../core/messages/index.ts';
import type { Selector } from '../../../../core/people/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { type Field, foldCase, type Source } from '../../../../core/values/index.ts';
import {
  Combobox,
  FileButton,
  Said,
  selectorWords,
  useTitles,
  useViewer,
  type Viewer,
  ValueInput,
} from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';
import { type CaseTable, casesOf, readRows, tableOf, valueNamed } from './cases.ts';
import { Chip } from './chip.tsx';

const CASED: readonly Field['type'][] = ['choice', 'link', 'person', 'text', 'boolean'];

interface CasesProps {
  rule: Rule;
  source: Source;
  /** Those there are; `null`: to be added. */
  cases: Selector | null;
  onPut: (cases: Selector) => void;
  onRemove?: () => void;
}

/** Who hears by case: a small table of the values of one field, with who hears for each, and who otherwise. */
export function CasesChip({ rule, source, cases, onPut, onRemove }: CasesProps) {
  const viewer = useViewer();
  const fields = source.fields.filter(({ type }) => CASED.includes(type));
  const [first] = fields;
  const mayOthers = rule.scope.sources.every((id) => viewer.directory.coordinates.includes(id));
  if (!first || (!cases && !mayOthers)) return null;
  const table = cases ? tableOf(cases) : null;
  const start: CaseTable = {
    field: (fields.find(({ type }) => type === 'choice') ?? first).id,
    rows: [],
    otherwise: [],
  };
  return (
    <Chip
      label={cases ? t('whoHearsByCase') : t('addByCase')}
      className={cases ? '' : 'is-adding'}
      {...(onRemove ? { onRemove } : {})}
      editor={() =>
        cases && !table ? (
          <p className="small">{t('casesOfMore')}</p>
        ) : (
          <CasesTable
            table={table ?? start}
            fields={fields}
            source={source}
            onChange={(next) => (next.rows.length > 0 ? onPut(casesOf(next)) : onRemove?.())}
          />
        )
      }
    >
      {cases ? <Said words={selectorWords(cases, viewer, source)} /> : t('byCase')}
    </Chip>
  );
}

interface TableProps {
  table: CaseTable;
  fields: Field[];
  source: Source;
  onChange: (table: CaseTable) => void;
}

function CasesTable({ table: given, fields, source, onChange }: TableProps) {
  const viewer = useViewer();
  // Until its first row is whole, what is being made stands here alone.
  const [table, setTable] = useState(given);
  const [wrong, setWrong] = useState<string[]>([]);
  const field = fields.find(({ id }) => id === table.field) ?? (fields[0] as Field);
  useTitles(field.type === 'link' ? table.rows.map(({ value }) => String(value)) : []);
  const put = (next: CaseTable) => {
    setTable(next);
    const whole = next.rows.filter(({ value, to }) => value !== null && value !== '' && to.length > 0);
    if (whole.length > 0 || given.rows.length > 0) onChange({ ...next, rows: whole });
  };
  const putRow = (at: number, row: Partial<CaseTable['rows'][number]>) =>
    put({ ...table, rows: table.rows.map((one, nth) => (nth === at ? { ...one, ...row } : one)) });
  const fill = async (file: File) => {
    const { parse } = await import('csv-parse/browser/esm/sync');
    const text = await file.text();
    const lines: string[][] = parse(text, {
      delimiter: [',', ';', '\t'],
      relax_column_count: true,
      relax_quotes: true,
      bom: true,
      skip_empty_lines: true,
    });
    const read = readRows(lines, field, {
      who: (name) => whoNamed(name, viewer),
      value: (value) => valueNamed(field, value),
    });
    const rows = read.flatMap((one) => ('row' in one ? [one.row] : []));
    setWrong(read.flatMap((one) => ('unknown' in one ? [t('lineUnknown', one)] : [])));
    const kept = table.rows.filter(({ value }) => !rows.some((row) => row.value === value));
    put({ ...table, rows: [...kept, ...rows] });
  };
  return (
    <>
      <Form.Select
        aria-label={t('byWhichField')}
        value={table.field}
        onChange={({ target }) => put({ ...table, field: target.value, rows: [] })}
      >
        {fields.map(({ id, name }) => (
          <option key={id} value={id}>
            {t('byField', { field: name })}
          </option>
        ))}
      </Form.Select>
      {table.rows.map(({ value, to }, at) => (
        <fieldset key={at} className="lead" aria-label={t('caseNth', { nth: at + 1 })}>
          <ValueInput
            id={`case-${at}`}
            label={field.name}
            field={field}
            value={value}
            onChange={(next) => putRow(at, { value: next })}
          />
          <Who to={to} source={source} onChange={(next) => putRow(at, { to: next })} />
          <Button
            variant="link"
            size="sm"
            onClick={() => put({ ...table, rows: table.rows.filter((_, nth) => nth !== at) })}
          >
            {t('takeCaseAway')}
          </Button>
        </fieldset>
      ))}
      <div className="row-of">
        <Button
          variant="link"
          size="sm"
          onClick={() =>
            setTable({ ...table, rows: [...table.rows, { value: freshValue(field, table.rows), to: [] }] })
          }
        >
          {t('anotherCase')}
        </Button>
        <FileButton accept=".csv,.tsv,.txt" words={t('fillFromAFile')} onFile={(file) => void fill(file)} />
      </div>
      {wrong.length > 0 && (
        <ul className="plain-list small fault" role="alert">
          {wrong.slice(0, 6).map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      )}
      <fieldset className="lead" aria-label={t('otherwiseHears')}>
        <span className="beside">{t('otherwiseHears')}</span>
        <Who to={table.otherwise} source={source} onChange={(otherwise) => put({ ...table, otherwise })} />
      </fieldset>
    </>
  );
}

/** The first option that has no row yet. */
const freshValue = (field: Field, rows: CaseTable['rows']) =>
  (field.options ?? []).find((option) => !rows.some(({ value }) => value === option)) ?? null;

/** Who hears of a case: those named, each to be taken out, and a list to add from. */
function Who({ to, source, onChange }: { to: Selector[]; source: Source; onChange: (to: Selector[]) => void }) {
  const viewer = useViewer();
  const [isAdding, setAdding] = useState(false);
  const [hasAdded, setAdded] = useState(false);
  const known = new Set(to.map((one) => JSON.stringify(one)));
  const offers = offersIn(viewer, source).filter((one) => !known.has(JSON.stringify(one)));
  const words = (one: Selector) => plainWords(selectorWords(one, viewer, source));
  return (
    <div className="case-who">
      {to.map((one, at) => (
        <Button
          key={JSON.stringify(one)}
          variant="link"
          size="sm"
          aria-label={t('takeOutOfCase', { who: words(one) })}
          onClick={() => onChange(to.filter((_, nth) => nth !== at))}
        >
          {words(one)} ×
        </Button>
      ))}
      {isAdding ? (
        <Combobox
          label={t('whoHearsOfIt')}
          offers={offers.map((one) => ({ value: one, name: words(one), kind: '' }))}
          onAdd={(one) => {
            onChange([...to, one]);
            setAdding(false);
            setAdded(true);
          }}
        />
      ) : (
        <button
          type="button"
          ref={(node) => {
            // Whoever has just been added was chosen where this stands again.
            if (node && hasAdded) node.focus();
          }}
          className="chip is-adding"
          onClick={() => setAdding(true)}
        >
          + {to.length === 0 ? t('whoHearsOfIt') : t('andAlso')}
        </button>
      )}
    </div>
  );
}

const offersIn = ({ directory }: Viewer, source: Source): Selector[] => [
  ...source.fields
    .filter(({ type }) => type === 'person' || type === 'people')
    .map(({ id }): Selector => ({ field: id })),
  ...directory.groups.map(({ id }): Selector => ({ group: id })),
  ...directory.people.filter(({ isActive }) => isActive).map(({ id }): Selector => ({ person: id })),
];

/** Whom a name in a file means: a person by name or id, or a group. */
function whoNamed(name: string, { directory }: Viewer): Selector | undefined {
  const isIt = (one: { id: string; name: string }) => one.id === name || foldCase(one.name) === foldCase(name);
  const person = directory.people.find(isIt);
  if (person) return { person: person.id };
  const group = directory.groups.find(isIt);
  return group && { group: group.id };
}
