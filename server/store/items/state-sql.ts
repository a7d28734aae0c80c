import { type FieldTest, HOLDS_EMPTY, otherField, type StateTest, visitState } from '../../../core/rules/index.ts';
import { addToDate, dateIn, type Instant } from '../../../core/time/index.ts';
import {
  type Field,
  type FieldType,
  fieldOf,
  foldCase,
  isMoney,
  isSetType,
  membersOf,
  type Source,
  type Value,
} from '../../../core/values/index.ts';
import { likeText, type Param, type Sql } from '../database/query.ts';

/**
 * A state test of items `i` in SQL. Where it is exact it holds of the same items as core's; where it is not it holds
 * of those and perhaps some more, which whoever asks judges again.
 */
export interface StateSql {
  sql: string;
  params: Param[];
  isExact: boolean;
}

interface Asking {
  source: Source;
  zone: string;
  now: Instant;
}

const all: StateSql = { sql: 'TRUE', params: [], isExact: true };
const never: StateSql = { sql: 'FALSE', params: [], isExact: true };
const unknown: StateSql = { sql: 'TRUE', params: [], isExact: false };

/** A test of an item's state as a condition in SQL that holds of every item of which the test does, and perhaps of more: whoever asks tests the rows once more where it is not exact. */
export function stateSql(test: StateTest, asking: Asking): StateSql {
  const parts = (tests: StateTest[]) => tests.map((part) => stateSql(part, asking));
  return visitState<StateSql>(test, {
    test: (one) => testSql(one, asking),
    // What linked items are like is core's to judge, by those that may be read.
    through: () => unknown,
    all: ({ all: tests }) => joined(parts(tests), 'AND', all),
    any: ({ any }) => joined(parts(any), 'OR', never),
    none: ({ none }) => {
      const inner = joined(parts(none), 'OR', never);
      // What holds of too many, turned round, would hold of too few.
      return inner.isExact ? not(inner) : unknown;
    },
  });
}

function joined(parts: StateSql[], word: 'AND' | 'OR', none: StateSql): StateSql {
  if (parts.length === 0) return none;
  return {
    sql: `(${parts.map((part) => part.sql).join(` ${word} `)})`,
    params: parts.flatMap((part) => part.params),
    isExact: parts.every((part) => part.isExact),
  };
}

/** Of nothing known, NULL counts as false before it is turned round. */
const not = ({ sql, params, isExact }: StateSql): StateSql => ({ sql: `NOT COALESCE(${sql}, FALSE)`, params, isExact });

const pathOf = (id: string, part = '') => `$."${id.replaceAll('"', '\\"')}"${part}`;
const scalar = (id: string, part = ''): [sql: string, param: string] => ['JSON_VALUE(i.fields, ?)', pathOf(id, part)];

/** White space as core sees it. */
const BLANK = '^[\\s\\x{00A0}\\x{FEFF}\\x{1680}\\x{2000}-\\x{200A}\\x{2028}\\x{2029}\\x{202F}\\x{205F}\\x{3000}]*$';

function emptySql(field: Field): StateSql {
  const path = pathOf(field.id);
  if (isSetType(field.type))
    return {
      sql: '((JSON_QUERY(i.fields, ?) IS NULL OR JSON_LENGTH(i.fields, ?) = 0) AND (JSON_VALUE(i.fields, ?) IS NULL OR JSON_VALUE(i.fields, ?) REGEXP ?))',
      params: [path, path, path, path, BLANK],
      isExact: true,
    };
  const [value, param] = scalar(field.id, field.type === 'money' ? '.amount' : '');
  return { sql: `(${value} IS NULL OR ${value} REGEXP ?)`, params: [param, param, BLANK], isExact: true };
}

function testSql(test: FieldTest, asking: Asking): StateSql {
  const field = fieldOf(asking.source, test.field);
  if (!field) return never;
  if (test.op === 'empty') return emptySql(field);
  // Two fields are compared by core, over what else is asked.
  if (otherField(test) !== null) return unknown;
  const filled = not(emptySql(field));
  if (test.op === 'filled') return filled;
  const held = filledSql(test, field, asking);
  return HOLDS_EMPTY.has(test.op) ? joined([emptySql(field), held], 'OR', never) : joined([filled, held], 'AND', all);
}

/** The test of a field that is filled. */
function filledSql(test: FieldTest, field: Field, asking: Asking): StateSql {
  const positive = { isNot: 'is', noneOf: 'oneOf', lacks: 'contains' }[test.op as string] as
    | FieldTest['op']
    | undefined;
  if (positive) {
    const inner = filledSql({ ...test, op: positive }, field, asking);
    return inner.isExact ? not(inner) : unknown;
  }
  return FILLED[field.type](test, field, asking);
}

type FilledSql = (test: FieldTest, field: Field, asking: Asking) => StateSql;
const idSql: FilledSql = ({ op, value }, field) =>
  oneOfSql(field, op === 'oneOf' ? (value as string[]) : [String(value)]);
const truthSql: FilledSql = ({ value }, field) => {
  const [stored, param] = scalar(field.id);
  return { sql: `${stored} = ?`, params: [param, value === true ? '1' : '0'], isExact: true };
};

const FILLED = {
  text: (test, field) => textSql(test, field),
  longText: (test, field) => textSql(test, field),
  number: (test, field) => amountSql(test, field),
  money: (test, field) => amountSql(test, field),
  boolean: truthSql,
  date: (test, field, asking) => dateSql(test, field, asking),
  dateTime: () => unknown,
  choice: idSql,
  choices: (test, field) => setSql(test, field),
  person: idSql,
  people: (test, field) => setSql(test, field),
  link: idSql,
  links: (test, field) => setSql(test, field),
  url: (test, field) => textSql(test, field),
  email: (test, field) => textSql(test, field),
} satisfies Record<FieldType, FilledSql>;

/** Ids and options compare exactly, spaces at their ends too. */
function oneOfSql(field: Field, values: string[]): StateSql {
  if (values.length === 0) return never;
  const [value, param] = scalar(field.id);
  return {
    sql: `CONVERT(${value} USING utf8mb4) COLLATE utf8mb4_nopad_bin IN (?)`,
    params: [param, values],
    isExact: true,
  };
}

function setSql({ op, value }: FieldTest, field: Field): StateSql {
  const members = membersOf(value as Value);
  const path = pathOf(field.id);
  const has = members.map(
    (member): StateSql => ({ sql: 'JSON_CONTAINS(i.fields, JSON_QUOTE(?), ?)', params: [member, path], isExact: true }),
  );
  if (op === 'includesAny') return joined(has, 'OR', never);
  if (op === 'contains' || op === 'includesAll') return joined(has, 'AND', all);
  // As a set: as many, and all of them. One that holds a member twice is judged again.
  return {
    ...joined(
      [...has, { sql: 'JSON_LENGTH(i.fields, ?) >= ?', params: [path, new Set(members).size], isExact: true }],
      'AND',
      all,
    ),
    isExact: false,
  };
}

/** Letters beyond Latin fold in ways of their own: such texts are judged again. */
const isPlain = (text: string) => [...text].every((sign) => sign <= '\u024f');

function textSql({ op, value, matchCase }: FieldTest, field: Field): StateSql {
  const [stored, param] = scalar(field.id);
  const text = (one: unknown) => (matchCase ? String(one).normalize('NFC') : foldCase(String(one)));
  const column = `CONVERT(${matchCase ? stored : `LOWER(${stored})`} USING utf8mb4) COLLATE utf8mb4_nopad_bin`;
  const values = (op === 'oneOf' ? (value as unknown[]) : [value]).map(text);
  const isExact = false;
  if (values.some((one) => !isPlain(one))) return unknown;
  if (op === 'is' || op === 'oneOf')
    return values.length === 0
      ? never
      : {
          sql: `(${column} IN (?) OR ${stored} REGEXP '[^\\\\x{0}-\\\\x{24F}]')`,
          params: [param, values, param],
          isExact,
        };
  const pattern = likeText(values[0] ?? '');
  const like = `${op === 'startsWith' ? '' : '%'}${pattern}${op === 'endsWith' ? '' : '%'}`;
  return {
    sql: `(${column} LIKE ? OR ${stored} REGEXP '[^\\\\x{0}-\\\\x{24F}]')`,
    params: [param, like, param],
    isExact,
  };
}

/** An amount as the database compares it: exactly, for as many digits as it holds. */
const DECIMAL = 'DECIMAL(65, 20)';
const isShort = (text: string) => /^-?\d{1,30}(\.\d{1,20})?$/.test(text);

function amountSql({ op, value }: FieldTest, field: Field): StateSql {
  const operands = (Array.isArray(value) ? value : [value]) as Value[];
  const amounts = operands.map((one) => (isMoney(one) ? one.amount : String(one)));
  if (!amounts.every(isShort)) return unknown;
  const [stored, param] = scalar(field.id, field.type === 'money' ? '.amount' : '');
  const column = `CAST(${stored} AS ${DECIMAL})`;
  const [low, high] = amounts;
  const compared = (sign: string, amount: string | undefined): StateSql => ({
    sql: `${column} ${sign} CAST(? AS ${DECIMAL})`,
    params: [param, amount ?? ''],
    isExact: true,
  });
  const signs: Partial<Record<FieldTest['op'], string>> = {
    is: '=',
    above: '>',
    atLeast: '>=',
    below: '<',
    atMost: '<=',
  };
  const held =
    op === 'between'
      ? joined([compared('>=', low), compared('<=', high)], 'AND', all)
      : compared(signs[op] ?? '=', low);
  // What is stored with more digits than the database compares is judged again.
  const parts = [
    {
      sql: `(${held.sql} OR LENGTH(${stored}) > 20 OR ${stored} REGEXP '[eE]')`,
      params: [...held.params, param, param],
      isExact: false,
    },
  ];
  if (field.type !== 'money') return joined(parts, 'AND', all);
  const currencies = [...new Set(operands.flatMap((one) => (isMoney(one) ? [one.currency] : [])))];
  if (currencies.length !== 1) return never;
  return joined(
    [
      ...parts,
      {
        sql: 'JSON_VALUE(i.fields, ?) = ?',
        params: [pathOf(field.id, '.currency'), currencies[0] ?? ''],
        isExact: true,
      },
    ],
    'AND',
    all,
  );
}

/** Days in one form are in order as texts are. */
function dateSql({ op, value }: FieldTest, field: Field, { zone, now }: Asking): StateSql {
  const [stored, param] = scalar(field.id);
  const compared = (sign: string, day: unknown): StateSql => ({
    sql: `${stored} ${sign} ?`,
    params: [param, String(day)],
    isExact: true,
  });
  const between = (low: unknown, high: unknown) => joined([compared('>=', low), compared('<=', high)], 'AND', all);
  if (op === 'withinNext' || op === 'withinLast') {
    const today = dateIn(now, zone);
    const end = addToDate(today, String(value), now, zone, op === 'withinNext' ? 1 : -1);
    return op === 'withinNext' ? between(today, end) : between(end, today);
  }
  if (op === 'between') return between(...(value as [string, string]));
  return compared({ is: '=', before: '<', after: '>' }[op as string] ?? '=', value);
}

/** How items stand in order by a field, empty ones last; options in the order of their list, people by name. */
export function orderSql(field: Field, isDown: boolean): Sql {
  const [value, param] = scalar(field.id, field.type === 'money' ? '.amount' : '');
  const blank = emptySql(field);
  const key = ORDER_KEYS[field.type](value, field);
  return {
    sql: `(${blank.sql}), ${key.sql} ${isDown ? 'DESC' : 'ASC'}`,
    params: [...blank.params, param, ...key.params],
  };
}

type OrderKey = (value: string, field: Field) => Sql;
const asText: OrderKey = (value) => ({ sql: `LOWER(${value})`, params: [] });
const asFigure: OrderKey = (value) => ({ sql: `CAST(${value} AS ${DECIMAL})`, params: [] });
const asListed: OrderKey = (value, { options }) =>
  options ? { sql: `FIELD(${value}, ?)`, params: [options] } : asText(value, { id: '', name: '', type: 'text' });

const ORDER_KEYS = {
  text: asText,
  longText: asText,
  number: asFigure,
  money: asFigure,
  boolean: asText,
  date: asText,
  dateTime: asText,
  choice: asListed,
  choices: asText,
  person: (value) => ({ sql: `(SELECT p.name FROM people p WHERE p.id = ${value})`, params: [] }),
  people: asText,
  link: asText,
  links: asText,
  url: asText,
  email: asText,
} satisfies Record<FieldType, OrderKey>;
