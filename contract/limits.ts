import { LONGEST_YEARS } from '../core/time/index.ts';
import { LONGEST_ADDRESS, LONGEST_LINE, LONGEST_TEXT } from '../core/values/index.ts';

/** Every bound on what people and programs hand in, in one place. */
export const LIMITS = {
  /** A duration, forwards or backwards, in years. */
  durationYears: LONGEST_YEARS,
  /** Lead times of one date. */
  leads: 20,
  /** Signs in a rule that is typed as a sentence; its messages may be in it. */
  sentence: 30_000,
  /** Groups within groups of a condition, or of selectors. */
  nesting: 12,
  /** How deep a document goes, brackets within brackets: the nesting of a condition takes two levels each. */
  depth: 40,
  /** Entries in one list. */
  list: 2000,
  /** Parts of a document altogether. */
  parts: 10_000,
  /** Faults that are told at once. */
  faults: 20,
  /** An address, in signs (RFC 5321, 4.5.3.1.3). */
  address: LONGEST_ADDRESS,
  /** A field's text, in signs: of one line, and of several. */
  line: LONGEST_LINE,
  text: LONGEST_TEXT,
  /** What a document holds, in bytes. */
  fileBytes: 50 * 1024 * 1024,
  /** A file that holds a table, in bytes; what an archive may unpack to, and of how many files; rows and columns. */
  tableBytes: 20 * 1024 * 1024,
  unpackedBytes: 200 * 1024 * 1024,
  archiveFiles: 2000,
  tableRows: 50_000,
  tableColumns: 200,
  /** Fields of one source. */
  sourceFields: 200,
  /** Why a version went live, in signs. */
  why: 500,
  /** A body that somebody signed in sends, in bytes, and one that anybody may send. */
  documentBytes: 256 * 1024,
  /** So many items are acted on at once. */
  actItems: 500,
  outsideBytes: 4096,
  formBytes: 64 * 1024,
  /** What another program hands in at once: bytes, and events in a batch. */
  doorBytes: 1024 * 1024,
  doorEvents: 500,
  /** A place in an event, in signs. */
  pointer: 300,
} as const;
