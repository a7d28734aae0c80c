import type { Instant } from '../../../core/time/index.ts';

/** What can be put into a statement's `?`; a list fills `IN (?)` or `VALUES ?`. */
export type Param = string | number | null | Buffer | Param[];

/** A statement before it meets a connection: text with `?` for each parameter; a list of parameters stands for `a, b, …`. */
export interface Statement {
  sql: string;
  params: Param[];
}

/** A row as the driver hands it out: by column, instants in ms since 1970, JSON as text. It stays within the store. */
export type Row = Record<string, unknown>;
/** Makes of a row what the application calls it. */
export type Decoder<T> = (row: Row) => T;

/** A statement that reads, with what a row of its answer is. */
export interface Query<T> extends Statement {
  decode: Decoder<T>;
}

/** Builds a {@link Statement}; with {@link select} the one place where text becomes SQL. */
export const query = (sql: string, ...params: Param[]): Statement => ({ sql, params });
/** Builds a {@link Query}. */
export const select = <T>(decode: Decoder<T>, sql: string, ...params: Param[]): Query<T> => ({ sql, params, decode });

/** A condition within a statement: text and its parameters. */
export interface Sql {
  sql: string;
  params: Param[];
}

/** An instant as the UTC text that DATETIME(3) columns take. */
export function sqlTime(instant: Instant): string {
  // What is written together mostly bears one instant.
  if (instant !== lastTime.instant)
    lastTime = { instant, text: new Date(instant).toISOString().slice(0, 23).replace('T', ' ') };
  return lastTime.text;
}
let lastTime = { instant: Number.NaN, text: '' };
/** The instant of such a text. Of every row that is read several are, so this goes by the platform's own reading of ISO 8601. */
export const fromSqlTime = (text: string): Instant => Date.parse(`${text.replace(' ', 'T')}Z`);

/** Reads a JSON column, which MariaDB hands out as text. */
export const fromJson = <T>(text: unknown): T => (typeof text === 'string' ? JSON.parse(text) : text) as T;

/** A text made fit for LIKE, where its own signs mean themselves; `%` around it is the caller's. */
export const likeText = (text: string): string => text.replace(/[\\%_]/g, '\\$&');

/** Decoders of single columns, by name; `nullable` ones give `null` where the column does. */
export const text =
  (column: string): Decoder<string> =>
  (row) =>
    String(row[column]);
/** Decodes a column of whole numbers or decimals. */
export const number =
  (column: string): Decoder<number> =>
  (row) =>
    Number(row[column]);
/** Decodes a column of 0 and 1. */
export const flag =
  (column: string): Decoder<boolean> =>
  (row) =>
    Number(row[column]) === 1;
/** A column of one of some words, as its ENUM has them. */
export const word =
  <W extends string>(column: string): Decoder<W> =>
  (row) =>
    row[column] as W;
/** Decodes a column of instants, kept in UTC to the millisecond. */
export const instant =
  (column: string): Decoder<Instant> =>
  (row) =>
    Number(row[column]);
/** Decodes a column of JSON that this store itself wrote. */
export const json =
  <T>(column: string): Decoder<T> =>
  (row) =>
    fromJson<T>(row[column]);
/** Decodes a column that may be empty. */
export const nullable =
  <T>(decoder: (column: string) => Decoder<T>) =>
  (column: string): Decoder<T | null> => {
    const decode = decoder(column);
    return (row) => (row[column] === null || row[column] === undefined ? null : decode(row));
  };

/** What a row is, part by part. */
export function record<T extends object>(parts: { [K in keyof T]: Decoder<T[K]> }): Decoder<T> {
  const entries = Object.entries(parts) as [string, Decoder<unknown>][];
  return (row) => {
    const made: Record<string, unknown> = {};
    for (const [name, decode] of entries) made[name] = decode(row);
    return made as T;
  };
}
